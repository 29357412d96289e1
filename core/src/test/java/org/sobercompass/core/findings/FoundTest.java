package org.sobercompass.core.findings;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.details.AccountDetails;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.reference.SmallWorld;

/** What a finding is about is worked out when it is asked for, once. */
class FoundTest {
  private final AccessModel model = new SmallWorld(1).model();
  private final AtomicInteger asked = new AtomicInteger();
  private final AtomicInteger shown = new AtomicInteger();

  private Finding finding(int account) {
    Found found =
        Found.later(
            model,
            () -> {
              asked.incrementAndGet();
              return new AccountDetails.OfNobody(account);
            },
            () -> {
              shown.incrementAndGet();
              return List.of(new Evidence.NotUsedBy(account));
            });
    return new Finding(
        FindingKind.UNLINKED_LOCAL_ACCOUNT,
        "",
        new Key(KeyKind.ACCOUNT, "d", "a1"),
        Weight.HIGH,
        found,
        "",
        List.of(),
        Remedy.NONE);
  }

  @Test
  void itIsWorkedOutOnceAndOnlyWhenAsked() {
    Finding finding = finding(3);
    assertThat(finding.key().text()).isNotEmpty();
    assertThat(Finding.without(List.of(finding), List.of())).containsExactly(finding);
    assertThat(asked).hasValue(0);
    assertThat(finding.details()).isEqualTo(new AccountDetails.OfNobody(3));
    assertThat(finding.details()).isSameAs(finding.details());
    assertThat(asked).hasValue(1);
    assertThat(shown).hasValue(0);
    assertThat(finding.found().model()).isSameAs(model);
  }

  @Test
  void routesAreLookedUpOnceWhereTheyAreKeptAndEachTimeWhereNot() {
    Finding finding = finding(3);
    assertThat(finding.found().evidenceOnce()).hasSize(1);
    assertThat(finding.found().evidenceOnce()).hasSize(1);
    assertThat(shown).hasValue(2);
    assertThat(finding.evidence()).isEqualTo(finding.found().evidenceOnce());
    assertThat(shown).hasValue(3);
    assertThat(asked).hasValue(0);
  }

  @Test
  void anotherWeightIsRememberedAsTheWorkspacesAndAsksNothingYet() {
    Finding finding = finding(3);
    Finding weighed = finding.weighing(Weight.LOW);
    assertThat(asked).hasValue(0);
    assertThat(finding.isWeighed()).isFalse();
    assertThat(weighed.isWeighed()).isTrue();
    assertThat(weighed.weight()).isEqualTo(Weight.LOW);
    assertThat(weighed.details()).isEqualTo(finding.details());
    assertThat(weighed.key()).isEqualTo(finding.key());
  }

  @Test
  void equalFindingsAreAboutTheSame() {
    assertThat(finding(3)).isEqualTo(finding(3)).hasSameHashCodeAs(finding(3));
    assertThat(finding(3)).isNotEqualTo(finding(4));
  }

  @Test
  void manyAreLookedUpAtOnceBeforeTheyAreAskedFor() {
    List<Finding> some = IntStream.range(0, 1_000).mapToObj(this::finding).toList();
    Findings.lookUp(model, some);
    assertThat(asked).hasValue(1_000);
    assertThat(shown).hasValue(1_000);
    assertThat(some.get(999).details()).isEqualTo(new AccountDetails.OfNobody(999));
    assertThat(some.get(999).evidence()).hasSize(1);
    assertThat(asked).hasValue(1_000);
    assertThat(shown).hasValue(1_000);
  }
}
