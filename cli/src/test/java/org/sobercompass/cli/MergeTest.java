package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.sources.amendment.AmendmentFolder;

/**
 * The society of the demo is merged into the trust, from matching to an empty difference: its
 * directory and the trust's are live servers, the files of its host stand in a real tree in which
 * the kernel decides, its ledger is a file of the workspace. Then all of it is taken back.
 */
class MergeTest {
  private static final Map<String, String> SUFFIXES =
      Map.of("alderfen", "dc=alderfen,dc=example", "fernhollow", "dc=fernhollow,dc=example");
  private static final Map<String, String> PAIRS =
      Map.of(
          "ibrandt", "ilse.brandt",
          "bgarnet", "bea.garnet",
          "emoor", "zeb.sedge",
          "rholm", "rhea.jarrow",
          "mhollis", "max.hollis");

  @TempDir Path folder;
  private Path demo;

  private SoberTest.Said sober(String... words) {
    List<String> all = new ArrayList<>(List.of(words));
    all.addAll(List.of("-w", demo.toString()));
    return SoberTest.sober(all.toArray(String[]::new));
  }

  private static String row(String table, String from) {
    return table
        .lines()
        .filter(line -> line.startsWith("account," + from + ","))
        .reduce("", (a, b) -> a + b + "\n");
  }

  /** Each trap that was planted is told for what it is. */
  @Test
  void theTrapsAreCaught() {
    demo = folder.resolve("demo");
    DemoFiles.write(demo);
    String table = sober("match", "fernhollow", "alderfen", "-f", "csv").out();
    assertThat(row(table, "bgarnet")).contains("bea.garnet").contains(",certain,");
    // A number, and a name that she has no more.
    assertThat(row(table, "rholm")).contains("rhea.jarrow").contains(",likely,");
    // Two people of one name: another number.
    assertThat(row(table, "nfarrow")).contains(",none,").contains("another mobile");
    // A number that somebody else has now.
    assertThat(row(table, "ofell")).contains(",none,").contains("nothing in common");
    // One person twice.
    assertThat(row(table, "mhollis")).contains(",ambiguous,").contains("maxh");
    assertThat(row(table, "maxh")).contains(",ambiguous,").contains("mhollis");
    // A service with the name and number of who set it up.
    assertThat(row(table, "label-printer")).contains(",none,").contains("another nature");
    // A mailbox that many share is no evidence.
    assertThat(row(table, "cwhitlow")).contains(",none,").contains("nobody is like it");
    assertThat(sober("match").out()).contains("1 value of mail counts as no evidence");
    // One who left: matched, and her counterpart could not use what she gets.
    accept();
    SoberTest.Said carried = sober("carry");
    assertThat(carried.out().replaceAll("\\s+", " "))
        .contains("Petra Vance")
        .contains("less")
        .contains("nobody else gains or loses anything");
  }

  private void accept() {
    assertThat(sober("match", "--accept", "certain", "--as", "Ilse Brandt").code()).isZero();
    SoberTest.Said said =
        sober(
            "match",
            "--accept",
            "rholm=rhea.jarrow",
            "--accept",
            "mhollis=max.hollis",
            "--accept",
            "group committee=group fernhollow-committee",
            "--never",
            "nfarrow=nils.farrow",
            "--as",
            "Ilse Brandt");
    assertThat(said.code()).as(said.err()).isZero();
  }

