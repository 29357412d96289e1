package org.sobercompass.bench;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.sources.workspace.Workspace;

/**
 * Measures files and databases: {@code ListYardstick files [PATHS]} makes up a host of 100,000
 * users and a tree with some 20,000 distinct lists; {@code ListYardstick database WORKSPACE} sweeps
 * what was collected of one.
 */
public final class ListYardstick {
  private static final int ACCOUNTS = 100_000;
  private static final int GROUPS = 5_000;

  private final Random random = new Random(9);

  private ListYardstick() {}

  /** Runs it. */
  public static void main(String[] args) throws IOException {
    if (args.length > 1 && args[0].equals("database")) {
      database(Path.of(args[1]));
    } else {
      new ListYardstick().files(args.length > 1 ? Integer.parseInt(args[1]) : 1_000_000);
    }
  }

  private static double since(long begin) {
    return (System.nanoTime() - begin) / 1e6;
  }

  private static void told(String what, double millis) {
    System.out.printf("%-64s %10.1f ms%n", what, millis);
  }

  private void files(int paths) throws IOException {
    Path folder = Files.createTempDirectory("sober-lists");
    host(folder.resolve("host.getent"));
    new FileTree(random, ACCOUNTS, GROUPS, "u").write(folder.resolve("tree.getfacl"), paths);
    Path main = folder.resolve("compass.yaml");
    String directory = "directories:\n  host: {kind: host, file: host.getent}\n";
    Files.writeString(
        folder.resolve("store.yaml"), "kind: posix-files\nid: store\nlists: tree.getfacl\n");
    Files.writeString(main, directory + "applications: [store.yaml]\n");
    Workspace.open(folder);
    Files.writeString(main, directory);
    long bare = System.nanoTime();
    Workspace.open(folder);
    double without = since(bare);
    Files.writeString(main, directory + "applications: [store.yaml]\n");
    long begin = System.nanoTime();
    Workspace workspace = Workspace.open(folder);
    double reading = since(begin) - without;
    told(
        "read " + paths + " paths, " + Files.size(folder.resolve("tree.getfacl")) + " bytes",
        reading);
    System.out.printf("  that is %,.0f paths a second%n", paths / reading * 1000);
    AccessModel model = workspace.model();
    for (int run = 0; run < 3; run++) {
      ask(model);
    }
    System.gc();
    Runtime runtime = Runtime.getRuntime();
    System.out.println(
        "in use: " + ((runtime.totalMemory() - runtime.freeMemory()) >> 20) + " MiB");
    if (workspace.problems().size() > 5) {
      throw new IllegalStateException(workspace.problems().toString());
    }
  }

  private static void ask(AccessModel model) {
    SystemView view = model.systems().get(0);
    int write = view.rights().find("write").orElseThrow();
    Random random = new Random(4);
    Holders holders = new Holders(model.asker());
    int asked = 20;
    long found = 0;
    long begin = System.nanoTime();
    for (int i = 0; i < asked; i++) {
      found += holders.find(view, write, random.nextInt(view.resources().size()), false).size();
    }
    told("who can write here, each of " + asked + " (" + found + " in all)", since(begin) / asked);
    Asker asker = model.asker();
    begin = System.nanoTime();
    long held = 0;
    for (int i = 0; i < 5; i++) {
      held += asker.holdings(view, random.nextInt(model.facts().accounts())).size();
    }
    told("one account's resources, each of 5 (" + held + " lines in all)", since(begin) / 5);
    begin = System.nanoTime();
    Memberships.Walker walker = view.memberships().walker();
    long remarks =
        view.system()
            .remarks(
                0,
                subject -> {
                  SubjectSet all = new SubjectSet();
                  walker.subjects(subject, all);
                  return all;
                })
            .size();
    told("writable by everyone and all other remarks (" + remarks + ")", since(begin));
  }

  private void host(Path file) throws IOException {
    List<StringBuilder> members = new ArrayList<>();
    for (int g = 0; g < GROUPS; g++) {
      members.add(new StringBuilder());
    }
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      for (int a = 0; a < ACCOUNTS; a++) {
        out.write("u" + a + ":x:" + (10_000 + a) + ":" + (10_000 + a % GROUPS) + "::/:/bin/sh\n");
        for (int i = 0; i < 8; i++) {
          members.get(random.nextInt(GROUPS)).append(",u").append(a);
        }
      }
      out.write("root:x:0:0::/root:/bin/sh\n");
      for (int g = 0; g < GROUPS; g++) {
        String list = members.get(g).isEmpty() ? "" : members.get(g).substring(1);
        out.write("g" + g + ":x:" + (10_000 + g) + ":" + list + "\n");
      }
    }
  }

  private static void database(Path folder) {
    long begin = System.nanoTime();
    Workspace workspace = Workspace.open(folder);
    told("read the collection", since(begin));
    AccessModel model = workspace.model();
    SystemView view = model.systems().get(0);
    for (int run = 0; run < 3; run++) {
      long[] rights = new long[1];
      long[] cells = new long[1];
      begin = System.nanoTime();
      Asker asker = model.asker();
      for (int account = 0; account < model.facts().accounts(); account++) {
        view.decider()
            .sweep(
                asker.projected(view, account),
                (resource, below, count, yes, perhaps) -> {
                  rights[0] += (long) Long.bitCount(yes[0]) * count;
                  cells[0]++;
                });
      }
      told(
          "swept "
              + model.facts().accounts()
              + " accounts over "
              + view.resources().size()
              + " objects: "
              + rights[0]
              + " rights",
          since(begin));
    }
  }
}
