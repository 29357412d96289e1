package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Nothing definite is said about what was not read, by the command as it is typed. */
class UnreadTest {
  private static final String PEOPLE =
      """
      dn: dc=x
      objectClass: domain
      dc: x

      dn: uid=ann,dc=x
      objectClass: inetOrgPerson
      uid: ann
      cn: Ann
      sn: Ann
      badge: A1

      dn: uid=bo,dc=x
      objectClass: inetOrgPerson
      uid: bo
      cn: Bo
      sn: Bo

      """;

  private static final String APPLICATION =
      """
      id: app
      levels: [read, edit]
      areas: [papers]
      roles: {editor: {allows: {papers: edit}}}
      assignments: {actual: a.csv}
      """;

  @TempDir Path root;

  private void workspace(String entries, String assignment, String more) {
    write("d.ldif", PEOPLE + entries);
    write("compass.yaml", "directories: {main: {file: d.ldif}}\napplications: [app.yaml]\n" + more);
    write("app.yaml", APPLICATION);
    write("a.csv", "role,kind,subject,node\n" + assignment + "\n");
  }

  private void write(String name, String text) {
    try {
      Files.writeString(root.resolve(name), text);
    } catch (IOException e) {
      throw new AssertionError(e);
    }
  }

  private SoberTest.Said sober(String... args) {
    List<String> all = new ArrayList<>(List.of(args));
    all.addAll(List.of("--workspace", root.toString()));
    SoberTest.Said said = SoberTest.sober(all.toArray(String[]::new));
    // Lines are cut to the width of a terminal; what is said is the same.
    return new SoberTest.Said(said.code(), said.out().replaceAll("\\s+", " "), said.err());
  }

  private static final String SIGNERS =
      "dn: cn=signers,dc=x\nobjectClass: groupOfNames\ncn: signers\n";

  @Test
  void whoCanActInADirectoryWhoseRulesWereNotReadIsUndecided() {
    workspace("", "editor,account,ann,", "");
    SoberTest.Said can = sober("can", "ann", "set-password", "--on", "bo");
    assertThat(can.code()).isEqualTo(Exit.UNDECIDED);
    assertThat(can.out())
        .startsWith("Undecided: Ann (ann) may be able to do this to Bo (bo): set a new password.")
        .contains("The access rules of main were not read")
        .doesNotContain("Nobody can");
    SoberTest.Said holders = sober("holders", "set-password", "--on", "bo");
    assertThat(holders.code()).isEqualTo(Exit.UNDECIDED);
    assertThat(holders.out()).startsWith("Undecided: nobody is known to be able to do this to Bo");
    write("q.csv", "account,permission,node\nann,set-password,bo\n");
    assertThat(sober("can", "--questions", root.resolve("q.csv").toString(), "--why").out())
        .contains("ann,set-password,bo,undecided,\"the access rules of main were not read");
  }

  @ParameterizedTest
  @ValueSource(strings = {"delegations", "reach", "check"})
  void everyAnswerAboutDelegationSaysThatTheRulesWereNotRead(String command) {
    workspace("", "editor,account,ann,", "");
    SoberTest.Said said = sober(command);
    assertThat(said.out()).contains("he access rules of main were not read");
    if (!command.equals("check")) {
      assertThat(said.code()).isEqualTo(Exit.UNDECIDED);
    }
  }

  @Test
  void anExpectationAboutAnUnreadDirectoryDoesNotPass() {
    workspace("", "editor,account,ann,", "expectations: e.yaml\n");
    write("e.yaml", "expectations:\n- {id: e, these: [ann], cannot: act set-password on bo}\n");
    SoberTest.Said said = sober("expect");
    assertThat(said.code()).as(said.out() + said.err()).isEqualTo(Exit.UNDECIDED);
  }

  @Test
  void aGroupThatIsNotInWhatWasReadMayHaveAnybody() {
    workspace("", "editor,group,elsewhere,", "");
    SoberTest.Said can = sober("can", "ann", "app:papers:edit");
    assertThat(can.code()).isEqualTo(Exit.UNDECIDED);
    assertThat(can.out())
        .startsWith("Undecided: Ann (ann) may be able to use app:papers:edit")
        .contains("elsewhere is not in what was read (a.csv:2): it may be gone, or anybody");
    SoberTest.Said holders = sober("holders", "app:papers:edit");
    assertThat(holders.out()).startsWith("0 accounts hold app:papers:edit; of 2 accounts it is un");
    assertThat(sober("findings", "--kind", "unresolved-subject", "--detail", "1").out())
        .contains("They end - Ann (ann), Bo (bo) in app: papers:edit");
  }

  @Test
  void aMemberBelowAnEntryThatWasNotReadMayBeAGroupAndOneBelowAnEntryThatWasReadIsGone() {
    workspace(SIGNERS + "member: cn=more,ou=far,dc=x\n", "editor,group,signers,", "");
    assertThat(sober("can", "ann", "app:papers:edit").code()).isEqualTo(Exit.UNDECIDED);
    workspace(SIGNERS + "member: cn=more,dc=x\n", "editor,group,signers,", "");
    assertThat(sober("can", "ann", "app:papers:edit").code()).isEqualTo(Exit.NO);
  }

