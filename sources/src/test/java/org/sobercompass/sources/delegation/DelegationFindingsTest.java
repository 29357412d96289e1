package org.sobercompass.sources.delegation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.workspace.Surveyor;
import org.sobercompass.sources.workspace.Workspace;

/** Findings about what was delegated in a directory's lists: yes, no, and the border between. */
class DelegationFindingsTest extends SmallDirectory {
  private static final String RESET_BY = "(OA;;CR;" + RESET + ";;";
  private String more = "";

  /** Zoe controls the directory; Ann and Bo are in crew, Bo alone in pair. */
  private void people(String diList) {
    domain("D:(A;;" + FULL + ";;;" + sid(1009) + ")");
    unit("a", "D:");
    user("ann", 1001, "a", "D:");
    user("bo", 1002, "a", "D:");
    user("di", 1004, "a", diList);
    user("zoe", 1009, "a", "D:");
    group("crew", 1101, "D:", "cn=ann,ou=a,dc=x", "cn=bo,ou=a,dc=x");
    group("pair", 1102, "D:", "cn=bo,ou=a,dc=x");
    group("hollow", 1103, "D:");
  }

  private Assessment assessment() throws IOException {
    Files.writeString(root.resolve("d.ldif"), ldif.toString());
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {main: {kind: ad, file: d.ldif, taken: 2026-06-01T12:00:00Z}}\n" + more);
    Workspace workspace = Workspace.open(root);
    return workspace.assessment(workspace.model());
  }

  /** Findings about Di and what stands beside her; that Zoe is powerful is not asked here. */
  private List<Finding> findings() throws IOException {
    return Findings.of(assessment()).stream()
        .filter(
            f -> !FindingWords.sentence(f).contains("zoe") && !f.kind().id().endsWith("powerful"))
        .filter(f -> !f.kind().id().equals("escalation-path"))
        .toList();
  }

  private List<String> told() throws IOException {
    return findings().stream().map(f -> f.kind().id() + " " + f.weight().word()).toList();
  }

  @Test
  void toAGroupNothingIsTold() throws IOException {
    people("D:" + RESET_BY + sid(1102) + ")");
    assertThat(told()).isEmpty();
  }

  @Test
  void toAPersonItIsToldByWhatItGives() throws IOException {
    people("D:" + RESET_BY + sid(1001) + ")");
    assertThat(told()).containsExactly("direct-assignment medium");
    assertThat(FindingWords.sentence(findings().get(0)))
        .isEqualTo("delegated to a person instead of a group: set a new password, on di, to ann");
  }

  @Test
  void toAPersonWhatGivesLittleWeighsLittle() throws IOException {
    people("D:(OA;;WP;28630ebf-41d5-11d1-a9c1-0000f80367c1;;" + sid(1001) + ")");
    assertThat(told()).containsExactly("direct-assignment low");
  }

  @Test
  void toDenyAPersonGivesNothing() throws IOException {
    people("D:(OD;;CR;" + RESET + ";;" + sid(1001) + ")");
    assertThat(told()).isEmpty();
  }

  @Test
  void aServiceIsNoPerson() throws IOException {
    people("D:" + RESET_BY + sid(1001) + ")");
    more = "findings: {services: {accounts: [ann]}}\n";
    assertThat(told()).doesNotContain("direct-assignment medium");
  }

  @Test
  void oneTrusteeIsOneFindingAndTheObjectsAreItsSubjects() throws IOException {
    people("D:" + RESET_BY + sid(1001) + ")");
    user("fay", 1005, "a", "D:" + RESET_BY + sid(1001) + ")");
    assertThat(findings())
        .singleElement()
        .satisfies(
            f -> {
              assertThat(f.subjects()).extracting(Key::id).hasSize(2);
              assertThat(FindingWords.sentence(f)).contains("and more on 1 further object");
              assertThat(f.changes()).hasSize(2);
            });
  }

