package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.TargetKind;

/** Entries are taken out of real lists of files, and put back; the kernel decides in between. */
class KernelAmendmentTest {
  private static final int FIRST_UID = 52_100;

  private static final TargetKind.Door DOOR =
      new TargetKind.Door("s", "/", Optional.empty(), Optional.empty(), true, Optional.empty());

  @TempDir private Path folder;

  private static String run(String... command) throws IOException, InterruptedException {
    return Slapd.run(List.of(command));
  }

  /** A tree with names that need care, and a workspace beside it. */
  private Path tree(Random random) throws IOException, InterruptedException {
    Path tree = Files.createDirectories(folder.resolve("tree"));
    run("chmod", "755", folder.toString(), tree.toString());
    for (String name : List.of("plain", "with space", "back\\slash", "ümlaut", "a=b #c")) {
      Path made = Files.createDirectory(tree.resolve(name));
      Path file = Files.writeString(made.resolve("f"), "x");
      for (Path path : List.of(made, file)) {
        // With set-group-id or sticky, which a list that is restored must not lose.
        String special = List.of("", "1", "2", "6").get(random.nextInt(4));
        run("chmod", special + "750", path.toString());
        run("setfacl", "-m", "u:" + FIRST_UID + ":rwx,u:" + (FIRST_UID + 1) + ":r-x", path + "");
        run("setfacl", "-m", "g:" + FIRST_UID + ":r-x", path.toString());
        if (random.nextBoolean()) {
          run("setfacl", "-m", "m::r--", path.toString());
        }
      }
      run("setfacl", "-m", "d:u:" + FIRST_UID + ":rwx", made.toString());
    }
    StringBuilder getent = new StringBuilder("root:x:0:0::/:/\n");
    for (int i = 0; i < 3; i++) {
      getent.append("a" + i + ":x:" + (FIRST_UID + i) + ":" + FIRST_UID + "::/:/bin/sh\n");
    }
    Files.writeString(
        folder.resolve("host.getent"), getent + "root:x:0:\nteam:x:" + FIRST_UID + ":a2\n");
    Files.writeString(
        folder.resolve("compass.yaml"),
        "directories:\n  host: {kind: host, file: host.getent}\napplications: [s.yaml]\n");
    Files.writeString(
        folder.resolve("s.yaml"), "kind: posix-files\nid: s\nlists: t\nabove: open\n");
    return tree;
  }

  private Organization read(Path tree, String numbers) throws IOException, InterruptedException {
    Files.writeString(folder.resolve("t"), run("getfacl", "-R", "-p", numbers, tree.toString()));
    return Organization.open(folder);
  }

  /** Whether the kernel lets an account read, or enter. */
  private static boolean kernelLets(int account, String letter, Path path)
      throws IOException, InterruptedException {
    Process process =
        new ProcessBuilder(
                "setpriv",
                "--reuid=" + (FIRST_UID + account),
                "--regid=" + FIRST_UID,
                "--clear-groups",
                "test",
                "-" + letter,
                path.toString())
            .start();
    return process.waitFor() == 0;
  }

  private static void assertDecidesAsTheKernel(Organization now, Path tree) throws Exception {
    SystemView view = now.model().system("s").orElseThrow();
    try (var paths = Files.walk(tree)) {
      for (Path path : paths.toList()) {
        String id = path.toString().replace("\\", "\\134");
        int resource = view.resources().find(id).orElseThrow();
        int read = view.rights().find("read").orElseThrow();
        for (int account = 0; account < 3; account++) {
          int number = now.names().account("a" + account);
          boolean ours =
              now.model().asker().decide(view, number, Question.of(resource, read)) == Verdict.YES;
          assertThat(ours)
              .as("a" + account + " reads " + path)
              .isEqualTo(kernelLets(account, "r", path));
        }
      }
    }
  }

  /** Entries that give something, and can go. */
  private static List<Change> random(Organization before, Path tree, Random random) {
    SystemView view = before.model().system("s").orElseThrow();
    List<Change> changes = new ArrayList<>();
    for (int g = 0; g < view.grants().size(); g++) {
      boolean some = view.system().entry(g).isPresent() && random.nextInt(4) == 0;
      boolean gives = view.grants().get(g).role() >= 0 && !gives(view, g).equals("nothing");
      boolean below = view.resources().id(view.grants().get(g).resource()).startsWith(tree + "/");
      if (some && gives && below && view.system().isRemovable(g, view.basis())) {
        changes.add(new Change.AssignmentRemoved(view.number(), g));
      }
    }
    return changes;
  }

  @Test
  void entriesAreTakenOutAndPutBackAndTheKernelAgrees() throws Exception {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/setfacl")), "needs the package acl");
    assumeTrue(System.getProperty("user.name").equals("root"), "needs root");
    Random random = new Random(8);
    Path tree = tree(random);
    for (int round = 0; round < 8; round++) {
      Organization before = read(tree, round % 2 == 0 ? "-n" : "-e");
      String all = run("getfacl", "-R", "-p", tree.toString());
      assertDecidesAsTheKernel(before, tree);
      List<Change> changes = random(before, tree, random);
      Proposal proposal = Proposal.of("", before.assessment().model(), changes);
      Amended amended = Amended.of(before, proposal, folder.resolve("a" + round), DOOR, "");
      Work work = amended.carryOut();
      assertThat(work.isWhole()).as(work.toString()).isTrue();
      Organization after = read(tree, "-n");
      assertDecidesAsTheKernel(after, tree);
      assertThat(holders(after)).isEqualTo(holders(before.model().with(changes)));
      assertThat(amended.undo().isWhole()).isTrue();
      assertThat(run("getfacl", "-R", "-p", tree.toString())).isEqualTo(all);
    }
  }

