package org.sobercompass.core.audit;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.reference.SmallWorld;

/** Every kind has a finder, and a kind that is switched off is not found and changes no other. */
class FindersTest {
  @ParameterizedTest
  @EnumSource
  void everyKindIsLookedForBySomeFinder(FindingKind kind) {
    assertThat(Findings.FINDERS).anyMatch(finder -> finder.kinds().contains(kind));
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
  void aKindThatIsSwitchedOffIsNotFoundAndTheOthersStay(long seed) {
    AccessModel model = new SmallWorld(seed).model();
    List<Finding> all = Findings.of(Assessment.of(model, List.of()));
    for (FindingKind kind : FindingKind.values()) {
      List<Finding> left = Findings.of(of(model, EnumSet.of(kind)));
      assertThat(left.stream().map(Finding::key))
          .as("seed %d without %s", seed, kind.id())
          .isEqualTo(all.stream().filter(f -> f.kind() != kind).map(Finding::key).toList());
    }
    assertThat(Findings.of(of(model, EnumSet.allOf(FindingKind.class)))).isEmpty();
  }

  private static Assessment of(AccessModel model, Set<FindingKind> off) {
    return Assessment.of(model, List.of()).by(FindingRules.of(List.of()).notLookingFor(off));
  }
}
