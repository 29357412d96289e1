package org.sobercompass.core.findings.separation;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.SmallOffice;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.SeparationDetails.Conflict;
import org.sobercompass.core.findings.details.SeparationDetails.ConflictingRole;
import org.sobercompass.core.findings.details.SeparationDetails.Near;
import org.sobercompass.core.findings.details.SeparationDetails.Together;
import org.sobercompass.core.findings.details.Who;
import org.sobercompass.core.problem.Place;

/** What is found of separation of duties, as data. */
class SeparationFinderTest {
  private final SmallOffice office = new SmallOffice().accounts("ann", "bo", "cy");

  private static Side side(String system, String right) {
    return new Permission(system, SmallOffice.right(right));
  }

  /** Owning a and owning b are kept apart; in x, or one in x and one in y. */
  private void rule(SeparationRule.Where where, List<Integer> except, Side one, Side other) {
    SeparationRule rule =
        new SeparationRule(
            "apart",
            "nobody does both",
            List.of(List.of(one), List.of(other)),
            2,
            where,
            false,
            except,
            Weight.HIGH,
            Place.of("test"));
    office.rules(r -> r.separation(List.of(rule)));
  }

  private void rule() {
    rule(SeparationRule.Where.ANYWHERE, List.of(), side("x", "a:own"), side("x", "b:own"));
  }

  private Finding only(FindingKind kind) {
    List<Finding> found = office.find(kind);
    assertThat(found).hasSize(1);
    return found.get(0);
  }

  @Test
  void aRoleWithBothSidesIsTheCauseForAllWhoHoldIt() {
    office.group("crew", "ann", "bo").given("x", "both", "crew", "top");
    rule();
    Finding finding = only(FindingKind.SEPARATION_OF_DUTIES);
    Conflict about = (Conflict) finding.details();
    assertThat(about.in()).isEqualTo(Together.ROLE);
    assertThat(about.who()).isEqualTo(new Who(2, office.subject("ann")));
    assertThat(about.strongest()).isEqualTo(2);
    assertThat(about.assignments()).as("of one role it is not asked").isZero();
    assertThat(about.rule().near()).isEqualTo(Near.ANYWHERE);
    assertThat(finding.cause().text()).isEqualTo("role:x/both");
    assertThat(finding.evidence()).hasSize(4);
  }

  @Test
  void aGroupThatGetsBothIsTheCause() {
    office.group("crew", "ann", "bo").group("desk", "crew", "cy");
    office.given("x", "owner", "desk", "top").given("y", "owner", "crew", "top");
    rule(SeparationRule.Where.ANYWHERE, List.of(), side("x", "a:own"), side("y", "a:own"));
    Finding finding = only(FindingKind.SEPARATION_OF_DUTIES);
    Conflict about = (Conflict) finding.details();
    assertThat(about.in()).isEqualTo(Together.GROUP);
    assertThat(about.subject()).isEqualTo(office.subject("crew"));
    assertThat(finding.aim()).isInstanceOf(Remedy.Kept.class);
  }

  @Test
  void oneAccountIsTheCauseWhereNothingElseIs() {
    office.group("crew", "ann", "bo").given("x", "owner", "crew", "top");
    office.given("y", "owner", "ann", "top").given("y", "owner", "ann", "north");
    rule(SeparationRule.Where.ANYWHERE, List.of(), side("x", "a:own"), side("y", "a:own"));
    Conflict about = (Conflict) only(FindingKind.SEPARATION_OF_DUTIES).details();
    assertThat(about.in()).isEqualTo(Together.ACCOUNT);
    assertThat(about.who()).isEqualTo(new Who(1, office.subject("ann")));
    assertThat(about.assignments()).isEqualTo(3);
  }

  @Test
  void everyoneIsTheCauseWhereEveryoneGetsBoth() {
    office.given("x", "owner", "everyone", "top").given("y", "owner", "everyone", "top");
    rule(SeparationRule.Where.ANYWHERE, List.of(), side("x", "a:own"), side("y", "a:own"));
    Conflict about = (Conflict) only(FindingKind.SEPARATION_OF_DUTIES).details();
    assertThat(about.in()).isEqualTo(Together.EVERYONE);
    assertThat(about.who().count()).isEqualTo(3);
  }

  @Test
  void whoIsExceptedBreaksNothing() {
    office.given("x", "both", "ann", "top");
    rule(
        SeparationRule.Where.ANYWHERE,
        List.of(office.subject("ann")),
        side("x", "a:own"),
        side("x", "b:own"));
    assertThat(office.find(FindingKind.SEPARATION_OF_DUTIES)).isEmpty();
  }

  @Test
  void atOneNodeTheSidesHaveToMeetThere() {
    office.given("x", "owner", "ann", "north").given("y", "owner", "ann", "south");
    office.given("x", "owner", "bo", "north").given("y", "owner", "bo", "top");
    rule(SeparationRule.Where.SAME_NODE, List.of(), side("x", "a:own"), side("y", "a:own"));
    Conflict about = (Conflict) only(FindingKind.SEPARATION_OF_DUTIES).details();
    assertThat(about.rule().near()).isEqualTo(Near.AT_ONE_NODE);
    assertThat(about.who()).isEqualTo(new Who(1, office.subject("bo")));
  }

  @Test
  void aRoleThatNobodyHoldsIsToldByItself() {
    office.given("x", "reader", "ann", "top");
    rule();
    Finding finding = only(FindingKind.CONFLICTING_ROLE);
    ConflictingRole about = (ConflictingRole) finding.details();
    assertThat(about.role().role()).isEqualTo(3);
    assertThat(finding.weight()).isEqualTo(Weight.MEDIUM);
    assertThat(finding.evidence()).hasSize(2);
    assertThat(office.find(FindingKind.SEPARATION_OF_DUTIES)).isEmpty();
  }

  @Test
  void whatIsBlockedOnOneSideMayBecomeAConflict() {
    office.account("dan", Facts.DISABLED, Facts.NEVER).given("x", "both", "dan", "top");
    rule();
    assertThat(office.find(FindingKind.SEPARATION_OF_DUTIES)).isEmpty();
    assertThat(office.find(FindingKind.POTENTIAL_CONFLICT)).as("none of it is usable").isEmpty();
  }

  @Test
  void nothingIsCloseWhereTheOtherSideIsNotHeld() {
    office.given("x", "owner", "ann", "top");
    rule();
    assertThat(office.find(FindingKind.POTENTIAL_CONFLICT, FindingKind.SEPARATION_OF_DUTIES))
        .isEmpty();
  }
}