  @Test
  void aGroupWhoseMembersWereWithheldMayHaveAnybody() {
    workspace(SIGNERS, "editor,group,signers,", "");
    SoberTest.Said can = sober("can", "ann", "app:papers:edit");
    assertThat(can.code()).isEqualTo(Exit.UNDECIDED);
    assertThat(can.out())
        .startsWith("Undecided: Ann (ann) may be able to use app:papers:edit")
        .contains("the members of signers were withheld");
    assertThat(sober("check").out()).contains("1 entry does not show");
    write("q.csv", "account,permission,node\nann,app:papers:edit,\nbo,app:papers:read,\n");
    assertThat(sober("can", "--questions", root.resolve("q.csv").toString(), "--why").out())
        .contains("ann,app:papers:edit,,undecided,\"the members of signers were withheld")
        .contains("bo,app:papers:read,,undecided,\"the members of signers were withheld");
    assertThat(sober("holders", "app:papers:edit").out())
        .startsWith("0 accounts hold app:papers:edit; of 2 accounts it is undecided.")
        .contains("? undecided");
    assertThat(sober("findings").out()).doesNotContain("nobody is in").doesNotContain("Nobody is");
    assertThat(sober("check").out()).doesNotContain("nobody is in it");
    assertThat(sober("show", "group", "signers").out()).contains("Its members were withheld");
  }

  @Test
  void whoIsListedInAGroupOfWhichOnlyOthersWereWithheldIsSure() {
    workspace(
        SIGNERS + "\ndn: cn=keys,dc=x\nobjectClass: groupOfNames\ncn: keys\nmember: uid=bo,dc=x\n",
        "editor,group,keys,",
        "");
    assertThat(sober("can", "bo", "app:papers:edit").code()).isEqualTo(Exit.OK);
    assertThat(sober("can", "ann", "app:papers:edit").code()).isEqualTo(Exit.NO);
  }

  @Test
  void aGroupInAGroupWithheldBringsAnybodyPerhaps() {
    workspace(
        SIGNERS
            + "\ndn: cn=outer,dc=x\nobjectClass: groupOfNames\ncn: outer\n"
            + "member: cn=signers,dc=x\n",
        "editor,group,outer,",
        "");
    assertThat(sober("can", "ann", "app:papers:edit").code()).isEqualTo(Exit.UNDECIDED);
    assertThat(sober("routes", "ann", "app:papers:edit").out())
        .contains("Ann (ann) → perhaps signers → outer");
  }

  @Test
  void anEmptyGroupThatShowsItsMembersHasNobody() {
    workspace(SIGNERS + "member:\n", "editor,group,signers,", "");
    assertThat(sober("can", "ann", "app:papers:edit").code()).isEqualTo(Exit.NO);
  }

  private static String dynamic(String filter) {
    return "dn: cn=dyn,dc=x\nobjectClass: groupOfURLs\ncn: dyn\nmemberURL: ldap:///dc=x??sub?"
        + filter
        + "\n";
  }

  @Test
  void aRuleThatIsUndefinedMakesPerhapsMembers() {
    workspace(dynamic("(clearance>=3)"), "editor,group,dyn,", "");
    SoberTest.Said can = sober("can", "ann", "app:papers:edit");
    assertThat(can.code()).isEqualTo(Exit.UNDECIDED);
    assertThat(can.out()).contains("the rule of dyn is undefined for it");
    assertThat(sober("check", "--format", "csv").out()).contains("which are perhaps members");
  }

  @Test
  void anAttributeThatIsComparedByGuessIsNamed() {
    workspace(dynamic("(badge=a1)"), "editor,group,dyn,", "");
    assertThat(sober("can", "ann", "app:papers:edit").code()).isEqualTo(Exit.UNDECIDED);
    assertThat(sober("check").out()).contains("how badge compares in main");
    workspace(dynamic("(cn=ann)"), "editor,group,dyn,", "");
    assertThat(sober("check").out()).doesNotContain("how cn compares");
  }

  @Test
  void theGuessOfAFilterOfAnApplicationIsNamedToo() {
    workspace("", "editor,account,ann,", "");
    write("app.yaml", APPLICATION + "sight: {directory: main, account-filter: (badge=*)}\n");
    assertThat(sober("check").out()).contains("how badge compares in main");
  }

  /** The demo, with so many of the lists of its directory of desks left out. */
  private SoberTest.Said onDemoWithout(int lists, String... args) {
    DemoFiles.write(root);
    try {
      Path file = root.resolve("directory/desks.ldif");
      String text = Files.readString(file).replace("\r", "");
      String folded = text.replaceAll("\n ", "");
      StringBuilder out = new StringBuilder();
      int left = lists;
      for (String line : folded.split("\n", -1)) {
        boolean list = line.startsWith("nTSecurityDescriptor");
        if (!list || left-- <= 0) {
          out.append(line).append('\n');
        }
      }
      Files.writeString(file, out.toString());
    } catch (IOException e) {
      throw new AssertionError(e);
    }
    return sober(args);
  }

