package org.sobercompass.sources.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.workspace.Workspace;

/** Files with lists, as a workspace reads them: what is right, and what is wrong with its place. */
class ListFilesTest {
  @TempDir private Path root;

  @BeforeEach
  void write() throws IOException {
    put(
        "host.getent",
        """
        root:x:0:0:root:/root:/bin/sh
        ilse:x:1001:100:Ilse Brandt,,,:/home/ilse:/bin/sh
        dag:x:1002:100::/home/dag:/bin/sh
        elin:x:1003:100::/home/elin:/bin/sh
        members:x:100:
        readers:x:201:ilse,dag
        writers:x:202:ilse
        """);
    put(
        "compass.yaml",
        "directories:\n  host: {kind: host, file: host.getent}\napplications: [store.yaml]\n");
    put("store.yaml", "kind: posix-files\nid: store\nlists: tree.getfacl\n");
  }

  private void put(String name, String text) throws IOException {
    Files.writeString(root.resolve(name), text);
  }

  private static String block(String path, String owner, String group, String... entries) {
    return "# file: "
        + path
        + "\n# owner: "
        + owner
        + "\n# group: "
        + group
        + "\n"
        + String.join("\n", entries)
        + "\n\n";
  }

  private static final String TOP =
      block("/", "root", "root", "user::rwx", "group::r-x", "other::r-x");

  private Verdict ask(String login, String path, String... rights) {
    Workspace workspace = Workspace.open(root);
    AccessModel model = workspace.model();
    SystemView view = model.system("store").orElseThrow();
    int account = NameResolver.find(model.facts(), SubjectKind.ACCOUNT, login).get(0);
    int[] all =
        List.of(rights).stream().mapToInt(r -> view.rights().find(r).orElseThrow()).toArray();
    return model
        .asker()
        .decide(view, account, new Question(view.resources().find(path).orElseThrow(), all));
  }

  @Test
  void readingByOneGroupAndWritingByAnotherPassSinglyAndFailTogether() throws IOException {
    put(
        "tree.getfacl",
        TOP
            + block(
                "/f",
                "root",
                "root",
                "user::rw-",
                "group::---",
                "group:readers:r--",
                "group:writers:-w-",
                "mask::rw-",
                "other::---"));
    assertThat(ask("ilse", "/f", "read")).isEqualTo(Verdict.YES);
    assertThat(ask("ilse", "/f", "write")).isEqualTo(Verdict.YES);
    assertThat(ask("ilse", "/f", "read", "write")).isEqualTo(Verdict.NO);
    assertThat(ask("dag", "/f", "write")).isEqualTo(Verdict.NO);
  }

  @Test
  void aFolderAboveThatWasNotCollectedLeavesTheAnswerUndecidedUnlessItIsSaidToBeOpen()
      throws IOException {
    put("tree.getfacl", block("/srv/f", "root", "root", "user::rw-", "group::---", "other::r--"));
    assertThat(ask("elin", "/srv/f", "read")).isEqualTo(Verdict.UNDECIDED);
    assertThat(ask("elin", "/srv/f", "write")).isEqualTo(Verdict.NO);
    put("store.yaml", "kind: posix-files\nid: store\nlists: tree.getfacl\nabove: open\n");
    assertThat(ask("elin", "/srv/f", "read")).isEqualTo(Verdict.YES);
  }

