package org.sobercompass.sources.rules;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.audit.ActEffects;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;
import org.sobercompass.report.findings.FindingWords;

/** Findings about who administers whom, and what lies within reach: yes, no, the border. */
class AdminFindingsTest {
  @TempDir Path root;
  private SmallWorkspace world;

  @BeforeEach
  void people() {
    world = new SmallWorkspace(root).account("ann").account("bo").account("cy");
    world.group("crew", "bo").group("keepers", "cy").given("reader,group,crew,top,,,");
  }

  /** Scopes and who is set over them: desk sets passwords and unlocks, editor edits members. */
  private SmallWorkspace admin(String scopes, String... rows) {
    return world
        .rules("admin: admin.yaml")
        .file(
            "admin.yaml",
            "scopes:\n  "
                + scopes
                + "\nroles:\n  desk: {actions: [set-password, unlock]}\n"
                + "  key: {actions: [unlock]}\n  editor: {actions: [edit-members]}\n"
                + "powers: {vault: {name: open the vault, groups: [keepers]}}\n"
                + "assignments: admin.csv\n")
        .file(
            "admin.csv",
            "role,kind,subject,scope,from,until,on\n" + String.join("\n", rows) + "\n");
  }

  private List<Finding> of(String kind) {
    return world.findings().stream().filter(f -> f.kind().id().equals(kind)).toList();
  }

  private static List<String> subjects(Finding finding) {
    return finding.subjects().stream().map(Key::id).toList();
  }

  @Test
  void whoSetsThePasswordOfTheMorePowerfulCanActAsThem() {
    admin("s: {include: [{account: cy}]}", "desk,account,ann,s,,,");
    assertThat(of("administers-more-powerful"))
        .singleElement()
        .satisfies(
            f -> {
              assertThat(f.cause().id()).isEqualTo("uid=cy,dc=x");
              assertThat(f.rule()).isEqualTo("vault");
              assertThat(subjects(f)).containsExactly("uid=ann,dc=x");
              assertThat(FindingWords.evidence(f).get(0))
                  .startsWith("ann → ")
                  .contains("set a new password: cy");
            });
    assertThat(of("escalation-path")).isEmpty();
  }

  @Test
  void unlockingThemIsNotActingAsThem() {
    admin("s: {include: [{account: cy}]}", "key,account,ann,s,,,");
    assertThat(of("administers-more-powerful")).isEmpty();
  }

  @Test
  void whoHasThePowerAsWellIsNotLessPowerful() {
    admin("s: {include: [{account: cy}]}", "desk,group,keepers,s,,,");
    assertThat(of("administers-more-powerful")).isEmpty();
  }

  @Test
  void onTheLastDayOfItsWindowAnAssignmentStillLeadsThere() {
    admin("s: {include: [{account: cy}]}", "desk,account,ann,s,,2026-06-01,");
    assertThat(of("administers-more-powerful")).hasSize(1);
  }

  @Test
  void afterItsWindowAnAssignmentLeadsNowhere() {
    admin("s: {include: [{account: cy}]}", "desk,account,ann,s,,2026-05-31,");
    assertThat(of("administers-more-powerful")).isEmpty();
  }

  @Test
  void whoEditsTheGroupThatHasThePowerCanTakeIt() {
    admin("s: {include: [{group: keepers, groups: object}]}", "editor,account,ann,s,,,");
    assertThat(of("escalation-path"))
        .singleElement()
        .satisfies(
            f -> {
              assertThat(f.cause().id()).isEqualTo("vault");
              assertThat(subjects(f)).containsExactly("uid=ann,dc=x");
            });
    assertThat(of("administers-more-powerful")).isEmpty();
  }

  @Test
  void twoStepsAreWithinReachAsWell() {
    admin(
        "s: {include: [{group: keepers, groups: object}]}\n  t: {include: [{account: ann}]}",
        "editor,account,ann,s,,,",
        "desk,account,bo,t,,,");
    assertThat(of("escalation-path"))
        .singleElement()
        .satisfies(
            f -> assertThat(subjects(f)).containsExactlyInAnyOrder("uid=ann,dc=x", "uid=bo,dc=x"));
  }

  @Test
  void editingTheMembersOfTheGroupIsNotEditingTheGroup() {
    admin("s: {include: [{group: keepers, groups: members}]}", "editor,account,ann,s,,,");
    assertThat(of("escalation-path")).isEmpty();
  }

