package org.sobercompass.core.findings.grants;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.Drift;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.SmallOffice;
import org.sobercompass.core.findings.Thresholds;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.GrantDetails;
import org.sobercompass.core.findings.details.Strength;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.roles.Combining;

/** What is found of assignments, as data. */
class GrantFindersTest {
  private static final long NOW = SmallOffice.NOW;
  private static final Strength READS = new Strength(0, false);
  private static final Strength EDITS = new Strength(0, true);
  private static final Strength OWNS = new Strength(1, true);

  private final SmallOffice office =
      new SmallOffice().accounts("ann", "bo", "cy").group("crew", "ann", "bo");

  private static <T> T as(Class<T> type, Finding finding) {
    assertThat(finding.details()).isInstanceOf(type);
    return type.cast(finding.details());
  }

  @Test
  void aRoleOfAPersonEndsWithItsAssignment() {
    office.given("x", "clerk", "crew", "top").given("x", "owner", "ann", "top");
    Finding finding = office.only(FindingKind.DIRECT_ASSIGNMENT);
    var about = as(GrantDetails.ToPerson.class, finding);
    assertThat(about.strength()).isEqualTo(OWNS);
    assertThat(about.grant().subject()).isEqualTo(office.subject("ann"));
    assertThat(finding.weight()).isEqualTo(Weight.MEDIUM);
    assertThat(finding.system()).isEqualTo("x");
    assertThat(finding.cause().text()).isEqualTo("assignment:x/a2");
    assertThat(finding.changes()).containsExactly(new Change.AssignmentRemoved(0, 1));
    assertThat(finding.evidence()).containsExactly(new Evidence.Assigned(0, about.grant()));
  }

  @Test
  void aRoleOfAPersonWeighsLessAtOnePlaceAndWhereItGivesLess() {
    office.given("x", "owner", "ann", "north").given("x", "clerk", "bo", "top");
    assertThat(office.find(FindingKind.DIRECT_ASSIGNMENT))
        .extracting(Finding::weight)
        .containsExactly(Weight.LOW, Weight.LOW);
    assertThat(office.details(FindingKind.DIRECT_ASSIGNMENT))
        .extracting(about -> ((GrantDetails.ToPerson) about).strength())
        .containsExactly(OWNS, EDITS);
  }

  @Test
  void aServiceIsNoPerson() {
    office.account("svc", Facts.SERVICE, Facts.NEVER).given("x", "owner", "svc", "top");
    office.given("x", "owner", "bo", "top").rules(r -> r.services(Set.of(office.subject("bo"))));
    assertThat(office.find(FindingKind.DIRECT_ASSIGNMENT)).isEmpty();
  }

  @Test
  void whatIsSwitchedOffOrOverIsNotToldAsGiven() {
    office.off("x", "owner", "ann", "top");
    office.given("x", "owner", "bo", "top", Long.MIN_VALUE, NOW);
    assertThat(office.find(FindingKind.DIRECT_ASSIGNMENT)).isEmpty();
    assertThat(as(GrantDetails.Expired.class, office.only(FindingKind.EXPIRED_ASSIGNMENT)).grant())
        .extracting(Grant::id)
        .isEqualTo("a2");
  }

  @Test
  void anAssignmentIsOverAtItsEndAndNotASecondBefore() {
    office.given("x", "clerk", "crew", "top", Long.MIN_VALUE, NOW + 1);
    assertThat(office.find(FindingKind.EXPIRED_ASSIGNMENT)).isEmpty();
  }

  @Test
  void everyoneIsToldWithHowManyItReaches() {
    office.given("x", "reader", "everyone", "top");
    Finding finding = office.only(FindingKind.ASSIGNED_TO_EVERYONE);
    var about = as(GrantDetails.ToEveryone.class, finding);
    assertThat(about.reached()).isEqualTo(3);
    assertThat(about.strength()).isEqualTo(READS);
    assertThat(finding.weight()).isEqualTo(Weight.LOW);
  }

  @Test
  void whatBeginsLaterReachesNobodyYet() {
    office.given("x", "owner", "everyone", "top", NOW + 1, Long.MAX_VALUE);
    Finding finding = office.only(FindingKind.ASSIGNED_TO_EVERYONE);
    assertThat(as(GrantDetails.ToEveryone.class, finding).reached()).isZero();
    assertThat(finding.weight()).isEqualTo(Weight.HIGH);
  }

  @Test
  void whoDoesNotExistIsTold() {
    office.given("x", "clerk", "missing one", "top");
    Finding finding = office.only(FindingKind.UNRESOLVED_SUBJECT);
    var about = as(GrantDetails.MissingSubject.class, finding);
    assertThat(about.grant().subjectText()).isEqualTo("missing one");
    assertThat(finding.subjects()).isEmpty();
    assertThat(finding.changes()).hasSize(1);
  }

