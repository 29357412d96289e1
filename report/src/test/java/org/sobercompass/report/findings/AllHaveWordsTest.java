package org.sobercompass.report.findings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.HashSet;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.system.remark.Remarked;

/** Whatever a finding can be about, and whatever can show it, there are words for it. */
class AllHaveWordsTest {
  /** The types of a sealed family that have values. */
  private static Set<Class<?>> leaves(Class<?> family) {
    if (!family.isSealed()) {
      return Set.of(family);
    }
    Set<Class<?>> all = new HashSet<>();
    for (Class<?> part : family.getPermittedSubclasses()) {
      all.addAll(leaves(part));
    }
    return all;
  }

  @Test
  void eachTypeOfDetailsHasItsWords() {
    assertThat(FindingWords.DETAILS.types())
        .hasSizeGreaterThan(50)
        .containsExactlyInAnyOrderElementsOf(leaves(Details.class));
  }

  @Test
  void eachTypeOfEvidenceHasItsWords() {
    assertThat(FindingWords.EVIDENCE.types())
        .hasSizeGreaterThan(30)
        .containsExactlyInAnyOrderElementsOf(leaves(Evidence.class));
  }

  @Test
  void eachTypeOfRemarkHasItsWords() {
    assertThat(FindingWords.REMARKS.types())
        .hasSizeGreaterThan(15)
        .containsExactlyInAnyOrderElementsOf(leaves(Remarked.class));
  }

  @Test
  void aTypeWithTwoWordingsIsRefusedAndOneWithoutIsNamed() {
    ByType<String, CharSequence, String> words = new ByType<>();
    words.on(String.class, (names, text) -> "text " + text);
    assertThatThrownBy(() -> words.on(String.class, (names, text) -> "other"))
        .isInstanceOf(IllegalStateException.class)
        .hasMessage("two wordings for String");
    assertThatThrownBy(() -> words.of("", new StringBuilder()))
        .isInstanceOf(IllegalStateException.class)
        .hasMessage("there are no words for StringBuilder");
  }
}