  @Test
  void whoEditsTheGroupThatMakesTheScopeCanWidenIt() {
    admin(
        "s: {include: [{group: crew, groups: members}]}\n"
            + "  g: {include: [{group: crew, groups: object}]}",
        "desk,account,ann,s,,,",
        "editor,account,ann,g,,,");
    assertThat(of("scope-can-be-widened"))
        .singleElement()
        .satisfies(
            f -> {
              assertThat(f.cause().id()).isEqualTo("s");
              assertThat(f.weight().word()).isEqualTo("high");
              assertThat(FindingWords.sentence(f)).contains("ann").contains("crew");
            });
  }

  @Test
  void anotherOneWhoEditsTheGroupDoesNotWidenHisOwnScope() {
    admin(
        "s: {include: [{group: crew, groups: members}]}\n"
            + "  g: {include: [{group: crew, groups: object}]}",
        "desk,account,ann,s,,,",
        "editor,account,cy,g,,,");
    assertThat(of("scope-can-be-widened")).isEmpty();
  }

  @Test
  void aScopeOfTheGroupItselfIsNotWidenedByItsMembers() {
    admin("s: {include: [{group: crew, groups: object}]}", "editor,account,ann,s,,,");
    assertThat(of("scope-can-be-widened")).isEmpty();
  }

  @Test
  void anAdministratorInsideTheOwnScopeIsTold() {
    admin("s: {include: [{subtree: \"dc=x\", groups: object}]}", "key,account,bo,s,,,");
    assertThat(of("inside-own-scope"))
        .singleElement()
        .satisfies(f -> assertThat(subjects(f)).containsExactly("uid=bo,dc=x"));
  }

  @Test
  void whoIsExceptedIsNotInsideTheOwnScope() {
    admin(
        "s: {include: [{subtree: \"dc=x\", groups: object}], except: [{account: bo}]}",
        "key,account,bo,s,,,");
    assertThat(of("inside-own-scope")).isEmpty();
  }

  private void bothSides() {
    admin("s: {include: [{account: ann}]}");
    world.head("administrators: [both]").given("both,account,ann,top,,,");
  }

  @Test
  void powerOnOneSideOnlyIsToldBothWaysWhereTheWorkspaceAsks() {
    bothSides();
    assertThat(world.kinds())
        .doesNotContain("power-only-in-application", "power-only-in-directory");
    world.rules("findings: {both-sides: [app]}");
    assertThat(of("power-only-in-application"))
        .singleElement()
        .satisfies(f -> assertThat(subjects(f)).containsExactly("uid=ann,dc=x"));
    assertThat(of("power-only-in-directory"))
        .singleElement()
        .satisfies(f -> assertThat(subjects(f)).containsExactly("uid=cy,dc=x"));
  }

  @Test
  void whoHasBothPowersIsOnNoSideOnly() {
    bothSides();
    world.given("both,group,keepers,top,,,").rules("findings: {both-sides: [app]}");
    assertThat(of("power-only-in-directory")).isEmpty();
    assertThat(of("power-only-in-application")).hasSize(1);
  }

  @Test
  void twoAccountsOfOnePersonHaveBothPowers() {
    bothSides();
    world.rules("findings: {both-sides: [app]}");
    world.rules("persons: {file: p.csv}");
    world.file("p.csv", "account,other,same,reason\nann,cy,yes,she says so\n");
    assertThat(of("power-only-in-directory")).isEmpty();
    assertThat(of("power-only-in-application")).isEmpty();
  }

  @Test
  void oneSideHeldAndTheOtherInAGroupThatOneMayEditMayMeet() {
    admin("s: {include: [{group: crew, groups: object}]}", "editor,account,ann,s,,,");
    world.given("a,account,ann,top,,,", "b,group,crew,top,,,");
    world.rules(
        "separation: [{id: r, sides: [[app:a:edit], [app:b:edit]]}]\n"
            + "findings: {off: [conflicting-role, direct-assignment]}");
    assertThat(of("separation-of-duties")).isEmpty();
    assertThat(of("potential-conflict"))
        .singleElement()
        .satisfies(
            f -> {
              assertThat(f.cause().id()).isEqualTo("uid=ann,dc=x");
              assertThat(FindingWords.of(f).why()).anyMatch(w -> w.contains("could give itself"));
            });
  }

  @Test
  void oneSideHeldAndTheOtherOutOfReachDoNotMeet() {
    admin("s: {include: [{group: keepers, groups: object}]}", "editor,account,ann,s,,,");
    world.given("a,account,ann,top,,,", "b,group,crew,top,,,");
    world.rules("separation: [{id: r, sides: [[app:a:edit], [app:b:edit]]}]");
    assertThat(of("potential-conflict")).isEmpty();
  }