  private static String gives(SystemView view, int grant) {
    return view.system().roles().get(view.grants().get(grant).role()).name();
  }

  private static List<String> holders(Organization of) {
    return holders(of.model());
  }

  /** Who can do what where, by names. */
  private static List<String> holders(org.sobercompass.core.access.AccessModel model) {
    List<String> all = new ArrayList<>();
    SystemView view = model.system("s").orElseThrow();
    for (int account = 0; account < model.facts().accounts(); account++) {
      for (int r = 0; r < view.resources().size(); r++) {
        for (int right = 0; right < view.rights().size(); right++) {
          Verdict verdict = model.asker().decide(view, account, Question.of(r, right));
          all.add(
              model.facts().login(account)
                  + " "
                  + view.resources().id(r)
                  + " "
                  + view.rights().text(right)
                  + " "
                  + verdict);
        }
      }
    }
    all.sort(null);
    return all;
  }

  /** Rights that are given to users and groups, at some paths and below some. */
  private static Proposal given(Organization before, Path tree, Random random) {
    SystemView view = before.model().system("s").orElseThrow();
    List<Step> steps = new ArrayList<>();
    Set<Integer> done = new HashSet<>();
    for (int r = 0; r < view.resources().size(); r++) {
      String id = view.resources().id(r);
      if (id.startsWith(tree + "/") && random.nextInt(2) == 0) {
        boolean group = random.nextInt(3) == 0;
        int who =
            group ? before.names().group("team") : before.names().account("a" + random.nextInt(3));
        boolean below = random.nextInt(4) == 0;
        List<Integer> rights = List.of(random.nextInt(4), random.nextInt(4));
        for (ListWish.Edit edit : view.system().giving(new ListWish(who, r, rights, below))) {
          done.add(edit.resource());
          String at = view.resources().id(edit.resource());
          steps.add(new Step.ListItem("s", at, edit.text(), edit.added()));
        }
        r = below ? view.resources().end(r) - 1 : r;
      }
    }
    assertThat(done).isNotEmpty();
    return new Proposal("", steps);
  }

  @Test
  void rightsAreGivenAndTakenBackAndTheKernelAgrees() throws Exception {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/setfacl")), "needs the package acl");
    assumeTrue(System.getProperty("user.name").equals("root"), "needs root");
    Random random = new Random(14);
    Path tree = tree(random);
    int others = 0;
    for (int round = 0; round < 8; round++) {
      Organization before = read(tree, round % 2 == 0 ? "-n" : "-e");
      String all = run("getfacl", "-R", "-p", tree.toString());
      Proposal proposal = given(before, tree, random);
      List<Change> changes = proposal.on(before.assessment().model()).changes();
      Amended amended = Amended.of(before, proposal, folder.resolve("g" + round), DOOR, "");
      Work work = amended.carryOut();
      assertThat(work.isWhole()).as(work.failed() + work.stopped()).isTrue();
      Organization after = read(tree, "-n");
      assertDecidesAsTheKernel(after, tree);
      assertThat(holders(after)).isEqualTo(holders(before.model().with(changes)));
      others += holders(after).equals(holders(before)) ? 0 : 1;
      assertThat(amended.undo().isWhole()).isTrue();
      assertThat(run("getfacl", "-R", "-p", tree.toString())).isEqualTo(all);
    }
    assertThat(others).as("rounds in which somebody gained something").isGreaterThan(5);
  }

  @Test
  void aListThatSomebodyElseChangedIsLeftAlone() throws Exception {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/setfacl")), "needs the package acl");
    assumeTrue(System.getProperty("user.name").equals("root"), "needs root");
    Path tree = tree(new Random(1));
    Organization before = read(tree, "-n");
    SystemView view = before.model().system("s").orElseThrow();
    int resource = view.resources().find(tree + "/plain").orElseThrow();
    int grant = -1;
    for (int g = 0; g < view.grants().size(); g++) {
      boolean named = view.grants().get(g).subjectText().equals("a0");
      grant = named && view.grants().get(g).resource() == resource ? g : grant;
    }
    Proposal proposal =
        Proposal.of(
            "",
            before.assessment().model(),
            List.of(new Change.AssignmentRemoved(view.number(), grant)));
    Amended amended = Amended.of(before, proposal, folder.resolve("a"), DOOR, "");
    run("setfacl", "-m", "u:" + (FIRST_UID + 2) + ":r", tree.resolve("plain").toString());
    String changed = run("getfacl", "-R", "-p", tree.toString());
    assertThat(amended.carryOut().failed().get(0).why())
        .contains("user:" + (FIRST_UID + 2) + ":r--");
    assertThat(run("getfacl", "-R", "-p", tree.toString())).isEqualTo(changed);
  }

  @Test
  void killedAtAnyPointItGoesOn() throws Exception {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/setfacl")), "needs the package acl");
    assumeTrue(System.getProperty("user.name").equals("root"), "needs root");
    Random random = new Random(51);
    Path tree = tree(random);
    int killed = 0;
    int ended = 0;
    while (killed < Amended.KILLS) {
      Organization before = read(tree, "-n");
      String all = run("getfacl", "-R", "-p", tree.toString());
      List<Change> changes = random(before, tree, random);
      Proposal proposal = Proposal.of("", before.assessment().model(), changes);
      Amended amended = Amended.of(before, proposal, folder.resolve("k" + ended), DOOR, "");
      killed += amended.killed(false, random);
      assertThat(holders(read(tree, "-n"))).isEqualTo(holders(before.model().with(changes)));
      killed += amended.killed(true, random);
      assertThat(run("getfacl", "-R", "-p", tree.toString())).isEqualTo(all);
      ended += 2;
    }
    System.out.println(
        "Lists of files: killed " + killed + " times, " + ended + " times whole in the end.");
  }
}
