package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.sources.workspace.Workspace;

/** Every kind of finding: yes, no, and the border between. */
class FindingsTest {
  private static final String PEOPLE =
      "dn: uid=ann,dc=x\n"
          + "objectClass: inetOrgPerson\n"
          + "uid: ann\n\n"
          + "dn: uid=bo,dc=x\n"
          + "objectClass: inetOrgPerson\n"
          + "uid: bo\n\n"
          + "dn: cn=crew,dc=x\n"
          + "objectClass: groupOfNames\n"
          + "cn: crew\n"
          + "member: uid=ann,dc=x\n\n"
          + "dn: cn=all,dc=x\n"
          + "objectClass: groupOfNames\n"
          + "cn: all\n"
          + "member: uid=ann,dc=x\n"
          + "member: uid=bo,dc=x\n\n";
  private static final String RULE =
      "separation: [{id: r, sides: [[app:a:edit], [app:b:edit]], weight: medium}]\n"
          + "findings: {off: [conflicting-role]}\n";

  @TempDir Path root;
  private String directory = PEOPLE;
  private String head = "";
  private String rules = "";
  private String intended = "";

  private List<String> found(String at, String... rows) throws IOException {
    return findings(at, rows).stream().map(f -> f.kind().id() + " " + f.weight().word()).toList();
  }

  private List<Finding> findings(String at, String... rows) throws IOException {
    Files.writeString(root.resolve("d.ldif"), directory);
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {main: {file: d.ldif}}\napplications: [app.yaml]\n" + rules);
    Files.writeString(
        root.resolve("app.yaml"),
        "id: app\n"
            + head
            + "emergency: [{account: key, tried: 2026-05-02}]\n"
            + "sight: {directory: main}\n"
            + "areas: [a, b]\n"
            + "levels: [view, edit]\n"
            + "nodes: {top: {north: North}}\n"
            + "roles:\n"
            + "  reader: {allows: {a: view, b: view}}\n"
            + "  a: {allows: {a: edit}}\n"
            + "  b: {allows: {b: edit}}\n"
            + "  both: {includes: [a, b]}\n"
            + "  nothing: {}\n"
            + "assignments:\n"
            + "  actual: a.csv\n"
            + (intended.isEmpty() ? "" : "  intended: i.csv\n"));
    String columns = "role,kind,subject,node,from,until,on\n";
    Files.writeString(root.resolve("a.csv"), columns + String.join("\n", rows) + "\n");
    Files.writeString(root.resolve("i.csv"), columns + intended);
    Workspace workspace = Workspace.open(root);
    AccessModel model = workspace.model(Instant.parse(at + "T12:00:00Z"), Optional.empty());
    return Findings.of(workspace.assessment(model));
  }

  private static final String DAY = "2026-06-01";

  @Test
  void aSoundWorkspaceHasNone() throws IOException {
    rules = RULE;
    assertThat(found(DAY, "a,group,crew,,,,")).isEmpty();
  }

  @Test
  void dutiesThatComeTogetherInAnAccountAGroupARole() throws IOException {
    rules = RULE;
    assertThat(findings(DAY, "a,group,crew,,,,", "b,group,all,,,,"))
        .singleElement()
        .satisfies(
            f -> {
              assertThat(f.weight()).isEqualTo(Weight.MEDIUM);
              assertThat(f.cause().text()).isEqualTo("account:main/uid=ann,dc=x");
              assertThat(f.evidence()).hasSize(2);
            });
    assertThat(findings(DAY, "a,group,all,,,,", "b,group,all,north,,,"))
        .singleElement()
        .satisfies(
            f -> {
              assertThat(f.cause().text()).isEqualTo("group:main/cn=all,dc=x");
              assertThat(f.subjects()).hasSize(2);
            });
    assertThat(findings(DAY, "both,group,all,,,,"))
        .singleElement()
        .satisfies(f -> assertThat(f.cause().text()).isEqualTo("role:app/both"));
  }

  @Test
  void oneSideOnlyOrASideOutsideItsWindowIsNoConflict() throws IOException {
    rules = RULE;
    assertThat(found(DAY, "a,group,all,,,,")).isEmpty();
    assertThat(found(DAY, "a,group,all,,,,", "b,group,all,,,2026-05-31,"))
        .containsExactly("expired-assignment low");
    assertThat(found("2026-05-31", "a,group,all,,,,", "b,group,all,,,2026-05-31,")).hasSize(1);
  }

  @Test
  void anAccountThatIsBlockedIsNoPresentConflict() throws IOException {
    rules = RULE;
    directory = PEOPLE.replace("uid: ann\n", "uid: ann\nnsAccountLock: TRUE\n");
    assertThat(found(DAY, "a,group,crew,,,,", "b,group,crew,,,,"))
        .containsExactly("disabled-account medium");
  }