  private List<String> ofRoles() {
    return world.findings().stream()
        .filter(f -> f.cause().text().startsWith("assignment:admin/"))
        .map(f -> f.kind().id() + " " + f.weight().word())
        .toList();
  }

  private static final String ALL = "s: {include: [{subtree: \"dc=x\", groups: object}]}";

  @Test
  void anAdminRoleGivenToAGroupIsFine() {
    admin(ALL, "desk,group,crew,s,,,");
    assertThat(ofRoles()).isEmpty();
  }

  @Test
  void anAdminRoleGivenToAPersonIsToldByWhatItGivesAndOverWhat() {
    admin(ALL, "desk,account,ann,s,,,");
    assertThat(ofRoles()).containsExactly("direct-assignment low");
    admin(ALL, "desk,account,ann,everything,,,");
    assertThat(ofRoles()).containsExactly("direct-assignment medium");
    admin(ALL, "key,account,ann,everything,,,");
    assertThat(ofRoles()).containsExactly("direct-assignment low");
  }

  @Test
  void anAdminRoleIsOverAfterItsLastDay() {
    admin(ALL, "desk,group,crew,s,,2026-06-01,");
    assertThat(ofRoles()).isEmpty();
    admin(ALL, "desk,group,crew,s,,2026-05-31,");
    assertThat(ofRoles()).containsExactly("expired-assignment low");
    admin(ALL, "desk,group,crew,s,,2026-05-31,no");
    assertThat(ofRoles()).isEmpty();
  }

  @Test
  void theSameGivenTwiceIsTwoFindings() {
    admin(ALL, "desk,account,ann,s,,2026-07-01,", "desk,account,ann,s,2026-08-01,,");
    assertThat(of("direct-assignment"))
        .extracting(f -> f.cause().text())
        .containsExactly("assignment:admin/desk#2/ann/s", "assignment:admin/desk/ann/s");
    Assessment assessment = world.assessment();
    Finding later = of("direct-assignment").get(0);
    assertThat(later.changes()).containsExactly(assessment.powers().withdrawal(1));
    assertThat(Findings.of(assessment.with(later.changes())))
        .filteredOn(f -> f.kind().id().equals("direct-assignment"))
        .hasSize(1);
  }

  @Test
  void anAdminRoleGivenToNobodyOrToAGroupWithNobodyInItIsTold() {
    world.group("hollow");
    admin(ALL, "desk,group,hollow,s,,,");
    assertThat(ofRoles()).containsExactly("assigned-to-empty-group low");
    admin(ALL, "desk,account,zed,s,,,");
    assertThat(ofRoles()).containsExactly("unresolved-subject low");
  }

  @Test
  void anAdminRoleGivenToHalfOfTheDirectoryIsTold() {
    String[] members = new String[5];
    for (int i = 0; i < 7; i++) {
      world.account("p" + i);
      if (i < 5) {
        members[i] = "p" + i;
      }
    }
    world.group("many", members);
    admin(ALL, "desk,group,many,s,,,");
    assertThat(ofRoles()).containsExactly("assigned-to-large-group medium");
    world.account("q");
    assertThat(ofRoles()).isEmpty();
  }

  @Test
  void anAdminRoleOverEverythingIsToldWhereThreeOthersAreOverAScope() {
    world.group("n", "ann").group("m", "bo");
    String t = ALL + "\n  t: {include: [{account: ann}]}\n  u: {include: [{account: bo}]}";
    admin(t, "desk,group,crew,everything,,,", "desk,group,n,s,,,", "desk,group,m,t,,,");
    assertThat(ofRoles()).isEmpty();
    admin(
        t,
        "desk,group,crew,everything,,,",
        "desk,group,n,s,,,",
        "desk,group,m,t,,,",
        "desk,group,n,u,,,");
    assertThat(ofRoles()).containsExactly("unscoped-assignment medium");
  }

  @Test
  void anAdminRoleThatAnotherCoversIsToldAndWithdrawingItChangesNothing() {
    world.group("inner", "ann").group("outer", "inner");
    admin(ALL, "desk,group,outer,s,,,", "key,group,inner,s,,,");
    assertThat(ofRoles()).containsExactly("redundant-assignment low");
    Assessment assessment = world.assessment();
    Finding finding = of("redundant-assignment").get(0);
    Advice advice = Advice.of(assessment, finding);
    assertThat(advice.changes()).hasSize(1);
    assertThat(advice.changesNothing()).isTrue();
    assertThat(Findings.of(assessment.with(advice.changes())))
        .noneMatch(f -> f.key().equals(finding.key()));
  }