  @Test
  void namesThatAreNoTextAndNamesWithControlCharactersStayDistinct() throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    out.writeBytes(TOP.getBytes(StandardCharsets.UTF_8));
    for (int odd : new int[] {0xe9, 0xe8}) {
      out.writeBytes("# file: /n".getBytes(StandardCharsets.UTF_8));
      out.write(odd);
      out.writeBytes(
          block("", "root", "root", "user::rw-", "group::r--", "other::r--")
              .substring("# file: ".length())
              .getBytes(StandardCharsets.UTF_8));
    }
    out.writeBytes(
        block("/two\\012lines", "root", "root", "user::rw-", "group::r--", "other::---")
            .getBytes(StandardCharsets.UTF_8));
    out.writeBytes(
        block("/a\\040space", "root", "root", "user::rw-", "group::r--", "other::---")
            .getBytes(StandardCharsets.UTF_8));
    Files.write(root.resolve("tree.getfacl"), out.toByteArray());
    List<String> paths =
        Workspace.open(root).model().system("store").orElseThrow().resources().ids();
    assertThat(IntStream.range(0, paths.size()).mapToObj(paths::get))
        .containsExactly("/", "/a space", "/n\\350", "/n\\351", "/two\\012lines");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "# file: /f\\n"
            + "# owner: root\\n"
            + "# group: root\\n"
            + "user::rw-\\n"
            + "group::r-- | tree.getfacl:1 | no other::",
        "# file: /f\\n# owner: root\\nuser::rw-\\n | tree.getfacl:1 | no group",
        "# file: /f\\n# owner: root\\n# group: root\\nuser::rwz\\n | tree.getfacl:4 | is no entry",
        "# file: /f\\n"
            + "# owner: root\\n"
            + "# group: root\\n"
            + "user::rw-\\n"
            + "user:dag:rw-\\n"
            + "group::r--\\n"
            + "other::r--\\n"
            + " | tree.getfacl:1 | no mask",
        "# file: /a/../../f\\n"
            + "# owner: root\\n"
            + "# group: root\\n"
            + "user::rw-\\n"
            + "group::r--\\n"
            + "other::r--\\n"
            + " | tree.getfacl:1 | leads out of its tree",
        "user::rw-\\n | tree.getfacl:1 | belongs to no path",
        "# file: /f\\n"
            + "# owner: root\\n"
            + "# group: root\\n"
            + "# flags: xx\\n"
            + "user::rw-\\n"
            + "group::r--\\n"
            + "other::r--\\n"
            + " | tree.getfacl:4 | no flags",
        "# file: /f\\n"
            + "# owner: root\\n"
            + "# group: root\\n"
            + "user::rw-\\n"
            + "group::r--\\n"
            + "other::r--\\n"
            + "\\n"
            + "# file: /f\\n"
            + "# owner: root\\n"
            + "# group: root\\n"
            + "user::rw-\\n"
            + "group::r--\\n"
            + "other::r--\\n"
            + " | tree.getfacl:8 | stands twice"
      })
  void whatIsCutOffOrIsNoListIsToldWithItsLine(String text, String place, String what)
      throws IOException {
    put("tree.getfacl", text.replace("\\n", "\n"));
    assertThatThrownBy(() -> Workspace.open(root))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining(place)
        .hasMessageContaining(what);
  }

  @Test
  void usersAndGroupsThatNobodyKnowsAreTold() throws IOException {
    put(
        "tree.getfacl",
        TOP + block("/f", "4711", "nogroup", "user::rw-", "group::r--", "other::r--"));
    assertThat(Workspace.open(root).problems().stream().map(Problem::toString))
        .anySatisfy(p -> assertThat(p).contains("user 4711 is in no directory"))
        .anySatisfy(p -> assertThat(p).contains("group nogroup is in no directory"));
  }

  @Test
  void twoAccountsWithOneNumberAreOneUserAndThatIsTold() throws IOException {
    put("host.getent", Files.readString(root.resolve("host.getent")) + "ilse2:x:1001:100::/:/\n");
    put("tree.getfacl", TOP + block("/f", "1001", "root", "user::rw-", "group::---", "other::---"));
    assertThat(ask("ilse2", "/f", "write")).isEqualTo(Verdict.YES);
    assertThat(Workspace.open(root).problems().stream().map(Problem::toString))
        .anySatisfy(p -> assertThat(p).contains("the user number 1001 is that of"));
  }

  @ParameterizedTest
  @ValueSource(strings = {"ilse:x:1001\n", "ilse:x:eleven:100::/:/\n", "members:x:::\n"})
  void aLineOfTheHostThatIsNoneIsTold(String line) throws IOException {
    put("host.getent", line);
    put("tree.getfacl", TOP);
    assertThatThrownBy(() -> Workspace.open(root))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("host.getent:1");
  }

  @Test
  void anAccountOfTheHostEndsWhenShadowSaysSo() throws IOException {
    put(
        "host.getent",
        Files.readString(root.resolve("host.getent")) + "dag:!:19000:0:90:7::19500:\n");
    put("tree.getfacl", TOP);
    Workspace workspace = Workspace.open(root);
    int dag = NameResolver.find(workspace.facts(), SubjectKind.ACCOUNT, "dag").get(0);
    assertThat(workspace.facts().expires(dag)).isEqualTo(19500L * 86_400);
    assertThat(workspace.facts().passwordEnds(dag)).isEqualTo(19090L * 86_400);
  }

  @Test
  void aLiveTreeIsCollectedWithoutFollowingLinksWhichAreTold() throws IOException {
    Path tree = Files.createDirectories(root.resolve("live/in\\side"));
    Files.writeString(tree.resolve("f"), "x");
    Files.createSymbolicLink(root.resolve("live/out"), Path.of("/"));
    LiveTree.Collected collected =
        LiveTree.collect(root.resolve("live"), root.resolve("tree.getfacl"), Optional.empty());
    assertThat(collected.links()).isEqualTo(1);
    Workspace workspace = Workspace.open(root);
    List<String> paths = workspace.model().system("store").orElseThrow().resources().ids();
    assertThat(paths).anyMatch(p -> p.endsWith("/live/in\\134side/f"));
    assertThat(paths).noneMatch(p -> p.contains("/out"));
    assertThat(workspace.problems().stream().map(Problem::toString))
        .anySatisfy(
            p ->
                assertThat(p).contains("1 symbolic link is not followed, such as").contains("out"));
  }

  private static final String MODE =
      "# file: /f\n# owner: ilse\n# group: readers\n# mode only\nuser::rw-\ngroup::r--\nother::";

  @ParameterizedTest
  @CsvSource({
    "ilse, read, YES",
    "ilse, execute, NO",
    "dag, read, UNDECIDED",
    "dag, write, NO",
    "elin, read, UNDECIDED",
    "elin, execute, NO"
  })
  void ofAModeAloneItIsNotKnownWhatAListBehindItGives(String who, String right, Verdict answer)
      throws IOException {
    put("tree.getfacl", TOP + MODE + "---\n");
    assertThat(ask(who, "/f", right)).isEqualTo(answer);
  }

  @Test
  void aModeWithoutGroupPermissionsHidesNoList() throws IOException {
    put("tree.getfacl", TOP + MODE.replace("group::r--", "group::---") + "r--\n");
    assertThat(ask("dag", "/f", "read")).isEqualTo(Verdict.NO);
    assertThat(ask("elin", "/f", "read")).isEqualTo(Verdict.YES);
    assertThat(Workspace.open(root).systems().get(0).unread()).isZero();
  }

  @Test
  void modesAloneAreCountedAsListsThatWereNotRead() throws IOException {
    put("tree.getfacl", TOP + MODE + "---\n");
    assertThat(Workspace.open(root).systems().get(0).unread()).isEqualTo(1);
  }

  @Test
  void aGroupThatNobodyKnowsMayHaveAnybody() throws IOException {
    put(
        "tree.getfacl",
        TOP + block("/f", "root", "nogroup", "user::rw-", "group::r--", "other::---"));
    assertThat(ask("elin", "/f", "read")).isEqualTo(Verdict.UNDECIDED);
  }

  @ParameterizedTest
  @ValueSource(strings = {"GARDEN\\\\ilse", "GARDEN\\134ilse", "GARDEN\\ilse", "ilse"})
  void anOwnerOfADomainIsReadAsTheToolWritesHim(String owner) throws IOException {
    put("tree.getfacl", TOP + block("/f", owner, "root", "user::rw-", "group::---", "other::---"));
    assertThat(ask("ilse", "/f", "write")).isEqualTo(Verdict.YES);
    put(
        "host.getent",
        Files.readString(root.resolve("host.getent"))
            .replace("ilse:x:1001", "GARDEN\\ilse:x:1001"));
    if (owner.length() > 4) {
      assertThat(ask("GARDEN\\ilse", "/f", "write")).isEqualTo(Verdict.YES);
    }
  }

  @Test
  void aPathWithBackslashTabAndBlankIsOnePath() throws IOException {
    put(
        "tree.getfacl",
        TOP + block("/a b\\\\c\\011d", "ilse", "root", "user::rw-", "group::---", "other::---"));
    assertThat(ask("ilse", "/a b\\134c\\011d", "write")).isEqualTo(Verdict.YES);
  }

  @Test
  void nfs4EntriesDecideInOrderAndFoldersAboveMustLetPass() throws IOException {
    put("store.yaml", "kind: nfs4-files\nid: store\nlists: tree.nfs4\n");
    put(
        "tree.nfs4",
        "# file: /\n# owner: root@x\n# group: root@x\nA::OWNER@:rwx\nA::EVERYONE@:rx\n\n"
            + "# file: /d\n# owner: ilse@x\n# group: members@x\nA::dag@x:rx\nD:g:members@x:x\n"
            + "A::EVERYONE@:rx\n\n"
            + "# file: /d/f\n# owner: ilse@x\n# group: members@x\nD::dag@x:w\nA::EVERYONE@:rw\n");
    assertThat(ask("dag", "/d/f", "read-data")).isEqualTo(Verdict.YES);
    assertThat(ask("dag", "/d/f", "write-data")).isEqualTo(Verdict.NO);
    assertThat(ask("elin", "/d/f", "read-data")).isEqualTo(Verdict.NO);
    assertThat(ask("ilse", "/d/f", "change-permissions")).isEqualTo(Verdict.NO);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "A::OWNER@ | tree.nfs4:4 | TYPE:FLAGS:WHO:RIGHTS",
        "X::OWNER@:r | tree.nfs4:4:1 | no type of entry",
        "A:q:OWNER@:r | tree.nfs4:4:3 | no flags",
        "A::OWNER@:rz | tree.nfs4:4:12 | no rights"
      })
  void anNfs4EntryThatIsNoneIsToldWithItsColumn(String entry, String place, String what)
      throws IOException {
    put("store.yaml", "kind: nfs4-files\nid: store\nlists: tree.nfs4\n");
    put("tree.nfs4", "# file: /\n# owner: root\n# group: root\n" + entry + "\n");
    assertThatThrownBy(() -> Workspace.open(root))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining(place)
        .hasMessageContaining(what);
  }
}