  @Test
  void fromMatchingToAnEmptyDifferenceAndBack() throws Exception {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/setfacl")), "needs the package acl");
    assumeTrue(System.getProperty("user.name").equals("root"), "needs root");
    demo = folder.resolve("demo");
    DemoFiles.write(demo);
    RealHost host = new RealHost(demo, folder.resolve("host"));
    host.collect();
    try (LiveDemo live = new LiveDemo(demo, folder, SUFFIXES)) {
      String lists = host.lists();
      Map<String, byte[]> files = files();
      accept();
      for (String how : List.of("beside", "instead")) {
        Map<String, List<String>> could = host.decisions(PAIRS.keySet());
        Path proposal = folder.resolve(how + ".yaml");
        SoberTest.Said carried = sober("carry", "--how", how, "--keep", proposal.toString());
        assertThat(carried.code()).as(carried.err()).isZero();
        Path amendment = folder.resolve("amendment-" + how);
        SoberTest.Said amended = sober("amend", proposal.toString(), "--out", amendment.toString());
        assertThat(amended.code()).as(amended.err() + amended.out()).isZero();
        work(live, host, amendment, false);
        read(live, host);

        Map<String, List<String>> can = host.decisions(PAIRS.values());
        PAIRS.forEach(
            (from, to) -> assertThat(can.get(to)).as(how + ": " + to).containsAll(could.get(from)));
        SoberTest.Said again = sober("carry", "--how", how);
        assertThat(again.out())
            .as(
                sober("carry", "--how", how, "--keep", folder + "/again.yaml").out()
                    + Files.readString(folder.resolve("again.yaml")))
            .contains("Both sides are in step");
        assertThat(sober("read-back", amendment.toString()).code()).isZero();

        work(live, host, amendment, true);
        read(live, host);
        assertThat(host.lists()).isEqualTo(lists);
        assertThat(live.isAsBefore()).isTrue();
        files.forEach((name, bytes) -> assertThat(demo.resolve(name)).hasBinaryContent(bytes));
        Files.delete(demo.resolve("crosswalks/fernhollow-alderfen.carried.csv"));
      }
    }
  }

  /** The files of the workspace that are changed when rights are carried. */
  private Map<String, byte[]> files() throws IOException {
    Map<String, byte[]> all = new HashMap<>();
    for (String name : List.of("assignments/ledger.csv", "registers/rounds.csv")) {
      all.put(name, Files.readAllBytes(demo.resolve(name)));
    }
    return all;
  }

  private void work(LiveDemo live, RealHost host, Path amendment, boolean undo) {
    AmendmentFolder read = AmendmentFolder.read(amendment);
    List<Amendment.Target> targets = new ArrayList<>(read.amendment().targets());
    for (Amendment.Target target : targets) {
      Path where = target.name().equals("fernstore") ? host.root() : demo;
      var work = live.work(read, target.name(), where, undo);
      assertThat(work.isWhole()).as(target.name() + " " + work.failed()).isTrue();
    }
  }

  private void read(LiveDemo live, RealHost host) throws Exception {
    for (String directory : SUFFIXES.keySet()) {
      live.export(directory, demo);
    }
    host.collect();
  }

  /** The society's file host as a real tree: owners, groups and entries by their numbers. */
  private static final class RealHost {
    private static final Pattern NAMED =
        Pattern.compile("((?:default:)?(user|group):)([^:]+)(:.*)");

    private final Path demo;
    private final Path root;
    private final Map<String, String> users = new HashMap<>(Map.of("root", "0"));
    private final Map<String, String> groups = new HashMap<>(Map.of("root", "0"));
    private final Map<String, String> primary = new HashMap<>();
    private final List<String> paths = new ArrayList<>();

    RealHost(Path demo, Path root) throws Exception {
      this.demo = demo;
      this.root = root;
      numbers("fernhollow");
      numbers("alderfen");
      Files.createDirectories(root);
      StringBuilder restore = new StringBuilder();
      String path = "";
      for (String line : Files.readAllLines(demo.resolve("files/fernstore.getfacl"))) {
        if (line.startsWith("# file: ")) {
          path = line.substring("# file: ".length());
          paths.add(path);
          make(path);
          line = "# file: " + (path.equals("/") ? "" + root : root + path);
        }
        restore.append(numbered(line)).append("\n");
      }
      run(restore.toString(), "setfacl", "--restore=-");
      // Whoever decides must get there, through the folders of the test.
      for (Path above = root;
          above != null && above.startsWith("/tmp");
          above = above.getParent()) {
        run("", "chmod", "o+x", above.toString());
      }
    }

