package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.files.LiveTree;
import org.sobercompass.sources.workspace.Workspace;

/**
 * The kernel decides: random lists on random trees, dozens of accounts, all eight combinations, and
 * real deleting, renaming, creating and changing of modes. Needs root and the package acl.
 */
class KernelTest {
  private static final int ACCOUNTS = 24;
  private static final int GROUPS = 8;
  private static final int PATHS = 170;
  private static final int FIRST_UID = 52_000;
  private static final int FIRST_GID = 53_000;

  @TempDir private Path folder;

  @Test
  void theKernelDecidesTheSame() throws Exception {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/setfacl")), "needs the package acl");
    assumeTrue(System.getProperty("user.name").equals("root"), "needs root");
    int decisions = 0;
    for (long seed : new long[] {11, 12}) {
      Path root = Files.createDirectories(folder.resolve("t" + seed));
      run("chmod", "755", folder.toString(), root.toString());
      World world = new World(new Random(seed), root);
      world.make();
      decisions += compare(world, seed);
    }
    System.out.println("The kernel and the lists agree on " + decisions + " decisions.");
    assertThat(decisions).isGreaterThan(80_000);
  }

  @Test
  void whatIsMadeInAFolderGetsTheListThatWasSaid() throws Exception {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/setfacl")), "needs the package acl");
    assumeTrue(System.getProperty("user.name").equals("root"), "needs root");
    Random random = new Random(3);
    List<Path> folders = new ArrayList<>();
    for (int i = 0; i < 40; i++) {
      Path made = Files.createDirectories(folder.resolve("m/d" + i));
      folders.add(made);
      if (i % 4 > 0) {
        String named = i % 2 == 0 ? "" : ",d:u:52001:" + may(random) + ",d:m::" + may(random);
        String list =
            "d:u::" + may(random) + ",d:g::" + may(random) + ",d:o::" + may(random) + named;
        run("setfacl", "-m", list, made.toString());
      }
    }
    Files.writeString(folder.resolve("host.getent"), "root:x:0:0::/:/\nroot:x:0:\n");
    Files.writeString(
        folder.resolve("compass.yaml"),
        "directories:\n  host: {kind: host, file: host.getent}\napplications: [s.yaml]\n");
    Files.writeString(folder.resolve("s.yaml"), "kind: posix-files\nid: s\nlists: t\nfolders: f\n");
    Files.writeString(folder.resolve("t"), run("getfacl", "-R", "-p", "-n", folder + "/m"));
    Files.writeString(folder.resolve("f"), run("find", folder + "/m", "-type", "d"));
    SystemView view = Workspace.open(folder).model().system("s").orElseThrow();
    for (Path made : folders) {
      int resource = view.resources().find(made.toString()).orElseThrow();
      List<String> said = view.system().made(resource);
      run("/bin/sh", "-c", "umask 022; touch " + made + "/f; mkdir " + made + "/g");
      assertThat(said.get(0)).isEqualTo("a new file: " + access(made.resolve("f")));
      assertThat(said.get(1)).isEqualTo("a new folder: " + access(made.resolve("g")));
    }
  }

  private static String may(Random random) {
    int bits = random.nextInt(8);
    return ((bits & 4) != 0 ? "r" : "-")
        + ((bits & 2) != 0 ? "w" : "-")
        + ((bits & 1) != 0 ? "x" : "-");
  }

  /** The access list of a path as the kernel has it, on one line. */
  private static String access(Path path) throws IOException, InterruptedException {
    return run("getfacl", "-c", "-p", "-n", "-E", path.toString())
        .lines()
        .filter(line -> !line.isBlank() && !line.startsWith("default:"))
        .collect(java.util.stream.Collectors.joining(", "));
  }

  /** A random tree with lists, and accounts. */
  private static final class World {
    final Random random;
    final Path root;
    final List<Path> paths = new ArrayList<>();
    final List<String> accounts = new ArrayList<>();
    final StringBuilder getent = new StringBuilder();
    int links;

    World(Random random, Path root) {
      this.random = random;
      this.root = root;
    }

