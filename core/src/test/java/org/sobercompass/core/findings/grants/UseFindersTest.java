package org.sobercompass.core.findings.grants;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.SmallOffice;
import org.sobercompass.core.findings.Usage;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.UseDetails;

/** What is found of use, and of what hardly any peer holds, as data. */
class UseFindersTest {
  private static final long LONG_AGO = SmallOffice.NOW - 400 * SmallOffice.DAY;
  private static final long LATELY = SmallOffice.NOW - SmallOffice.DAY;

  private final SmallOffice office =
      new SmallOffice().accounts("ann", "bo", "cy").group("crew", "ann", "bo");

  private void used(long since, Map<String, Long> byAccount, String right) {
    Usage.Builder usage = new Usage.Builder();
    byAccount.forEach((who, at) -> usage.right(office.subject(who), SmallOffice.right(right), at));
    Usage.OfSystem records = usage.build(since, List.of());
    office.rules(r -> r.usage(new Usage(Map.of("x", records))));
  }

  @Test
  void whatNobodyUsesIsWithdrawn() {
    office.given("x", "owner", "crew", "top");
    used(LONG_AGO, Map.of(), "a:own");
    Finding finding = office.only(FindingKind.UNUSED_RIGHTS);
    UseDetails.Unused about = (UseDetails.Unused) finding.details();
    assertThat(List.of(about.all(), about.unused(), about.days())).containsExactly(2, 2, 90);
    assertThat(finding.weight()).isEqualTo(Weight.MEDIUM);
    assertThat(finding.aim()).isInstanceOf(Remedy.Made.class);
    assertThat(finding.evidence()).hasSize(1);
  }

  @Test
  void whatSomeDoNotUseIsTakenFromThem() {
    office.given("x", "owner", "crew", "top");
    used(LONG_AGO, Map.of("ann", LATELY), "a:see");
    Finding finding = office.only(FindingKind.UNUSED_RIGHTS);
    UseDetails.Unused about = (UseDetails.Unused) finding.details();
    assertThat(List.of(about.all(), about.unused())).containsExactly(2, 1);
    assertThat(finding.weight()).isEqualTo(Weight.LOW);
    assertThat(finding.aim())
        .isEqualTo(
            new Remedy.Ungiven(
                List.of(office.subject("bo")), List.of(new Remedy.Ungiven.Given(0, 0))));
    assertThat(finding.evidence()).contains(new Evidence.NotUsedBy(office.subject("bo")));
  }

  @Test
  void recordsThatDoNotReachBackFarEnoughSayNothing() {
    office.given("x", "owner", "crew", "top");
    used(SmallOffice.NOW - 89 * SmallOffice.DAY, Map.of(), "a:own");
    assertThat(office.find(FindingKind.UNUSED_RIGHTS)).isEmpty();
    used(SmallOffice.NOW - 90 * SmallOffice.DAY, Map.of(), "a:own");
    assertThat(office.find(FindingKind.UNUSED_RIGHTS)).hasSize(1);
  }

  @Test
  void whatWasGivenLatelyCouldNotBeUsedYet() {
    office.given("x", "owner", "crew", "top", LATELY, Long.MAX_VALUE);
    used(LONG_AGO, Map.of(), "a:own");
    assertThat(office.find(FindingKind.UNUSED_RIGHTS)).isEmpty();
  }

  @Test
  void aSmallPartOfARoleIsToldBelowItsShare() {
    office.given("x", "both", "crew", "top");
    used(LONG_AGO, Map.of("ann", LATELY, "bo", LATELY), "a:see");
    List<Finding> found = office.find(FindingKind.RARELY_USED_ROLE);
    assertThat(found).hasSize(2);
    UseDetails.HardlyUsed about = (UseDetails.HardlyUsed) found.get(0).details();
    assertThat(List.of(about.used(), about.all(), about.percent())).containsExactly(1, 6, 25);
    assertThat(found.get(0).evidence())
        .contains(new Evidence.Used(0, List.of(SmallOffice.right("a:see"))));
  }

  @Test
  void toUseALevelIsToUseWhatItContains() {
    office.given("x", "both", "crew", "top");
    used(LONG_AGO, Map.of("ann", LATELY, "bo", LATELY), "a:own");
    assertThat(office.find(FindingKind.RARELY_USED_ROLE)).as("three of six are half").isEmpty();
  }

  private void peers(int count) {
    for (int i = 0; i < count; i++) {
      office.accounts("p" + i).value("p" + i, "title", "weaver");
    }
    office.rules(r -> r.peers(List.of("title")));
  }

  @Test
  void aRightThatNoPeerHoldsIsTold() {
    peers(10);
    office.given("x", "owner", "p3", "top");
    Finding finding = office.only(FindingKind.PEER_OUTLIER);
    UseDetails.Outlier about = (UseDetails.Outlier) finding.details();
    assertThat(about.accounts()).containsExactly(office.subject("p3"));
    assertThat(about.rights()).containsExactly(SmallOffice.right("a:own"));
    assertThat(List.of(about.most(), about.peers())).containsExactly(1, 10);
    assertThat(finding.weight()).isEqualTo(Weight.MEDIUM);
    assertThat(finding.aim()).isEqualTo(new Remedy.Unheld(about.accounts(), 0, about.rights()));
  }

  @Test
  void fewerThanTenAreNoPeersAndTwoOfTenAreNotRare() {
    peers(9);
    office.given("x", "owner", "p3", "top");
    assertThat(office.find(FindingKind.PEER_OUTLIER)).isEmpty();
    SmallOffice other = new SmallOffice();
    for (int i = 0; i < 10; i++) {
      other.accounts("p" + i).value("p" + i, "title", "weaver");
    }
    other.rules(r -> r.peers(List.of("title")));
    other.given("x", "owner", "p3", "top").given("x", "owner", "p4", "top");
    assertThat(other.find(FindingKind.PEER_OUTLIER)).isEmpty();
  }

  @Test
  void whatAGroupWithOthersGivesIsAgreedForTheGroup() {
    peers(10);
    office.group("task", "p3", "ann").given("x", "owner", "task", "top");
    assertThat(office.find(FindingKind.PEER_OUTLIER)).isEmpty();
  }
}
