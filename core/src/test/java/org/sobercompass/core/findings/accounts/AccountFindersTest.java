package org.sobercompass.core.findings.accounts;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.SmallOffice;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.AccountDetails;
import org.sobercompass.core.findings.details.AccountDetails.Idle;
import org.sobercompass.core.findings.details.AccountDetails.StillHolds;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.SourceDetails;

/** What is found of accounts, as data. */
class AccountFindersTest {
  private static final long NOW = SmallOffice.NOW;
  private static final FindingKind[] IDLE = {
    FindingKind.DISABLED_ACCOUNT,
    FindingKind.EXPIRED_ACCOUNT,
    FindingKind.LOCKED_ACCOUNT,
    FindingKind.DORMANT_ACCOUNT
  };

  private final SmallOffice office = new SmallOffice();

  @Test
  void aDisabledAccountIsToldWithAllItHolds() {
    office.account("ann", Facts.DISABLED, Facts.NEVER).group("crew", "ann");
    office.given("x", "both", "crew", "top").given("y", "clerk", "ann", "north");
    Finding finding = office.only(IDLE);
    StillHolds about = (StillHolds) finding.details();
    assertThat(about.idle()).isEqualTo(Idle.DISABLED);
    assertThat(about.held()).isEqualTo(8);
    assertThat(about.systems()).isEqualTo(2);
    assertThat(about.strongest()).isEqualTo(2);
    assertThat(about.delegations()).isZero();
    assertThat(finding.kind()).isEqualTo(FindingKind.DISABLED_ACCOUNT);
    assertThat(finding.weight()).isEqualTo(Weight.MEDIUM);
    assertThat(finding.evidence()).hasSize(2).allMatch(one -> one.route().isPresent());
    assertThat(finding.aim())
        .isEqualTo(new Remedy.Ungiven(List.of(office.subject("ann")), List.of()));
  }

  @Test
  void whatEverybodyHasIsNotHeldByName() {
    office.account("ann", Facts.DISABLED, Facts.NEVER).given("x", "both", "everyone", "top");
    assertThat(office.find(IDLE)).isEmpty();
  }

  @Test
  void anAccountIsOverAtItsEndAndNotASecondBefore() {
    office.account("ann", 0, NOW).account("bo", 0, NOW + 1).group("crew", "ann", "bo");
    office.given("x", "clerk", "crew", "top");
    Finding finding = office.only(IDLE);
    assertThat(((StillHolds) finding.details()).idle()).isEqualTo(Idle.EXPIRED);
    assertThat(((StillHolds) finding.details()).account()).isEqualTo(office.subject("ann"));
    assertThat(finding.weight()).isEqualTo(Weight.LOW);
  }

  @Test
  void aLockThatNobodyLiftsIsTold() {
    office.locked("ann").given("x", "clerk", "ann", "top");
    assertThat(((StillHolds) office.only(IDLE).details()).idle()).isEqualTo(Idle.LOCKED);
  }

  private void signedIn(String name, long at) {
    String time = Instant.ofEpochSecond(at).toString().replaceAll("[-:T]", "");
    office.accounts(name).value(name, "lastlogontimestamp", time);
    office.given("x", "clerk", name, "top");
  }

  @Test
  void anAccountIsDormantAfterNinetyDaysWhereTheDirectoryTellsSignIns() {
    signedIn("ann", NOW - 90 * SmallOffice.DAY - 1);
    signedIn("bo", NOW - 90 * SmallOffice.DAY);
    Finding finding = office.only(IDLE);
    StillHolds about = (StillHolds) finding.details();
    assertThat(about.account()).isEqualTo(office.subject("ann"));
    assertThat(about.idle()).isEqualTo(Idle.DORMANT);
    assertThat(about.days()).isEqualTo(Optional.of(90L));
  }

  @Test
  void whoNeverSignedInIsToldWhereHalfTheOthersDid() {
    signedIn("ann", NOW - 5);
    office.accounts("bo").given("x", "clerk", "bo", "top");
    assertThat(((StillHolds) office.only(IDLE).details()).days()).isEmpty();
  }

