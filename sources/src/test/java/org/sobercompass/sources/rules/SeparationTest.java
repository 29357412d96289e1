package org.sobercompass.sources.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.report.findings.FindingWords;

/** Separation of duties: where, for whom, of what, and what is nearly a conflict. */
class SeparationTest {
  private static final String SIDES = "sides: [[app:a:edit], [app:b:edit]]";

  @TempDir Path root;
  private SmallWorkspace world;

  @BeforeEach
  void people() {
    world = new SmallWorkspace(root).account("ann", "employeeNumber: 7").account("bo");
    world.group("as", "ann").group("bs", "ann");
  }

  private SmallWorkspace rule(String more) {
    return world.rules(
        "separation: [{id: r, " + SIDES + more + "}]\nfindings: {off: [conflicting-role]}");
  }

  private List<Finding> conflicts() {
    return world.findings().stream()
        .filter(
            f ->
                f.kind() == org.sobercompass.core.findings.FindingKind.SEPARATION_OF_DUTIES
                    || f.kind() == org.sobercompass.core.findings.FindingKind.POTENTIAL_CONFLICT)
        .toList();
  }

  private List<String> kinds() {
    return conflicts().stream().map(f -> f.kind().id()).toList();
  }

  @Test
  void whatEveryoneGetsWithWhatAGroupGetsIsOneConflictOfTheGroup() {
    world.group("pair", "ann", "bo").given("a,implicit,signed-in,top,,,", "b,group,pair,top,,,");
    rule("");
    assertThat(conflicts())
        .singleElement()
        .satisfies(
            f -> {
              assertThat(f.cause().text()).isEqualTo("group:main/cn=pair,dc=x");
              assertThat(f.subjects()).hasSize(2);
              assertThat(FindingWords.of(f).advice()).contains("from the group pair");
            });
  }

  @Test
  void whatEveryoneGetsOnBothSidesIsOneConflictOfEveryone() {
    world.given("a,implicit,signed-in,top,,,", "b,implicit,signed-in,top,,,");
    rule("");
    assertThat(conflicts())
        .singleElement()
        .satisfies(
            f -> {
              assertThat(f.cause().text()).isEqualTo("implicit:signed-in");
              assertThat(f.subjects()).hasSize(2);
            });
  }

  @Test
  void whatAUnitGetsIsOneConflictOfTheUnitAndWithAGroupInItOfTheGroup() {
    world.unit("dc=x").given("a,unit,dc=x,top,,,", "b,unit,dc=x,top,,,");
    rule("");
    assertThat(conflicts())
        .singleElement()
        .satisfies(f -> assertThat(f.cause().text()).startsWith("unit:main/"));
    world = new SmallWorkspace(root).account("ann").account("bo").group("pair", "ann", "bo");
    world.unit("dc=x").given("a,unit,dc=x,top,,,", "b,group,pair,top,,,");
    rule("");
    assertThat(conflicts())
        .singleElement()
        .satisfies(f -> assertThat(f.cause().text()).isEqualTo("group:main/cn=pair,dc=x"));
  }

  @Test
  void oneWhoIsKeptFromItLeavesTheOthersTheirOwnCause() {
    world.account("cy").group("pair", "ann", "bo").combining("deny-overrides");
    world.given("a,implicit,signed-in,top,,,", "b,group,pair,top,,,", "stop,account,bo,top,,,");
    rule("");
    assertThat(conflicts())
        .singleElement()
        .satisfies(f -> assertThat(f.cause().text()).isEqualTo("account:main/uid=ann,dc=x"));
  }

  @Test
  void atDifferentNodesItIsAConflictAnywhereOnly() {
    world.given("a,group,as,north,,,", "b,group,bs,south,,,");
    rule("");
    assertThat(kinds()).containsExactly("separation-of-duties");
  }

  @Test
  void atDifferentNodesItIsNoConflictAtOneNodeNorOverlapping() {
    world.given("a,group,as,north,,,", "b,group,bs,south,,,");
    rule(", where: overlapping");
    assertThat(kinds()).isEmpty();
  }

  @Test
  void aNodeAboveTheOtherOverlapsAndReachesIt() {
    world.given("a,group,as,south,,,", "b,group,bs,house,,,");
    rule(", where: same-node");
    assertThat(kinds()).containsExactly("separation-of-duties");
  }

  @Test
  void whereSidesMeetIsToldAndTakenAwayAndNotWhatIsHeldElsewhere() {
    world.group("others", "ann", "bo").given("a,group,others,south,,,", "a,group,as,north,,,");
    world.given("b,group,bs,north,,,");
    rule(", where: same-node");
    Assessment assessment = world.assessment();
    Finding finding = conflicts().get(0);
    assertThat(FindingWords.evidence(finding)).hasSize(2).allMatch(t -> t.contains("at north"));
    assertThat(FindingWords.of(finding).why())
        .contains("it comes by 3 assignments", "held at one node");
    Advice advice = Advice.of(assessment, finding);
    assertThat(advice.result().orElseThrow().words()).isEqualTo("proved least");
    assertThat(advice.effects().ends()).allMatch(e -> e.account() == 0);
    assertThat(advice.effects().ends()).isNotEmpty();
  }

  @Test
  void whoMayHoldBothAllTheSameIsNoConflict() {
    world.given("a,group,as,top,,,", "b,group,bs,top,,,");
    rule(", except: [group as]");
    assertThat(kinds()).isEmpty();
  }

