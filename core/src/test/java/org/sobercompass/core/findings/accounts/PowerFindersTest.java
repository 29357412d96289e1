package org.sobercompass.core.findings.accounts;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.SmallOffice;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.AccountDetails;
import org.sobercompass.core.findings.details.AccountDetails.StillHolds;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.PowerDetails;
import org.sobercompass.core.findings.details.Who;

/** What is found of powers, of who could come to them, and of persons with several accounts. */
class PowerFindersTest {
  private final SmallOffice office =
      new SmallOffice().accounts("ann", "bo", "cy", "di").group("desk", "bo", "cy");

  @Test
  void whoCanActAsAPowerfulAccountIsTold() {
    office.adminRole("helper", "set-password").scope("all", "ann").power("pay", "ann");
    office.entrusted("helper", "desk", "all");
    Finding finding = office.only(FindingKind.ADMINISTERS_MORE_POWERFUL);
    PowerDetails.ActsAs about = (PowerDetails.ActsAs) finding.details();
    assertThat(about.power()).isEqualTo("do pay");
    assertThat(about.target()).isEqualTo(office.subject("ann"));
    assertThat(about.who()).isEqualTo(new Who(2, office.subject("bo")));
    assertThat(finding.aim()).isEqualTo(new Remedy.Untaken("pay", false, office.subject("ann")));
    Evidence.Steps steps = (Evidence.Steps) finding.evidence().get(0);
    assertThat(steps.steps()).hasSize(1);
    assertThat(steps.steps().get(0).to()).isEqualTo(office.subject("ann"));
    assertThat(office.find(FindingKind.ESCALATION_PATH)).isEmpty();
  }

  @Test
  void whoComesToAPowerByMoreThanOneStepIsToldApart() {
    office.adminRole("helper", "set-password").scope("one", "ann").scope("two", "bo");
    office.power("pay", "ann").entrusted("helper", "bo", "one").entrusted("helper", "di", "two");
    Finding finding = office.only(FindingKind.ESCALATION_PATH);
    PowerDetails.WithinReach about = (PowerDetails.WithinReach) finding.details();
    assertThat(about.who()).isEqualTo(new Who(1, office.subject("di")));
    assertThat(about.id()).isEqualTo("pay");
    assertThat(finding.weight()).isEqualTo(Weight.MEDIUM);
    assertThat(((Evidence.Steps) finding.evidence().get(0)).steps()).hasSize(2);
  }

  @Test
  void whoHasTheSamePowerIsNotLessPowerful() {
    office.adminRole("helper", "set-password").scope("all", "ann").power("pay", "ann", "bo");
    office.entrusted("helper", "bo", "all");
    assertThat(office.find(FindingKind.ADMINISTERS_MORE_POWERFUL, FindingKind.ESCALATION_PATH))
        .isEmpty();
  }

  @Test
  void anAdministratorInsideTheirOwnScopeIsTold() {
    office.adminRole("helper", "unlock").scope("floor", "bo", "ann");
    office.entrusted("helper", "desk", "floor");
    Finding finding = office.only(FindingKind.INSIDE_OWN_SCOPE);
    assertThat(finding.details())
        .isEqualTo(new PowerDetails.InsideScope("floor", new Who(1, office.subject("bo"))));
    assertThat(finding.aim()).isEqualTo(new Remedy.Outside(0));
    assertThat(finding.evidence()).hasSize(1);
  }

  @Test
  void anAdminRoleThatReachesADisabledAccountIsADelegation() {
    office.account("old", Facts.DISABLED, Facts.NEVER).group("aides", "old");
    office
        .adminRole("helper", "unlock")
        .scope("floor", "ann")
        .entrusted("helper", "aides", "floor");
    StillHolds about = (StillHolds) office.only(FindingKind.DISABLED_ACCOUNT).details();
    assertThat(List.of(about.held(), about.delegations())).containsExactly(0, 1);
    assertThat(office.only(FindingKind.DISABLED_ACCOUNT).evidence())
        .containsExactly(new Evidence.AdminRole("helper", "floor", office.subject("aides")));
    assertThat(office.only(FindingKind.DISABLED_ACCOUNT).weight()).isEqualTo(Weight.MEDIUM);
  }

  @Test
  void aPasswordThatNeverExpiresIsToldOfThePowerful() {
    office.value("ann", "shadowmax", "99999").value("bo", "shadowmax", "99999");
    office.value("cy", "shadowmax", "90").power("pay", "ann", "cy");
    Finding finding = office.only(FindingKind.PASSWORD_NEVER_EXPIRES);
    assertThat(finding.details())
        .isEqualTo(new PowerDetails.PasswordNeverExpires(office.subject("ann"), List.of("do pay")));
    assertThat(finding.evidence()).containsExactly(new Evidence.CanDo("do pay"));
  }

  @Test
  void powerWithoutALimitOfHostsIsToldWhereItIsAsked() {
    office.power("pay", "ann", "bo");
    assertThat(office.find(FindingKind.POWERFUL_FROM_ANYWHERE)).isEmpty();
    office.rules(r -> r.fromAnywhere(Set.of("pay")));
    Finding finding = office.only(FindingKind.POWERFUL_FROM_ANYWHERE);
    assertThat(finding.details())
        .isEqualTo(new PowerDetails.FromAnywhere("do pay", new Who(2, office.subject("ann"))));
    assertThat(finding.evidence())
        .containsExactly(
            new Evidence.NoHosts(office.subject("ann")),
            new Evidence.NoHosts(office.subject("bo")));
  }

  @Test
  void powerOnOneSideIsToldOfPersonsWithoutTheOther() {
    office.power("pay", "ann").rules(r -> r.bothSides(Set.of("pay")));
    Finding finding = office.only(FindingKind.POWER_ONLY_IN_APPLICATION);
    assertThat(finding.details())
        .isEqualTo(new PowerDetails.OnlyInApplication("do pay", new Who(1, office.subject("ann"))));
    assertThat(office.find(FindingKind.POWER_ONLY_IN_DIRECTORY)).isEmpty();
  }

  @Test
  void aSecondAccountOfWhoIsDisabledIsToldWhereItHoldsSomething() {
    office.account("old", Facts.DISABLED, Facts.NEVER).account("gone", Facts.DISABLED, Facts.NEVER);
    office.person("bo", "old").person("ann", "gone").given("x", "owner", "bo", "top");
    Finding finding = office.only(FindingKind.OTHER_ACCOUNT_ACTIVE);
    assertThat(finding.details())
        .isEqualTo(
            new AccountDetails.OtherWorks(office.subject("bo"), office.subject("old"), true, 3));
    assertThat(finding.weight()).as("it owns").isEqualTo(Weight.HIGH);
  }
}
