package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.audit.ActEffects;
import org.sobercompass.core.audit.ActEffects.Act;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.removal.Effects.Effect;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.system.Change;
import org.sobercompass.report.answers.AdviceWords;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.report.answers.FindingDetail;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.data.Prose;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.workspace.Workspace;

/** Findings and advice in words, on the demo: each removal, each effect, each case of a detail. */
class FindingWordsTest {
  @TempDir static Path demo;
  private static Workspace workspace;
  private static Assessment assessment;
  private static List<Finding> findings;
  private static AnswerContext ask;

  @BeforeAll
  static void write() {
    DemoFiles.write(demo);
    workspace = Workspace.open(demo);
    assessment = workspace.assessment(workspace.model());
    findings = Findings.of(assessment);
    ask = new AnswerContext(assessment.model(), workspace.zone(), workspace.problems());
  }

  private static Finding of(FindingKind kind, String word) {
    return findings.stream()
        .filter(f -> f.kind() == kind && FindingWords.sentence(f).contains(word))
        .findFirst()
        .orElseThrow();
  }

  private static int subject(SubjectKind kind, String name) {
    return NameResolver.find(assessment.model().facts(), kind, name).get(0);
  }

  private static int account(String login) {
    return subject(SubjectKind.ACCOUNT, login);
  }

  private static List<String> words(Change change) {
    return new AdviceWords(assessment).changes(List.of(change));
  }

  @Test
  void toLeaveAGroup() {
    int group = subject(SubjectKind.GROUP, "orders-raisers");
    assertThat(words(new Change.MembershipRemoved(account("ilse.brandt"), group, Via.MEMBER)))
        .containsExactly("take Ilse Brandt (ilse.brandt) out of orders-raisers");
  }

  @Test
  void toWithdrawARoleSaysWhereItStands() {
    Finding person = of(FindingKind.DIRECT_ASSIGNMENT, "Holder of Doors");
    assertThat(words(person.changes().get(0)))
        .containsExactly(
            "withdraw the role Holder of Doors from Maren Holt (maren.holt), everywhere"
                + " (assignments/doors.csv:9)");
  }

  @Test
  void toRemoveAnEntryOfAFolder() {
    Finding claim = of(FindingKind.UNSUPPORTED_INHERITANCE, "/glasshouses/2024");
    assertThat(words(claim.changes().get(0)))
        .containsExactly("remove the entry change for desk-helpers at /glasshouses/2024");
  }

  @Test
  void toWithdrawAnAdminRole() {
    Finding helper = of(FindingKind.DIRECT_ASSIGNMENT, "admin role Helper");
    assertThat(words(helper.changes().get(0)))
        .containsExactly(
            "withdraw the admin role Helper over Who works with money from Joss Merrin (desk)"
                + " (jmerrin) (assignments/admin.csv:4)");
  }

  @Test
  void toTakeAnEntryOffADirectoryObject() {
    Finding everyone = of(FindingKind.ASSIGNED_TO_EVERYONE, "finance-desks");
    assertThat(words(everyone.changes().get(0)))
        .containsExactly("take the entry of everyone signed in off finance-desks (write member)");
    Finding nobody = of(FindingKind.UNRESOLVED_TRUSTEE, "9317");
    assertThat(words(nobody.changes().get(0)).get(0))
        .startsWith("take the entry of S-1-5-21-1871-2902-3733-9317 (nobody) off Hosts (");
  }

  private static Advice advice(List<Effect> ends, ActEffects acts) {
    return new Advice(
        Optional.of(Removal.Result.PROVED_LEAST), List.of(), new Effects(ends, List.of()), acts);
  }

  private static Effect opens(String login) {
    var doors = assessment.model().system("doors").orElseThrow();
    int right = doors.rights().find("door:open").orElseThrow();
    return new Effect(account(login), doors.number(), right, 0);
  }

  @Test
  void accountsThatLoseTheSameStandTogetherInBriefAndEachAloneInFull() {
    List<Effect> ends = new ArrayList<>();
    for (String login : List.of("ilse.brandt", "joss.merrin", "maren.holt", "edda.voss")) {
      ends.add(opens(login));
    }
    AdviceWords words = new AdviceWords(assessment);
    Advice advice = advice(ends, ActEffects.NONE);
    assertThat(words.ends(advice))
        .hasSize(4)
        .contains("Ilse Brandt (ilse.brandt) in Doors: door:open");
    assertThat(words.endsInBrief(advice))
        .containsExactly(
            "Ilse Brandt (ilse.brandt), Joss Merrin (joss.merrin), Maren Holt (maren.holt) and 1"
                + " more in Doors: door:open");
    assertThat(words.gives(advice)).isEmpty();
  }

  private static AdminAction action(String id) {
    return assessment.powers().roles().administration().action(id).orElseThrow();
  }

  private static Act act(String action, String object) {
    Key key = new Key(KeyKind.NODE, "desks", object);
    return new Act(account("ibeck"), action(action), key, object);
  }

  @Test
  void ofFullControlNothingElseIsSaidAndManyObjectsAreCounted() {
    List<Act> acts =
        List.of(
            act("full-control", "one"),
            act("unlock", "one"),
            act("full-control", "two"),
            act("full-control", "three"),
            act("full-control", "four"),
            act("set-password", "five"),
            act("unlock", "five"));
    assertThat(
            new AdviceWords(assessment)
                .ends(advice(List.of(), new ActEffects(acts, List.of(), 5, 5))))
        .containsExactly(
            "Ivo Beck (desk) (ibeck): full control on one, two, three and 1 more",
            "Ivo Beck (desk) (ibeck): set a new password, unlock on five");
  }