  @Test
  void rolesCountByBeingGivenWithThoseThatIncludeThem() {
    world.given("both,group,as,top,,,");
    world.rules(
        "separation: [{id: r, sides: [[role app:a], [role app:b]]}]\n"
            + "findings: {off: [conflicting-role]}");
    assertThat(conflicts())
        .singleElement()
        .satisfies(f -> assertThat(f.cause().text()).isEqualTo("role:app/both"));
  }

  @Test
  void aRoleOfWhichItIsNotKnownWhetherItIsGivenMayMeetTheOther() {
    world.head("sight: {directory: main, group-filter: '(|(!(uidNumber=*))(uidNumber>=5))'}");
    world.people.append("dn: cn=odd,dc=x\nobjectClass: groupOfNames\ncn: odd\n");
    world.people.append("uidNumber: word\nmember: uid=ann,dc=x\n\n");
    world.given("a,group,as,top,,,", "b,group,odd,top,,,");
    world.rules(
        "separation: [{id: r, sides: [[role app:a], [role app:b]]}]\n"
            + "findings: {off: [conflicting-role]}");
    assertThat(conflicts())
        .singleElement()
        .satisfies(
            f -> {
              assertThat(f.kind().id()).isEqualTo("potential-conflict");
              assertThat(FindingWords.sentence(f))
                  .endsWith("in app it is not known whether it is held");
            });
  }

  @Test
  void whoIsBlockedOnBothSidesIsNoConflict() {
    world.given("a,group,as,top,,,", "b,group,bs,top,,,");
    rule("");
    world.head("register: r.csv").file("r.csv", "kind,subject,active\naccount,bo,yes\n");
    assertThat(kinds()).isEmpty();
  }

  @Test
  void aRoleThatBreaksARuleByItselfIsToldThoughNobodyHoldsIt() {
    world.given("a,group,as,top,,,").rules("separation: [{id: r, " + SIDES + "}]");
    assertThat(world.findings())
        .extracting(f -> f.kind().id() + " " + f.cause().text())
        .containsExactly("conflicting-role role:app/both");
  }

  @Test
  void aTableOfTasksMakesARuleOfEachPair() {
    world.given("a,group,as,top,,,", "b,group,bs,top,,,");
    world.rules("separation-table: t.csv\nfindings: {off: [conflicting-role]}");
    world.file("t.csv", "task,needs,not with\nwrite,app:a:edit,check\ncheck,app:b:edit,write\n");
    assertThat(conflicts())
        .singleElement()
        .satisfies(f -> assertThat(f.rule()).isEqualTo("check+write"));
  }

  @Test
  void sidesOfWhichOneContainsTheOtherAreWrong() {
    world.given("a,group,as,top,,,", "b,group,bs,top,,,");
    world.rules(
        "separation: [{id: r, at-least: 2, sides: [[app:a:edit], [app:b:edit], [app:b:view]]}]");
    assertThatThrownBy(world::findings)
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("one contains the other");
  }

  @Test
  void whatIsAdvisedEndsItAndSaysWhatElseEnds() {
    world.given("a,group,as,top,,,", "b,group,bs,top,,,");
    rule("");
    Assessment assessment = world.assessment();
    Finding finding = conflicts().get(0);
    Advice advice = Advice.of(assessment, finding);
    assertThat(advice.changes()).hasSize(1);
    assertThat(advice.result().orElseThrow().words()).isEqualTo("proved least");
    assertThat(advice.effects().ends()).isNotEmpty();
    assertThat(Findings.of(assessment.with(advice.changes())))
        .noneMatch(f -> f.key().equals(finding.key()));
  }

  @Test
  void rulesThatNameWhatIsNotThereAreToldWithTheNearest() {
    world.given("a,group,as,top,,,");
    world.rules(
        "separation: [{id: r, where: nowhere, per: house, except: [group az],"
            + " sides: [[app:a:edti], [role app:bb], [act fly on ann]]}]\n"
            + "findings: {broad: {share: 101}, nesting: no, off: [redundnt], peers: {at-least: 1},"
            + " owners: [cats], from-anywhere: [moon]}");
    assertThatThrownBy(world::findings)
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("\"a:edti\"")
        .hasMessageContaining("did you mean")
        .hasMessageContaining("where: \"nowhere\" is not known")
        .hasMessageContaining("per: \"house\" is not known")
        .hasMessageContaining("there is no group \"az\"")
        .hasMessageContaining("there is no role \"bb\"")
        .hasMessageContaining("there is no admin action \"fly\"")
        .hasMessageContaining("share: \"101\" is out of range")
        .hasMessageContaining("nesting: \"no\" is no whole number")
        .hasMessageContaining("at-least: \"1\" is out of range")
        .hasMessageContaining("there is no kind of finding \"redundnt\"")
        .hasMessageContaining("\"cats\" is nothing that has an owner")
        .hasMessageContaining("there is no power \"moon\"");
  }

  @Test
  void usageInTheFutureIsWrongAndOfUnknownAccountsIsCounted() {
    world.given("a,group,as,top,,,");
    world.rules("usage: [{application: app, file: u.csv, since: 2026-01-01}]");
    world.file("u.csv", "account,permission,last\nann,a:edit,2027-01-01\nzed,a:edit,2026-05-05\n");
    assertThatThrownBy(world::findings)
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("u.csv:2")
        .hasMessageContaining("in the future");
    world.file("u.csv", "account,permission,last\nzed,a:edit,2026-05-05\n");
    assertThat(world.open().problems())
        .anyMatch(p -> p.toString().contains("1 account with records of use"));
  }
}
