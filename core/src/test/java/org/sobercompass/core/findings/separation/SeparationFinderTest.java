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
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.SeparationDetails.Close;
import org.sobercompass.core.findings.details.SeparationDetails.Conflict;
import org.sobercompass.core.findings.details.SeparationDetails.ConflictingRole;
import org.sobercompass.core.findings.details.SeparationDetails.Missing;
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

  private boolean perPerson;

  /** Owning a and owning b are kept apart; in x, or one in x and one in y. */
  private void rule(SeparationRule.Where where, List<Integer> except, Side one, Side other) {
    SeparationRule rule =
        new SeparationRule(
            "apart",
            "nobody does both",
            List.of(List.of(one), List.of(other)),
            2,
            where,
            perPerson,
            except,
            Weight.HIGH,
            Place.of("test"));
    office.rules(r -> r.separation(List.of(rule)));
  }

  private void rule() {
    rule(SeparationRule.Where.ANYWHERE, List.of(), side("x", "a:own"), side("x", "b:own"));
  }

  @Test
  void aRoleWithBothSidesIsTheCauseForAllWhoHoldIt() {
    office.group("crew", "ann", "bo").given("x", "both", "crew", "top");
    rule();
    Finding finding = office.only(FindingKind.SEPARATION_OF_DUTIES);
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
    Finding finding = office.only(FindingKind.SEPARATION_OF_DUTIES);
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
    Conflict about = (Conflict) office.only(FindingKind.SEPARATION_OF_DUTIES).details();
    assertThat(about.in()).isEqualTo(Together.ACCOUNT);
    assertThat(about.who()).isEqualTo(new Who(1, office.subject("ann")));
    assertThat(about.assignments()).isEqualTo(3);
  }

  @Test
  void everyoneIsTheCauseWhereEveryoneGetsBoth() {
    office.given("x", "owner", "everyone", "top").given("y", "owner", "everyone", "top");
    rule(SeparationRule.Where.ANYWHERE, List.of(), side("x", "a:own"), side("y", "a:own"));
    Conflict about = (Conflict) office.only(FindingKind.SEPARATION_OF_DUTIES).details();
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
    Conflict about = (Conflict) office.only(FindingKind.SEPARATION_OF_DUTIES).details();
    assertThat(about.rule().near()).isEqualTo(Near.AT_ONE_NODE);
    assertThat(about.who()).isEqualTo(new Who(1, office.subject("bo")));
  }

  @Test
  void aRoleThatNobodyHoldsIsToldByItself() {
    office.given("x", "reader", "ann", "top");
    rule();
    Finding finding = office.only(FindingKind.CONFLICTING_ROLE);
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

  /** What ann owns in x and bo in y, who are one person. */
  private void together() {
    office.person("ann", "bo").given("x", "owner", "ann", "top").given("y", "owner", "bo", "top");
    office.given("y", "owner", "cy", "top");
    rule(SeparationRule.Where.ANYWHERE, List.of(), side("x", "a:own"), side("y", "a:own"));
  }

  @Test
  void twoAccountsOfAPersonComeTogetherWhereTheRuleIsOfPersons() {
    together();
    assertThat(office.find(FindingKind.SEPARATION_OF_DUTIES)).as("of accounts").isEmpty();
    perPerson = true;
    rule(SeparationRule.Where.ANYWHERE, List.of(), side("x", "a:own"), side("y", "a:own"));
    Finding finding = office.only(FindingKind.SEPARATION_OF_DUTIES);
    Conflict about = (Conflict) finding.details();
    assertThat(about.in()).isEqualTo(Together.PERSON);
    assertThat(about.ofPerson()).isEqualTo(2);
    assertThat(finding.subjects()).hasSize(2);
    assertThat(finding.aim()).isEqualTo(new Remedy.Kept("apart", List.of(List.of(0, 1))));
  }

  @Test
  void aPersonOneOfWhoseAccountsIsExceptedBreaksNothing() {
    perPerson = true;
    together();
    Side one = side("x", "a:own");
    Side other = side("y", "a:own");
    rule(SeparationRule.Where.ANYWHERE, List.of(office.subject("bo")), one, other);
    assertThat(office.find(FindingKind.SEPARATION_OF_DUTIES)).isEmpty();
  }

  /** Ann owns in x, and whoever has the admin role can act as her. */
  private void withinReach(String administrator) {
    office.given("x", "owner", "ann", "top").given("y", "owner", "cy", "top");
    office.adminRole("helper", "set-password").scope("floor", "ann");
    office.entrusted("helper", administrator, "floor");
    rule(SeparationRule.Where.ANYWHERE, List.of(), side("x", "a:own"), side("y", "a:own"));
  }

  @Test
  void whoHoldsOneSideAndCouldActAsWhoHoldsTheOtherIsClose() {
    withinReach("cy");
    Finding finding = office.only(FindingKind.POTENTIAL_CONFLICT);
    Close about = (Close) finding.details();
    assertThat(about.account()).isEqualTo(office.subject("cy"));
    assertThat(about.missing()).containsExactly(new Missing.WithinReach());
    assertThat(finding.weight()).isEqualTo(Weight.MEDIUM);
    assertThat(finding.evidence()).hasSize(2);
    assertThat(((Evidence.StepsToSide) finding.evidence().get(0)).steps().get(0).to())
        .isEqualTo(office.subject("ann"));
  }

  @Test
  void whoCouldComeToOneSideAndHoldsNoneIsNotClose() {
    withinReach("bo");
    assertThat(office.find(FindingKind.POTENTIAL_CONFLICT)).isEmpty();
  }
}