  @Test
  void anOpenApplicationIsToldOnceWithWhatItGivesEveryone() {
    office.open().given("x", "reader", "everyone", "top").given("x", "owner", "everyone", "north");
    Finding finding = office.only(FindingKind.NO_SIGN_IN);
    assertThat(as(GrantDetails.NoSignIn.class, finding).given()).containsExactly(READS, OWNS);
    assertThat(finding.weight()).isEqualTo(Weight.HIGH);
    assertThat(finding.evidence()).hasSize(2);
    assertThat(finding.aim()).isEqualTo(Remedy.NONE);
  }

  @Test
  void whatAnotherGivesTooIsRedundantAndTheOtherIsNot() {
    office.given("x", "owner", "crew", "top").given("x", "clerk", "crew", "north");
    Finding finding = office.only(FindingKind.REDUNDANT_ASSIGNMENT);
    assertThat(as(GrantDetails.Redundant.class, finding).grant().id()).isEqualTo("a2");
    assertThat(finding.rule()).isEmpty();
    assertThat(finding.changes()).containsExactly(new Change.AssignmentRemoved(0, 1));
  }

  @Test
  void allThatOneCoversIsOneFinding() {
    office.given("x", "both", "crew", "top").given("x", "owner", "crew", "north");
    office.given("x", "reader", "ann", "south").given("x", "clerk", "crew", "south");
    Finding finding = office.only(FindingKind.REDUNDANT_ASSIGNMENT);
    var about = as(GrantDetails.Covered.class, finding);
    assertThat(about.by().id()).isEqualTo("a1");
    assertThat(about.covered()).isEqualTo(3);
    assertThat(finding.rule()).isEqualTo("covered");
    assertThat(finding.changes()).hasSize(3);
    assertThat(finding.subjects()).hasSize(2);
  }

  @Test
  void aShorterWindowCoversNothingLonger() {
    office.given("x", "owner", "crew", "top", Long.MIN_VALUE, NOW + 10);
    office.given("x", "clerk", "crew", "top");
    assertThat(office.find(FindingKind.REDUNDANT_ASSIGNMENT)).isEmpty();
  }

  @Test
  void whatAGroupOfAPersonGivesMakesTheirOwnRedundant() {
    office.given("x", "both", "crew", "north").given("x", "clerk", "ann", "north");
    office.given("x", "clerk", "cy", "north");
    Finding finding = office.only(FindingKind.REDUNDANT_ASSIGNMENT);
    assertThat(as(GrantDetails.Redundant.class, finding).grant().id()).isEqualTo("a2");
    assertThat(finding.subjects()).containsExactly(office.facts().key(office.subject("ann")));
  }

  @Test
  void anEmptyGroupIsToldOnceForAllItHas() {
    office.group("hollow").given("x", "owner", "hollow", "top");
    Finding one = office.only(FindingKind.ASSIGNED_TO_EMPTY_GROUP);
    assertThat(as(GrantDetails.ToEmptyGroup.class, one).strength()).isEqualTo(OWNS);
    office.given("y", "clerk", "hollow", "north");
    Finding both = office.only(FindingKind.ASSIGNED_TO_EMPTY_GROUP);
    assertThat(both.details())
        .isEqualTo(new GrantDetails.EmptyGroup(office.subject("hollow"), 2, 2));
    assertThat(both.system()).isEmpty();
    assertThat(both.changes()).hasSize(2);
    assertThat(both.evidence()).hasSize(2);
  }

  private void people(int count) {
    for (int i = 0; i < count; i++) {
      office.accounts("p" + i);
    }
  }

  @Test
  void aGroupIsBroadFromItsShareOnAndOnlyForMoreThanReading() {
    people(7);
    office.group("half", "p0", "p1", "p2", "p3", "p4").given("x", "owner", "half", "top");
    office.given("y", "reader", "half", "top");
    Finding finding = office.only(FindingKind.ASSIGNED_TO_LARGE_GROUP);
    var about = as(GrantDetails.ToMany.class, finding);
    assertThat(List.of(about.inside(), about.seen(), about.percent())).containsExactly(5, 10, 50);
    assertThat(about.isNamed()).isFalse();
    assertThat(finding.weight()).isEqualTo(Weight.MEDIUM);
    office.rules(r -> r.thresholds(new Thresholds(51, 3, 90, 4, 90, 25, 180, 10, 10)));
    assertThat(office.find(FindingKind.ASSIGNED_TO_LARGE_GROUP)).isEmpty();
  }

