package org.sobercompass.core.findings.lists;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.SmallOffice;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.AdminGrantDetails;
import org.sobercompass.core.findings.details.AdminGrantDetails.Assigned;
import org.sobercompass.core.findings.details.Evidence;

/** What is found of assignments of admin roles, as data. */
class AdminGrantFinderTest {
  private final SmallOffice office =
      new SmallOffice().accounts("ann", "bo", "cy", "di").group("desk", "bo", "cy").group("none");

  @BeforeEach
  void roles() {
    office.adminRole("helper", "set-password", "unlock").adminRole("clerk", "unlock");
    office.scope("floor", "ann");
  }

  private Assigned helper(String who, String over) {
    return new Assigned("helper", over, office.subject(who), who, 2);
  }

  @Test
  void oneToAPersonWeighsMoreOverEverything() {
    office.entrusted("helper", "di", "floor");
    Finding over = office.only(FindingKind.DIRECT_ASSIGNMENT);
    assertThat(over.details()).isEqualTo(new AdminGrantDetails.ToPerson(helper("di", "floor")));
    assertThat(over.weight()).isEqualTo(Weight.LOW);
    assertThat(over.changes()).hasSize(1);
    office.entrusted("helper", "ann", "");
    assertThat(office.find(FindingKind.DIRECT_ASSIGNMENT).get(0))
        .satisfies(f -> assertThat(f.weight()).isEqualTo(Weight.MEDIUM))
        .satisfies(
            f ->
                assertThat(f.details())
                    .isEqualTo(new AdminGrantDetails.ToPerson(helper("ann", "everything"))));
  }

  @Test
  void oneIsOverAtItsEndAndNotASecondBefore() {
    office.entrusted("helper", "desk", "floor", SmallOffice.NOW + 1);
    assertThat(office.find(FindingKind.EXPIRED_ASSIGNMENT)).isEmpty();
    office.entrusted("clerk", "desk", "floor", SmallOffice.NOW);
    Finding finding = office.only(FindingKind.EXPIRED_ASSIGNMENT);
    Assigned what = new Assigned("clerk", "floor", office.subject("desk"), "desk", 1);
    assertThat(finding.details()).isEqualTo(new AdminGrantDetails.Expired(what));
    assertThat(finding.evidence())
        .containsExactly(
            new Evidence.AdminAssigned(what, "given:2", Long.MIN_VALUE, SmallOffice.NOW));
  }

  @Test
  void oneToAnEmptyGroupAndOneToNobodyAreTold() {
    office.entrusted("helper", "none", "floor").entrusted("helper", "missing", "floor");
    assertThat(office.only(FindingKind.ASSIGNED_TO_EMPTY_GROUP).details())
        .isEqualTo(new AdminGrantDetails.ToEmptyGroup(helper("none", "floor")));
    Finding missing = office.only(FindingKind.UNRESOLVED_SUBJECT);
    assertThat(((AdminGrantDetails.MissingSubject) missing.details()).what().subject())
        .isNegative();
    assertThat(missing.subjects()).isEmpty();
  }

  @Test
  void whatAStrongerRoleOverMoreGivesTooIsRedundant() {
    office.entrusted("helper", "desk", "").entrusted("clerk", "bo", "floor");
    Finding finding = office.only(FindingKind.REDUNDANT_ASSIGNMENT);
    assertThat(((AdminGrantDetails.Redundant) finding.details()).what().role()).isEqualTo("clerk");
    office.entrusted("clerk", "di", "floor");
    assertThat(office.find(FindingKind.REDUNDANT_ASSIGNMENT)).hasSize(1);
  }

  @Test
  void whatEndsEarlierCoversNothing() {
    office.entrusted("helper", "desk", "", SmallOffice.NOW + 9).entrusted("clerk", "bo", "floor");
    assertThat(office.find(FindingKind.REDUNDANT_ASSIGNMENT)).isEmpty();
  }

  @Test
  void overEverythingIsToldWhereMostHaveItOverAScope() {
    office.entrusted("helper", "desk", "floor").entrusted("helper", "ann", "floor");
    office.entrusted("helper", "bo", "");
    assertThat(office.find(FindingKind.UNSCOPED_ASSIGNMENT)).isEmpty();
    office.entrusted("helper", "cy", "floor");
    Finding finding = office.only(FindingKind.UNSCOPED_ASSIGNMENT);
    assertThat(finding.details())
        .isEqualTo(new AdminGrantDetails.Everywhere(helper("bo", "everything"), 3, 4));
    assertThat(finding.weight()).isEqualTo(Weight.MEDIUM);
  }

  @Test
  void aGroupIsBroadFromItsShareOnWhereTheDirectoryIsNotSmall() {
    SmallOffice large = new SmallOffice();
    for (int i = 0; i < 10; i++) {
      large.accounts("p" + i);
    }
    large.group("half", "p0", "p1", "p2", "p3", "p4").adminRole("helper", "unlock");
    large.scope("floor", "p9").entrusted("helper", "half", "floor");
    AdminGrantDetails.ToMany about =
        (AdminGrantDetails.ToMany) large.details(FindingKind.ASSIGNED_TO_LARGE_GROUP).get(0);
    assertThat(List.of(about.inside(), about.accounts())).containsExactly(5, 10);
    office.entrusted("helper", "desk", "floor");
    assertThat(office.find(FindingKind.ASSIGNED_TO_LARGE_GROUP))
        .as("two of four, but four are few")
        .isEmpty();
  }
}