    void make() throws IOException, InterruptedException {
      List<List<Integer>> groupsOf = new ArrayList<>();
      for (int a = 0; a < ACCOUNTS; a++) {
        List<Integer> groups = new ArrayList<>();
        for (int g = 0; g < GROUPS; g++) {
          if (random.nextInt(4) == 0) {
            groups.add(FIRST_GID + g);
          }
        }
        groupsOf.add(groups);
        int primary = FIRST_GID + random.nextInt(GROUPS);
        getent.append(String.format("a%d:x:%d:%d::/:/bin/sh%n", a, FIRST_UID + a, primary));
        String list = String.join(",", groups.stream().map(String::valueOf).toList());
        accounts.add("a" + a + ":" + (FIRST_UID + a) + ":" + primary + ":" + list);
      }
      getent.append("root:x:0:0::/root:/bin/sh\n");
      accounts.add("root:0:0:");
      for (int g = 0; g < GROUPS; g++) {
        List<String> members = new ArrayList<>();
        for (int a = 0; a < ACCOUNTS; a++) {
          if (groupsOf.get(a).contains(FIRST_GID + g)) {
            members.add("a" + a);
          }
        }
        getent.append("g" + g + ":x:" + (FIRST_GID + g) + ":" + String.join(",", members) + "\n");
      }
      tree();
    }

    private void tree() throws IOException, InterruptedException {
      Path top = Files.createDirectories(root.resolve("tree"));
      paths.add(top);
      List<Path> folders = new ArrayList<>(List.of(top));
      while (paths.size() < PATHS) {
        Path parent = folders.get(random.nextInt(folders.size()));
        // Names with blanks and backslashes come out of the tool as they went in.
        String name = paths.size() % 7 == 0 ? "p \\" + paths.size() + " x" : "p" + paths.size();
        Path made = parent.resolve(name);
        if (paths.size() % 11 == 0) {
          Files.createSymbolicLink(parent.resolve("link" + paths.size()), top);
          links++;
        }
        if (random.nextInt(3) == 0 && parent.getNameCount() < top.getNameCount() + 5) {
          folders.add(Files.createDirectory(made));
        } else {
          Files.createFile(made);
        }
        paths.add(made);
      }
      StringBuilder text = new StringBuilder();
      for (Path path : paths) {
        text.append(list(path)).append('\n');
      }
      Path lists = Files.writeString(root.resolve("lists"), text);
      run("setfacl", "--restore=" + lists);
    }

    private String list(Path path) {
      boolean folderHere = Files.isDirectory(path);
      String name = path.toString().replace("\\", "\\134");
      StringBuilder text = new StringBuilder("# file: " + name + "\n");
      text.append("# owner: " + (FIRST_UID + random.nextInt(ACCOUNTS)) + "\n");
      text.append("# group: " + (FIRST_GID + random.nextInt(GROUPS)) + "\n");
      if (random.nextInt(5) == 0) {
        text.append("# flags: -" + (random.nextBoolean() ? "s" : "-") + (folderHere ? "t" : "-"));
        text.append('\n');
      }
      text.append("user::" + may(folderHere) + "\n");
      int named = random.nextInt(3) == 0 ? 0 : random.nextInt(6);
      for (int i = 0; i < named; i++) {
        text.append(
            i % 2 == 0
                ? "user:" + (FIRST_UID + (i * 7 + named) % ACCOUNTS) + ":" + may(folderHere)
                : "group:" + (FIRST_GID + (i + named) % GROUPS) + ":" + may(folderHere));
        text.append('\n');
      }
      text.append("group::" + may(folderHere) + "\n");
      if (named > 0 || random.nextInt(4) == 0) {
        text.append("mask::" + (random.nextInt(6) == 0 ? "---" : may(folderHere)) + "\n");
      }
      return text.append("other::" + may(folderHere) + "\n").toString();
    }

    /** Folders mostly let pass, so that what is in them is worth asking about. */
    private String may(boolean folderHere) {
      int bits = random.nextInt(8) | (folderHere && random.nextInt(6) > 0 ? 1 : 0);
      return ((bits & 4) != 0 ? "r" : "-")
          + ((bits & 2) != 0 ? "w" : "-")
          + ((bits & 1) != 0 ? "x" : "-");
    }
  }