    private void make(String path) throws IOException {
      Path made = Path.of(root + path);
      if (path.lastIndexOf('.') > path.lastIndexOf('/')) {
        Files.writeString(made, "x");
      } else {
        Files.createDirectories(made);
      }
    }

    private void numbers(String directory) throws Exception {
      for (var entry : LiveDemo.entries(LiveDemo.export(demo, directory))) {
        String uid = entry.getAttributeValue("uidNumber");
        String gid = entry.getAttributeValue("gidNumber");
        if (uid != null) {
          users.put(entry.getAttributeValue("uid"), uid);
          primary.put(entry.getAttributeValue("uid"), gid);
        } else if (gid != null) {
          groups.put(entry.getAttributeValue("cn"), gid);
        }
      }
    }

    private String numbered(String line) {
      Matcher named = NAMED.matcher(line);
      if (named.matches()) {
        Map<String, String> of = named.group(2).equals("user") ? users : groups;
        return named.group(1) + of.getOrDefault(named.group(3), named.group(3)) + named.group(4);
      }
      for (String owner : List.of("# owner: ", "# group: ")) {
        if (line.startsWith(owner)) {
          Map<String, String> of = owner.contains("owner") ? users : groups;
          return owner + of.get(line.substring(owner.length()));
        }
      }
      return line;
    }

    Path root() {
      return root;
    }

    String lists() throws Exception {
      StringBuilder all = new StringBuilder();
      for (String path : paths) {
        String full = path.equals("/") ? root.toString() : root + path;
        all.append(run("", "getfacl", "-pEn", full).replace("# file: " + full, "# file: " + path));
      }
      return all.toString();
    }

    void collect() throws Exception {
      Files.writeString(demo.resolve("files/fernstore.getfacl"), lists());
    }

    /** What each account can read, write and enter, by the kernel's word. */
    Map<String, List<String>> decisions(Iterable<String> accounts) throws Exception {
      Map<String, List<String>> all = new TreeMap<>();
      for (String account : accounts) {
        List<String> can = new ArrayList<>();
        for (String path : paths) {
          for (String letter : List.of("r", "w", "x")) {
            List<String> command = new ArrayList<>();
            command.addAll(
                List.of(
                    "setpriv",
                    "--reuid=" + users.get(account),
                    "--regid=" + primary.get(account),
                    "--groups=" + String.join(",", memberships(account)),
                    "test",
                    "-" + letter,
                    path.equals("/") ? root.toString() : root + path));
            if (new ProcessBuilder(command).start().waitFor() == 0) {
              can.add(letter + " " + path);
            }
          }
        }
        all.put(account, can);
      }
      return all;
    }

    /** The numbers of the groups that an account is in, by what the exports say now. */
    private List<String> memberships(String account) throws Exception {
      Map<String, String> all = new LinkedHashMap<>();
      all.put(primary.get(account), "");
      for (String directory : SUFFIXES.keySet()) {
        for (var entry : LiveDemo.entries(LiveDemo.export(demo, directory))) {
          String gid = entry.getAttributeValue("gidNumber");
          boolean listed =
              entry.hasAttributeValue("memberUid", account)
                  || entry.hasAttribute("member")
                      && List.of(entry.getAttributeValues("member")).stream()
                          .anyMatch(dn -> dn.startsWith("uid=" + account + ","));
          if (gid != null && listed) {
            all.put(gid, "");
          }
        }
      }
      return List.copyOf(all.keySet());
    }

    private static String run(String in, String... command) throws Exception {
      Process process = new ProcessBuilder(command).start();
      process.getOutputStream().write(in.getBytes(StandardCharsets.UTF_8));
      process.getOutputStream().close();
      String out = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      String err = new String(process.getErrorStream().readAllBytes(), StandardCharsets.UTF_8);
      assertThat(process.waitFor()).as(List.of(command) + err).isZero();
      return out;
    }
  }
}