  @Test
  void aDirectoryThatTellsFewSignInsTellsNoneDormant() {
    signedIn("ann", NOW - 500 * SmallOffice.DAY);
    office.accounts("bo", "cy").given("x", "clerk", "bo", "top");
    assertThat(office.find(IDLE)).isEmpty();
  }

  @Test
  void aTimeInHundredsOfNanosecondsSince1601Counts() {
    long filetime = (NOW - 100 * SmallOffice.DAY + 11_644_473_600L) * 10_000_000L;
    office.accounts("ann").value("ann", "lastlogontimestamp", "" + filetime);
    office.given("x", "clerk", "ann", "top");
    assertThat(((StillHolds) office.only(IDLE).details()).days()).isEqualTo(Optional.of(100L));
  }

  @Test
  void aServiceThatSignsInAtAPromptIsTold() {
    office.account("svc", Facts.SERVICE, Facts.NEVER).value("svc", "loginshell", "/bin/bash");
    office.account("web", Facts.SERVICE, Facts.NEVER).value("web", "loginshell", "/sbin/nologin");
    office.account("old", Facts.SERVICE | Facts.DISABLED, Facts.NEVER);
    office.value("old", "loginshell", "/bin/sh").given("x", "reader", "svc", "top");
    Finding finding = office.only(FindingKind.SERVICE_ACCOUNT_SIGNS_IN);
    assertThat(finding.details())
        .isEqualTo(new AccountDetails.ServiceSignsIn(office.subject("svc"), "/bin/bash"));
    assertThat(finding.evidence()).containsExactly(new Evidence.Shell("/bin/bash"));
  }

  @Test
  void aServiceHoldsTooMuchUnlessItIsSaidThatServicesNeedIt() {
    office.account("svc", Facts.SERVICE, Facts.NEVER).given("x", "both", "svc", "top");
    Finding finding = office.only(FindingKind.SERVICE_ACCOUNT_EXCESS);
    AccountDetails.ServiceExcess about = (AccountDetails.ServiceExcess) finding.details();
    assertThat(about.rights())
        .containsExactlyInAnyOrder(SmallOffice.right("a:own"), SmallOffice.right("b:own"));
    office.rules(r -> r.ofServices(List.of(new Permission("x", SmallOffice.right("a:own")))));
    about =
        (AccountDetails.ServiceExcess) office.only(FindingKind.SERVICE_ACCOUNT_EXCESS).details();
    assertThat(about.rights()).containsExactly(SmallOffice.right("b:own"));
    assertThat(office.only(FindingKind.SERVICE_ACCOUNT_EXCESS).aim())
        .isEqualTo(new Remedy.Unheld(List.of(about.account()), 0, about.rights()));
  }

  @Test
  void applicationsAndGroupsWithoutAnOwnerAreTold() {
    office.accounts("ann").group("crew", "ann").group("kept", "ann");
    office.value("kept", "owner", "ann").given("x", "clerk", "crew", "top");
    office
        .given("x", "clerk", "kept", "north")
        .rules(r -> r.owners(Set.of("applications", "groups")));
    assertThat(office.details(FindingKind.NO_OWNER))
        .containsExactlyInAnyOrder(
            new SourceDetails.NoOwner(SourceDetails.Sort.APPLICATION, "Application x"),
            new SourceDetails.NoOwner(SourceDetails.Sort.GROUP, "crew"));
  }

  @Test
  void anApplicationWithoutAnEmergencyAccountIsTold() {
    office.accounts("ann").given("x", "clerk", "ann", "top");
    assertThat(office.details(FindingKind.NO_EMERGENCY_ACCOUNT))
        .containsExactly(new SourceDetails.NoEmergencyAccount(0));
    office.rules(r -> r.weights(Map.of(FindingKind.NO_EMERGENCY_ACCOUNT, Weight.HIGH)));
    assertThat(office.only(FindingKind.NO_EMERGENCY_ACCOUNT).weight()).isEqualTo(Weight.HIGH);
  }
}