  private static int compare(World world, long seed) throws IOException, InterruptedException {
    Path space = Files.createDirectories(world.root.resolve("workspace"));
    Files.writeString(space.resolve("host.getent"), world.getent);
    Files.writeString(
        space.resolve("compass.yaml"),
        "directories:\n  host: {kind: host, file: host.getent}\napplications: [store.yaml]\n");
    Files.writeString(
        space.resolve("store.yaml"),
        "kind: posix-files\nid: store\nlists: [above.getfacl, tree.getfacl]\n"
            + "folders: folders.txt\n");
    StringBuilder above = new StringBuilder();
    for (Path at = world.root; at != null; at = at.getParent()) {
      above.append(run("getfacl", "-p", "-n", at.toString()));
    }
    Files.writeString(space.resolve("above.getfacl"), above);
    Files.writeString(
        space.resolve("tree.getfacl"),
        run("getfacl", "-R", "-p", "-n", world.paths.get(0).toString()));
    Files.writeString(
        space.resolve("folders.txt"), run("find", world.paths.get(0).toString(), "-type", "d"));
    List<AccessModel> models = new ArrayList<>(List.of(Workspace.open(space).model()));
    // The same by our own collector, which marks folders itself; and by modes alone, of which only
    // what is said for certain can be wrong.
    Files.writeString(
        space.resolve("store.yaml"), "kind: posix-files\nid: store\nlists: collected\n");
    Path top = world.paths.get(0);
    for (Optional<Path> tool : List.of(LiveTree.tool(), Optional.<Path>empty())) {
      LiveTree.Collected collected = LiveTree.collect(top, space.resolve("collected"), tool);
      assertThat(collected.links()).isEqualTo(world.links);
      assertThat(collected.unread()).isZero();
      models.add(Workspace.open(space).model());
    }
    Path paths = world.root.resolve("paths");
    Files.write(paths, world.paths.stream().map(Path::toString).toList());
    Path accounts = Files.write(world.root.resolve("accounts"), world.accounts);
    Path script = world.root.resolve("posix.py");
    try (var in = KernelTest.class.getResourceAsStream("posix.py")) {
      Files.write(script, in.readAllBytes());
    }
    String answers =
        run(
            "/usr/bin/python3",
            script.toString(),
            paths.toString(),
            accounts.toString(),
            world.root.toString());
    int decisions = 0;
    List<String> different = new ArrayList<>();
    for (int m = 0; m < models.size(); m++) {
      Asker asker = models.get(m).asker();
      for (String line : answers.split("\n")) {
        decisions += check(models.get(m), asker, world, line, m == 2, different);
      }
      assertThat(different).as("seed %d, model %d", seed, m).isEmpty();
    }
    return decisions;
  }

  private static int check(
      AccessModel model,
      Asker asker,
      World world,
      String line,
      boolean modesOnly,
      List<String> different) {
    String[] parts = line.split(" ");
    SystemView view = model.system("store").orElseThrow();
    int account = NameResolver.find(model.facts(), SubjectKind.ACCOUNT, parts[0]).get(0);
    Path path = world.paths.get(Integer.parseInt(parts[1]));
    int resource = view.resources().find(path.toString().replace("\\", "\\134")).orElseThrow();
    int decisions = 0;
    for (int i = 0; i < parts[2].length(); i++) {
      if (parts[2].charAt(i) != '-') {
        Question question = new Question(resource, rights(view, i));
        Verdict said = asker.decide(view, account, question);
        if (modesOnly && said == Verdict.UNDECIDED) {
          continue;
        }
        boolean known = said == Verdict.YES;
        boolean seen = parts[2].charAt(i) == '1';
        if (known != seen) {
          different.add(parts[0] + " " + path + " question " + i + ": the kernel says " + seen);
        }
        decisions++;
      }
    }
    return decisions;
  }

  /** What the answers stand for: eight combinations, delete, change-permissions, create. */
  private static int[] rights(SystemView view, int question) {
    List<String> names = new ArrayList<>();
    if (question < 8) {
      if ((question & 4) != 0) {
        names.add("read");
      }
      if ((question & 2) != 0) {
        names.add("write");
      }
      if ((question & 1) != 0) {
        names.add("execute");
      }
    } else {
      names.add(List.of("delete", "change-permissions", "create").get(question - 8));
    }
    return names.stream().mapToInt(n -> view.rights().find(n).orElseThrow()).toArray();
  }

  private static String run(String... command) throws IOException, InterruptedException {
    ProcessBuilder builder = new ProcessBuilder(command);
    builder.redirectError(ProcessBuilder.Redirect.INHERIT);
    Process process = builder.start();
    String out =
        new String(
            process.getInputStream().readAllBytes(), java.nio.charset.StandardCharsets.UTF_8);
    boolean ended = process.waitFor(300, TimeUnit.SECONDS);
    assertThat(ended && process.exitValue() == 0).as(String.join(" ", command)).isTrue();
    return out;
  }
}