  @Test
  void anAccountExpiresAtItsDayAndNotBefore() throws IOException {
    directory = PEOPLE.replace("uid: ann\n", "uid: ann\nshadowExpire: 20605\n");
    assertThat(found("2026-05-31", "a,group,crew,,,,")).isEmpty();
    assertThat(found("2026-06-01", "a,group,crew,,,,")).containsExactly("expired-account medium");
    assertThat(found("2026-06-01", "a,group,crew,,,,no")).isEmpty();
  }

  @Test
  void givenToEveryoneIsWeighedByWhatItGives() throws IOException {
    assertThat(found(DAY, "reader,implicit,everyone,,,,"))
        .containsExactly("assigned-to-everyone low");
    assertThat(found(DAY, "a,implicit,signed-in,,,,")).containsExactly("assigned-to-everyone high");
    assertThat(found(DAY, "a,implicit,members,,,,")).isEmpty();
  }

  @Test
  void givenToAPersonAndToNobody() throws IOException {
    assertThat(found(DAY, "reader,account,bo,,,,")).containsExactly("direct-assignment low");
    assertThat(found(DAY, "a,account,bo,,,,")).containsExactly("direct-assignment medium");
    assertThat(found(DAY, "a,account,bo,north,,,")).containsExactly("direct-assignment low");
    assertThat(found(DAY, "a,account,carl,,,,")).containsExactly("unresolved-subject low");
    assertThat(found(DAY, "a,account,carl,,,,no")).isEmpty();
  }

  @Test
  void anApplicationThatAsksNobody() throws IOException {
    head = "sign-in: none\neveryone: a\n";
    assertThat(found(DAY)).containsExactly("no-sign-in high");
    head = "sign-in: none\neveryone: reader\n";
    assertThat(found(DAY)).containsExactly("no-sign-in low");
  }

  @Test
  void redundantIsWhatOthersCoverForAllAtAllTimesLeft() throws IOException {
    assertThat(found(DAY, "a,group,all,,,,", "a,group,crew,north,,,"))
        .containsExactly("redundant-assignment low");
    assertThat(found(DAY, "a,group,all,,,2026-07-01,", "a,group,crew,north,,,")).isEmpty();
    assertThat(found(DAY, "a,group,all,,,2026-07-01,", "a,group,crew,north,,2026-06-30,"))
        .containsExactly("redundant-assignment low");
    assertThat(found(DAY, "a,group,all,,,,", "a,group,all,north,,,", "b,group,crew,,,,"))
        .containsExactly("redundant-assignment low");
    assertThat(findings(DAY, "reader,group,all,,,,", "reader,group,all,north,,,"))
        .singleElement()
        .satisfies(f -> assertThat(f.changes()).hasSize(1));
  }

  @Test
  void driftBothWaysAndInTerms() throws IOException {
    intended = "a,group,crew,,,,\n";
    assertThat(found(DAY, "a,group,crew,,,,")).isEmpty();
    assertThat(found(DAY, "a,group,crew,north,,,"))
        .containsExactly("actual-not-intended high", "intended-not-actual low");
    assertThat(found(DAY, "a,group,crew,,,2027-01-01,"))
        .containsExactly("differs-from-intended medium");
  }

  @Test
  void circlesAndMissingMembersMatterWhereTheyCarryRights() throws IOException {
    directory =
        PEOPLE
            + "dn: cn=p,dc=x\n"
            + "objectClass: groupOfNames\n"
            + "cn: p\n"
            + "member: cn=q,dc=x\n"
            + "member: uid=gone,dc=x\n\n"
            + "dn: cn=q,dc=x\n"
            + "objectClass: groupOfNames\n"
            + "cn: q\n"
            + "member: cn=p,dc=x\n"
            + "member: uid=bo,dc=x\n";
    assertThat(found(DAY, "a,group,crew,,,,")).isEmpty();
    assertThat(found(DAY, "a,group,p,,,,"))
        .containsExactly("circular-nesting medium", "dangling-member low");
    assertThat(findings(DAY, "a,group,p,,,,").get(0).aim()).isInstanceOf(Remedy.Uncircled.class);
  }

  @Test
  void theIdentityOfAFindingStaysWhenItsSubjectsChange() throws IOException {
    rules = RULE;
    String before = findings(DAY, "both,group,crew,,,,").get(0).key().text();
    List<Finding> after = findings(DAY, "both,group,all,,,,");
    assertThat(after.get(0).key().text()).isEqualTo(before);
    assertThat(after.get(0).subjects()).hasSize(2);
  }
}