  @Test
  void toEveryoneWhatIsMoreThanReadingIsTold() throws IOException {
    people("D:" + RESET_BY + "AU)");
    assertThat(told()).containsExactly("assigned-to-everyone high");
  }

  @Test
  void toEveryoneReadingIsNot() throws IOException {
    people("D:(A;;RPLCLORC;;;AU)");
    assertThat(told()).isEmpty();
  }

  @Test
  void aGroupIsBroadFromTheShareOn() throws IOException {
    people("D:" + RESET_BY + sid(1101) + ")");
    for (int i = 0; i < 6; i++) {
      user("p" + i, 1010 + i, "a", "D:");
    }
    more = "findings: {broad: {share: 20}}\n";
    assertThat(told()).containsExactly("assigned-to-large-group medium");
    more = "findings: {broad: {share: 21}}\n";
    assertThat(told()).isEmpty();
  }

  @Test
  void aGroupWithNobodyInItIsTold() throws IOException {
    people("D:" + RESET_BY + sid(1103) + ")");
    assertThat(told()).containsExactly("assigned-to-empty-group low");
  }

  @Test
  void anEmptyGroupThatEveryDirectoryHasIsNot() throws IOException {
    people("D:" + RESET_BY + sid(522) + ")");
    group("cloners", 522, "D:");
    assertThat(told()).isEmpty();
  }

  @Test
  void nobodyWhoExistsIsToldAndAnIdBroughtAlongIsSomebody() throws IOException {
    people("D:" + RESET_BY + "S-1-5-21-7-8-9-4711)");
    assertThat(told()).containsExactly("unresolved-trustee low");
    user("gus", 1006, "a", "D:", "sIDHistory: S-1-5-21-7-8-9-4711");
    assertThat(told()).doesNotContain("unresolved-trustee low");
  }

  @Test
  void whatClaimsToBeInheritedAndIsNotIsToldAndEnds() throws IOException {
    people("D:(OA;ID;CR;" + RESET + ";;" + sid(1102) + ")");
    assertThat(told()).containsExactly("unsupported-inheritance medium");
    Assessment assessment = assessment();
    Finding claim = findings().get(0);
    Assessment after = assessment.with(Advice.of(assessment, claim).changes());
    assertThat(Findings.of(after)).noneMatch(f -> f.key().equals(claim.key()));
  }

  @Test
  void aPersonWhoOwnsAnObjectIsTold() throws IOException {
    people("O:" + sid(1001) + "D:");
    assertThat(told()).containsExactly("owner-not-administrator medium");
  }

  @Test
  void whoControlsTheDirectoryMayOwnObjectsAndSoMayGroups() throws IOException {
    people("O:" + sid(1009) + "D:");
    assertThat(told()).isEmpty();
    user("fay", 1005, "a", "O:" + sid(1102) + "D:");
    assertThat(told()).isEmpty();
  }

  @Test
  void anOwnerWhoseRightsTheListLimitsIsNot() throws IOException {
    people("O:" + sid(1001) + "D:(A;;RC;;;S-1-3-4)");
    assertThat(told()).isEmpty();
  }

  @Test
  void aListOutOfOrderIsToldWhereSomebodyCouldDoOtherThingsInOrder() throws IOException {
    people("D:" + RESET_BY + sid(1102) + ")(OD;;CR;" + RESET + ";;" + sid(1002) + ")");
    assertThat(told()).containsExactly("entry-order low");
    assertThat(FindingWords.evidence(findings().get(0)).get(0))
        .isEqualTo("1 account can set a new password only by this order");
  }

  @Test
  void aListOutOfOrderThatMakesNoDifferenceIsNot() throws IOException {
    people("D:" + RESET_BY + sid(1102) + ")(OD;;CR;" + RESET + ";;" + sid(1001) + ")");
    assertThat(told()).isEmpty();
  }

