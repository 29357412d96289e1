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
        .contains("The access rules of main were not read (reading them comes later)")
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
    assertThat(said.out()).contains("the access rules of main were not read");
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
  void aGroupWhoseMembersWereWithheldMayHaveAnybody() {
    workspace(SIGNERS, "editor,group,signers,", "");
    SoberTest.Said can = sober("can", "ann", "app:papers:edit");
    assertThat(can.code()).isEqualTo(Exit.UNDECIDED);
    assertThat(can.out())
        .startsWith("Undecided: Ann (ann) may be able to use app:papers:edit")
        .contains("the members of signers were withheld");
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
    assertThat(sober("can", "ann", "app:papers:edit").code()).isEqualTo(Exit.OK);
    assertThat(sober("check").out()).contains("how badge compares in main is a");
    workspace(dynamic("(cn=ann)"), "editor,group,dyn,", "");
    assertThat(sober("check").out()).doesNotContain("is a guess");
  }

  @Test
  void theGuessOfAFilterOfAnApplicationIsNamedToo() {
    workspace("", "editor,account,ann,", "");
    write("app.yaml", APPLICATION + "sight: {directory: main, account-filter: (badge=*)}\n");
    assertThat(sober("check").out()).contains("how badge compares in main is a");
  }
}