  @Test
  void whatWasNotAskedIsSaid() {
    ActEffects acts = new ActEffects(List.of(act("unlock", "one")), List.of(), 1_000, 180_000);
    assertThat(new AdviceWords(assessment).endsInBrief(advice(List.of(), acts)))
        .hasSize(2)
        .last()
        .isEqualTo(
            "perhaps more: admin actions were asked about on the first 1000 of 180000 objects"
                + " only");
    assertThat(acts.isNone()).isFalse();
    assertThat(new ActEffects(List.of(), List.of(), 1_000, 180_000).isNone()).isFalse();
  }

  private static String detail(Finding finding) {
    Advice advice = Advice.of(assessment, finding);
    return new FindingDetail(ask, assessment, finding, advice)
        .text("", Optional.empty(), new Prose(110, false));
  }

  @Test
  void aDetailSaysWhyWhomHowAndWhatEndsIt() {
    assertThat(detail(of(FindingKind.SEPARATION_OF_DUTIES, "Ilse Brandt")))
        .startsWith("Ilse Brandt (ilse.brandt) holds rights that must be kept apart")
        .contains("Why it weighs high", "it comes by 2 assignments")
        .contains("└─ listed in orders-raisers")
        .contains("The least removals (proved least)")
        .contains("and give nobody anything.")
        .contains("accepted-by: WHO");
  }

  @Test
  void aDetailOfADecisionNamesNoRemovals() {
    assertThat(detail(of(FindingKind.PASSWORD_IN_CLEAR, "ledger-reader")))
        .contains("What ends it (a decision)")
        .doesNotContain("least removals");
  }

  @Test
  void aDetailOfWhatChangesNothingSaysSo() {
    assertThat(detail(of(FindingKind.REDUNDANT_ASSIGNMENT, "staff-herbarium")))
        .contains("They change nothing that anybody holds")
        .doesNotContain("They end");
  }

  @Test
  void aDetailOfSeveralNamesThemForAWaiver() {
    assertThat(detail(of(FindingKind.ADMINISTERS_MORE_POWERFUL, "Edda Voss")))
        .contains("Concerns 2 subjects")
        .contains("subjects: [\"account:desks/");
  }

  @Test
  void aDetailOfAnAcceptedOneSaysByWhomAndWhatIsDoneInstead() {
    Triage sorted =
        Triage.of(findings, workspace.waivers(), assessment.model().asOf().getEpochSecond());
    Triage.Waived waived = sorted.waived().get(0);
    String text =
        new FindingDetail(ask, assessment, waived.finding(), Advice.NONE)
            .text("seen from 2026-01-01 to 2026-02-02", Optional.of(waived), new Prose(110, false));
    assertThat(text)
        .contains("seen from 2026-01-01 to 2026-02-02")
        .contains("Accepted by Edda Voss until 2027-06-30")
        .contains("instead: ")
        .doesNotContain("accepted-by: WHO");
    assertThat(waived.waiver().until()).isEqualTo(LocalDate.of(2027, 6, 30));
  }

  @Test
  void theHeadingCountsByWeightAndTheAcceptedApart() {
    assertThat(FindingAnswers.heading(new Triage(List.of(), List.of(), List.of())))
        .isEqualTo("No findings.");
    Finding high = of(FindingKind.SEPARATION_OF_DUTIES, "Ilse Brandt");
    Finding low = of(FindingKind.REDUNDANT_ASSIGNMENT, "staff-herbarium");
    assertThat(FindingAnswers.heading(new Triage(List.of(high), List.of(), List.of())))
        .isEqualTo("1 finding: 1 high.");
    Triage sorted =
        Triage.of(findings, workspace.waivers(), assessment.model().asOf().getEpochSecond());
    assertThat(FindingAnswers.heading(new Triage(List.of(high, low), sorted.waived(), List.of())))
        .isEqualTo("2 findings: 1 high, 1 low; 1 accepted.");
  }

  @Test
  void keysInNotesAreNamed() {
    FindingAnswers answers = new FindingAnswers(ask);
    String key = assessment.model().facts().key(account("ilse.brandt")).text();
    assertThat(answers.named("open: " + key + ", and more"))
        .isEqualTo("open: Ilse Brandt (ilse.brandt), and more");
    assertThat(answers.named("account:nowhere/x stays")).isEqualTo("account:nowhere/x stays");
  }

  @Test
  void theFullSheetHasEachFindingOnceWithItsState() {
    Triage sorted =
        Triage.of(findings, workspace.waivers(), assessment.model().asOf().getEpochSecond());
    AnswerTable sheet = new FindingAnswers(ask).full(sorted, assessment, Map.of());
    assertThat(sheet.rows()).hasSize(findings.size());
    assertThat(sheet.rows()).extracting(row -> row.get(0)).doesNotHaveDuplicates();
    assertThat(sheet.rows()).filteredOn(row -> row.contains("accepted")).hasSize(1);
    assertThat(sheet.rows())
        .filteredOn(row -> row.get(1).equals("owner-not-administrator"))
        .allSatisfy(row -> assertThat(row.get(13)).isEqualTo(""));
  }
}