  @Test
  void anEntryThatAnotherCoversIsToldOnce() throws IOException {
    String wide = "(A;CI;CR;;;" + sid(1102) + ")";
    people("D:" + wide + RESET_BY + sid(1102) + ")");
    assertThat(told()).containsExactly("redundant-assignment low");
    people("D:");
    ldif.setLength(0);
    people("D:" + wide + wide);
    assertThat(told()).containsExactly("redundant-assignment low");
  }

  @Test
  void anEntryThatReachesFurtherOrStandsBesideADenyIsNotCovered() throws IOException {
    people("D:(A;;CR;;;" + sid(1102) + ")(OA;CI;CR;" + RESET + ";;" + sid(1102) + ")");
    assertThat(told()).isEmpty();
    ldif.setLength(0);
    people(
        "D:(OD;;WP;"
            + MEMBER
            + ";;"
            + sid(1001)
            + ")(A;;CR;;;"
            + sid(1102)
            + ")"
            + RESET_BY
            + sid(1102)
            + ")");
    assertThat(told()).isEmpty();
  }

  @Test
  void whatTheListAboveHandsOnAndDidNotArriveIsTold() throws IOException {
    domain("D:(A;;" + FULL + ";;;" + sid(1009) + ")");
    unit("a", "D:(A;CI;CR;;;" + sid(1102) + ")");
    user("bo", 1002, "a", "D:(A;CIID;CR;;;" + sid(1102) + ")");
    user("di", 1004, "a", "D:");
    user("zoe", 1009, "a", "D:P");
    group("pair", 1102, "D:(A;CIID;CR;;;" + sid(1102) + ")", "cn=bo,ou=a,dc=x");
    assertThat(findings())
        .singleElement()
        .satisfies(
            f -> {
              assertThat(f.kind().id()).isEqualTo("inheritance-not-applied");
              assertThat(FindingWords.sentence(f)).startsWith("di did not get what a hands on");
              assertThat(f.subjects()).hasSize(1);
            });
  }

  @Test
  void aDisabledAccountStillHoldsWhatIsDelegatedToItsGroups() throws IOException {
    people("D:" + RESET_BY + sid(1102) + ")");
    int at = ldif.indexOf("sAMAccountName: bo");
    ldif.insert(at, "userAccountControl: 514\n");
    assertThat(told()).containsExactly("disabled-account medium");
    Assessment assessment = assessment();
    Finding finding = findings().get(0);
    assertThat(FindingWords.sentence(finding))
        .contains("still holds 1 delegation, which comes back");
    Advice advice = Advice.of(assessment, finding);
    assertThat(advice.result().orElseThrow().words()).isEqualTo("proved least");
    assertThat(advice.changes()).hasSize(1);
    assertThat(advice.acts().ends()).extracting(a -> a.action().id()).contains("set-password");
    assertThat(Findings.of(assessment.with(advice.changes())))
        .noneMatch(f -> f.key().equals(finding.key()));
  }

  @Test
  void whatWasThereWhenAllWasAcceptedIsNoDelegation() throws IOException {
    people("D:" + RESET_BY + sid(1001) + ")");
    assessment();
    Path survey =
        new Surveyor(Secret.Origins.PROCESS, Clock.systemUTC(), (source, count) -> {})
            .take(root, List.of(), Optional.empty())
            .file();
    more = "findings: {accepted: " + root.relativize(survey) + "}\n";
    assertThat(told()).isEmpty();
    user("fay", 1005, "a", "D:" + RESET_BY + sid(1001) + ")");
    assertThat(findings())
        .singleElement()
        .satisfies(f -> assertThat(FindingWords.sentence(f)).contains("on fay, to ann"));
  }

  @Test
  void anAcceptedSurveyThatIsNotThereIsWrong() throws IOException {
    people("D:");
    more = "findings: {accepted: surveys/none.survey.zip}\n";
    assertThatThrownBy(this::findings)
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("compass.yaml:2")
        .hasMessageContaining("there is no survey \"surveys/none.survey.zip\"");
  }
}