  @Test
  void whatIsEverydayMayBeGivenToMany() {
    office.given("x", "owner", "crew", "top").rules(r -> r.broad(Set.of(office.subject("crew"))));
    var about = as(GrantDetails.ToMany.class, office.only(FindingKind.ASSIGNED_TO_LARGE_GROUP));
    assertThat(about.isNamed()).isTrue();
    office.rules(r -> r.everyday(List.of(new Permission("x", SmallOffice.right("a:own")))));
    assertThat(office.find(FindingKind.ASSIGNED_TO_LARGE_GROUP)).isEmpty();
  }

  @Test
  void everywhereIsToldWhereThreeOfFourHaveItAtOnePlace() {
    office.group("g1", "ann").group("g2", "bo").group("g3", "cy").group("g4", "cy");
    office.given("x", "owner", "g1", "north").given("x", "owner", "g2", "south");
    office.given("x", "owner", "crew", "top");
    assertThat(office.find(FindingKind.UNSCOPED_ASSIGNMENT)).isEmpty();
    office.given("x", "owner", "g3", "north");
    var about = as(GrantDetails.Everywhere.class, office.only(FindingKind.UNSCOPED_ASSIGNMENT));
    assertThat(List.of(about.narrow(), about.all())).containsExactly(3, 4);
    assertThat(about.grant().id()).isEqualTo("a3");
    office.given("x", "owner", "g4", "top");
    assertThat(office.find(FindingKind.UNSCOPED_ASSIGNMENT))
        .as("three of five are not most of them")
        .isEmpty();
  }

  @Test
  void aDenyTakesAwayAndSaysFromWhom() {
    office.combining(Combining.DENY_OVERRIDES);
    office.given("x", "owner", "crew", "top").given("x", "stop", "ann", "top");
    assertThat(office.find(FindingKind.ASSIGNMENT_REMOVES_RIGHTS))
        .as("a role that gives nothing is there to take away")
        .isEmpty();
    office.rules(r -> r.blockingRoles(true));
    Finding finding = office.only(FindingKind.ASSIGNMENT_REMOVES_RIGHTS);
    var about = as(GrantDetails.TakesAway.class, finding);
    assertThat(about.denies()).isTrue();
    assertThat(about.accounts()).isEqualTo(1);
    assertThat(finding.subjects()).containsExactly(office.facts().key(office.subject("ann")));
    Evidence.Lost lost = (Evidence.Lost) finding.evidence().get(1);
    assertThat(lost.right()).isEqualTo(SmallOffice.right("a:own"));
    assertThat(lost.by().id()).isEqualTo("a1");
  }

  @Test
  void aNearerOneTakesAwayWithoutADeny() {
    office.combining(Combining.nearest(true, false));
    office.given("x", "owner", "crew", "top").given("x", "reader", "crew", "north");
    var about =
        as(GrantDetails.TakesAway.class, office.only(FindingKind.ASSIGNMENT_REMOVES_RIGHTS));
    assertThat(about.denies()).isFalse();
    assertThat(about.accounts()).isEqualTo(2);
  }

  @Test
  void whatWasAgreedIsHeldAgainstWhatIsThere() {
    office.agreed("x", "clerk", "crew", "top").given("x", "owner", "crew", "north");
    office.agreed("x", "reader", "crew", "south", NOW + 5).given("x", "reader", "crew", "south");
    Finding missing = office.only(FindingKind.INTENDED_NOT_ACTUAL);
    assertThat(missing.changes()).isEmpty();
    assertThat(missing.weight()).isEqualTo(Weight.LOW);
    Finding added = office.only(FindingKind.ACTUAL_NOT_INTENDED);
    assertThat(as(GrantDetails.Drifted.class, added).difference().kind())
        .isEqualTo(Drift.Kind.ACTUAL_ONLY);
    assertThat(added.weight()).isEqualTo(Weight.HIGH);
    assertThat(added.changes()).containsExactly(new Change.AssignmentRemoved(0, 0));
    Finding other = office.only(FindingKind.DIFFERS_FROM_INTENDED);
    assertThat(other.evidence()).hasSize(2);
    assertThat(other.weight()).isEqualTo(Weight.MEDIUM);
  }

  @Test
  void aWeightThatTheWorkspaceSetsIsRemembered() {
    office.given("x", "clerk", "ann", "top");
    office.rules(r -> r.weights(Map.of(FindingKind.DIRECT_ASSIGNMENT, Weight.HIGH)));
    Finding finding = office.only(FindingKind.DIRECT_ASSIGNMENT);
    assertThat(finding.weight()).isEqualTo(Weight.HIGH);
    assertThat(finding.isWeighed()).isTrue();
  }
}