  @Test
  void withTheListsGoneNoPowerIsSaidToBeOutOfReach() {
    SoberTest.Said reach = onDemoWithout(1000, "reach", "desks");
    assertThat(reach.code()).isEqualTo(Exit.UNDECIDED);
    assertThat(reach.out()).contains("undecided for others").contains("who holds it");
    SoberTest.Said all = onDemoWithout(1000, "reach");
    assertThat(all.code()).isEqualTo(Exit.UNDECIDED);
    assertThat(all.out()).contains("38 of 38 access control lists of desks were not read");
  }

  @Test
  void withTheListsGoneFindingsAndThePageSayWhatIsMissing() {
    assertThat(onDemoWithout(1000, "findings").out())
        .contains("38 of 38 access control lists of desks were not read");
    assertThat(sober("check", "--format", "csv").out())
        .contains("38 of 38 access control lists of desks");
    assertThat(sober("report", root.resolve("page.html").toString()).code()).isEqualTo(Exit.OK);
    try {
      assertThat(Files.readString(root.resolve("page.html")))
          .contains("38 of 38 access control lists of desks were not read");
    } catch (IOException e) {
      throw new AssertionError(e);
    }
  }

  @Test
  void withTheListsGoneAnExpectationAboutThemIsNotKnown() {
    SoberTest.Said expect = onDemoWithout(1000, "expect", "--format", "csv");
    assertThat(expect.out()).contains("director-keeps-her-password").contains("not known for");
  }

  @Test
  void withOneListGoneTheChainThroughItIsNotDeniedButUnknown() {
    SoberTest.Said whole = onDemoWithout(0, "reach", "desks");
    assertThat(whole.code()).isEqualTo(Exit.OK);
    assertThat(whole.out()).startsWith("3 accounts could come to control the directory desks");
    for (int left = 1; left <= 38; left++) {
      SoberTest.Said less = onDemoWithout(left, "reach", "desks");
      if (!less.out().startsWith("3 accounts could come")) {
        assertThat(less.code()).as("without %d lists: %s", left, less.out()).isEqualTo(6);
      }
    }
  }

  private void expectations(String text) {
    workspace("", "editor,account,ann,", "expectations: e.yaml\n");
    write("e.yaml", text);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "",
        "# nothing yet\n",
        "expectations:\n",
        "expectations: []\n",
        "expectations: {id: e, these: [ann], can: app:papers:edit}\n",
        "expectations:\n- {id: e, these: {a: ann}, can: app:papers:edit}\n",
        "expectations:\n- {id: e, these: [], can: app:papers:edit}\n",
        "expectations:\n- {id: e, these: [ann], can: []}\n",
        "expectations:\n- {id: e, these: [ann], can: app:papers:edit}\n---\nexpectations:\n"
            + "- {id: f, these: [bo], can: app:papers:edit}\n"
      })
  void anExpectationThatWasNotReadDoesNotPass(String text) {
    expectations(text);
    SoberTest.Said said = sober("expect");
    assertThat(said.code()).as(said.out() + said.err()).isEqualTo(Exit.INPUT);
    assertThat(said.err()).contains("e.yaml");
  }

  @Test
  void twoRightsThatNoEntryGivesTogetherAreNotHeldTogether() {
    write(
        "h.getent", "ann:x:11:1::/:/\nx:x:1:\nreaders:x:2:ann\nwriters:x:3:ann\nroot:x:0:0::/:/\n");
    write(
        "compass.yaml", "directories: {h: {kind: host, file: h.getent}}\napplications: [s.yaml]\n");
    write("s.yaml", "kind: posix-files\nid: s\nlists: t\nabove: open\n");
    write(
        "t",
        "# file: /f\n# owner: root\n# group: readers\nuser::rw-\ngroup::r--\n"
            + "group:writers:-w-\nmask::rw-\nother::---\n");
    assertThat(sober("can", "ann", "s:read", "--at", "/f").code()).isEqualTo(Exit.OK);
    assertThat(sober("can", "ann", "s:write", "--at", "/f").code()).isEqualTo(Exit.OK);
    SoberTest.Said both = sober("can", "ann", "s:read+write", "--at", "/f");
    assertThat(both.code()).isEqualTo(Exit.NO);
    assertThat(both.out())
        .startsWith("No: ann cannot use s:read+write together")
        .contains("read alone: yes; write alone: yes; no single entry gives all of it");
    assertThat(sober("holders", "s:read+write", "--at", "/f").out())
        .startsWith("1 account holds s:read+write together at /f.")
        .contains("root")
        .doesNotContain("ann");
    assertThat(sober("show", "access", "s", "/f", "--format", "csv").out())
        .contains("\"read, write, delete (not together: read with write)\"");
    write("q.csv", "account,permission,node\nann,s:read+write,/f\n");
    assertThat(sober("can", "--questions", root.resolve("q.csv").toString()).out())
        .contains("ann,\"s:read+write\",/f,no");
  }
}
