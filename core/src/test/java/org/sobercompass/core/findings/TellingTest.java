package org.sobercompass.core.findings;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.reference.SmallWorld;

/** What is said of a finding is worked out when it is asked for, once. */
class TellingTest {
  private final AtomicInteger asked = new AtomicInteger();
  private final AtomicInteger shown = new AtomicInteger();

  private Finding finding(String sentence) {
    Telling telling =
        Telling.later(
            () -> {
              asked.incrementAndGet();
              return new Telling.Said(List.of("a reason"), sentence, "decide");
            },
            () -> {
              shown.incrementAndGet();
              return List.of(Finding.Evidence.of("a route to " + sentence));
            });
    return new Finding(
        FindingKind.SEPARATION_OF_DUTIES,
        "pay",
        new Key(KeyKind.ACCOUNT, "d", "a1"),
        Weight.HIGH,
        telling,
        "",
        List.of(),
        Remedy.NONE);
  }

  @Test
  void itIsWorkedOutOnceAndOnlyWhenAsked() {
    Finding finding = finding("one holds both");
    assertThat(finding.key().text()).isNotEmpty();
    assertThat(Finding.without(List.of(finding), List.of())).containsExactly(finding);
    assertThat(asked).hasValue(0);
    assertThat(finding.sentence()).isEqualTo("one holds both");
    assertThat(finding.why()).containsExactly("a reason");
    assertThat(finding.advice()).isEqualTo("decide");
    assertThat(asked).hasValue(1);
    assertThat(shown).hasValue(0);
  }

  @Test
  void routesAreLookedUpOnceWhereTheyAreKeptAndEachTimeWhereNot() {
    Finding finding = finding("x");
    assertThat(finding.telling().evidenceOnce()).hasSize(1);
    assertThat(finding.telling().evidenceOnce()).hasSize(1);
    assertThat(shown).hasValue(2);
    assertThat(finding.evidence()).isEqualTo(finding.telling().evidenceOnce());
    assertThat(shown).hasValue(3);
    assertThat(asked).hasValue(0);
  }

  @Test
  void anotherWeightAddsItsReasonAndAsksNothingYet() {
    Finding weighed = finding("one holds both").weighing(Weight.LOW);
    assertThat(asked).hasValue(0);
    assertThat(weighed.why()).containsExactly("a reason", "the workspace says low");
    assertThat(weighed.sentence()).isEqualTo("one holds both");
  }

  @Test
  void equalFindingsSayTheSame() {
    assertThat(finding("x")).isEqualTo(finding("x")).hasSameHashCodeAs(finding("x"));
    assertThat(finding("x")).isNotEqualTo(finding("y"));
  }

  @Test
  void manyAreToldAtOnceBeforeTheyAreAskedFor() {
    List<Finding> some = IntStream.range(0, 1_000).mapToObj(i -> finding("f" + i)).toList();
    Findings.tell(new SmallWorld(1).model(), some);
    assertThat(asked).hasValue(1_000);
    assertThat(shown).hasValue(1_000);
    assertThat(some.get(999).sentence()).isEqualTo("f999");
    assertThat(some.get(999).evidence()).hasSize(1);
    assertThat(asked).hasValue(1_000);
    assertThat(shown).hasValue(1_000);
  }
}