  @Test
  void anAdminRoleThatLastsLongerOrGivesMoreOrReachesOthersIsNotCovered() {
    world.group("inner", "ann").group("outer", "inner");
    admin(ALL, "desk,group,outer,s,,2026-12-31,", "key,group,inner,s,,,");
    assertThat(ofRoles()).isEmpty();
    admin(ALL, "key,group,outer,s,,,", "desk,group,inner,s,,,");
    assertThat(ofRoles()).isEmpty();
    admin(ALL, "desk,group,inner,s,,,", "key,group,outer,s,,,");
    assertThat(ofRoles()).isEmpty();
    admin(ALL, "desk,group,outer,s,,,", "key,group,inner,everything,,,");
    assertThat(ofRoles()).isEmpty();
  }

  @Test
  void whoSetsThePasswordIsKeptFromItByTheLeastRemovals() {
    admin("s: {include: [{account: cy}]}", "desk,account,ann,s,,,");
    Assessment assessment = world.assessment();
    Finding finding = of("administers-more-powerful").get(0);
    Advice advice = Advice.of(assessment, finding);
    assertThat(advice.changes()).containsExactly(exception(assessment, "cy"));
    assertThat(advice.acts().ends())
        .extracting(act -> act.action().id() + " " + act.object().id())
        .containsExactlyInAnyOrder("set-password uid=cy,dc=x", "unlock uid=cy,dc=x");
    assertThat(advice.acts().gives()).isEmpty();
  }

  /** Taking the desk from all who sit at it would take everybody else's help away too. */
  @Test
  void theMorePowerfulIsExceptedFromTheScopeAndTheDeskKeepsItsWork() {
    world.account("dee").group("crew2", "ann", "bo");
    admin("s: {include: [{account: cy}, {account: dee}]}", "desk,group,crew2,s,,,");
    Assessment assessment = world.assessment();
    Finding finding = of("administers-more-powerful").get(0);
    Advice advice = Advice.of(assessment, finding);
    assertThat(advice.changes()).containsExactly(exception(assessment, "cy"));
    assertThat(advice.acts().ends())
        .extracting(act -> act.object().id())
        .containsOnly("uid=cy,dc=x");
    assertThat(Findings.of(assessment.with(advice.changes())))
        .noneMatch(f -> f.key().equals(finding.key()));
  }

  /** The first admin role that is ever given counts as well. */
  @Test
  void theFirstAdminRoleThatIsGivenShowsWhatItGives() {
    admin("s: {include: [{account: cy}]}");
    Assessment assessment = world.assessment();
    Key bo = new Key(KeyKind.ACCOUNT, "main", "uid=bo,dc=x");
    Step.Assignment what =
        new Step.Assignment(
            "admin roles", "key", bo, "s", true, Optional.empty(), Optional.empty());
    Proposal proposal = new Proposal("", List.of(new Step.Assign(what)));
    assertThat(ActEffects.of(assessment, proposal.on(assessment.model()).changes()).gives())
        .extracting(act -> act.action().id() + " " + act.object().id())
        .containsExactly("unlock uid=cy,dc=x");
  }

  private static Change exception(Assessment assessment, String account) {
    Key key = new Key(KeyKind.ACCOUNT, "main", "uid=" + account + ",dc=x");
    return assessment.powers().exception(0, assessment.model().facts().find(key).orElseThrow());
  }

  @Test
  void aPowerWithinReachIsPutOutOfReachByItsSteps() {
    admin(
        "s: {include: [{group: keepers, groups: object}]}\n  t: {include: [{account: ann}]}",
        "editor,account,ann,s,,,",
        "desk,account,bo,t,,,");
    Assessment assessment = world.assessment();
    Finding finding = of("escalation-path").get(0);
    Advice advice = Advice.of(assessment, finding);
    assertThat(advice.changes()).hasSize(1);
    assertThat(advice.result().orElseThrow().words()).isEqualTo("best found within the bound");
    assertThat(Findings.of(assessment.with(advice.changes())))
        .noneMatch(f -> f.key().equals(finding.key()));
  }

  @Test
  void anAccountThatReadsForUsAndMayWriteIsTold() {
    world.head("sight: {directory: main, bind: bo}");
    admin("s: {include: [{account: ann}]}", "desk,account,bo,s,,,");
    assertThat(of("reading-account-writes"))
        .singleElement()
        .satisfies(
            f ->
                assertThat(FindingWords.sentence(f))
                    .contains("bo")
                    .endsWith("by the admin role desk"));
  }

  @Test
  void anAccountThatOnlyReadsIsNot() {
    world.head("sight: {directory: main, bind: bo}");
    admin("s: {include: [{account: ann}]}", "desk,account,ann,s,,,");
    assertThat(of("reading-account-writes")).isEmpty();
  }
}
