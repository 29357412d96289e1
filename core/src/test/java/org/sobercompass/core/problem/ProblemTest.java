package org.sobercompass.core.problem;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;

/** The wording of problems, apart from what finds them. */
class ProblemTest {
  @Test
  void aProblemSaysPlaceWhatExpectedAndNearest() {
    Problem problem =
        Problem.error(Place.of("a.csv", 3, 7).entry("x"), "it is wrong", "it right").near("write");
    assertThat(problem)
        .hasToString("a.csv:3:7 (x): it is wrong; expected it right; did you mean write?");
    assertThat(Problem.warning(Place.of("a.csv"), "odd", "")).hasToString("a.csv: odd");
  }

  @Test
  void textFromOutsideIsQuotedCutShortAndHarmless() {
    assertThat(Problem.quote("a\u001b[31mb")).isEqualTo("\"a\uFFFD[31mb\"");
    assertThat(Problem.quote("x".repeat(100))).hasSize(33).endsWith("…\"");
  }

  @Test
  void manyProblemsAreKeptUpToALimitThatIsSaid() {
    Problems problems = new Problems();
    for (int i = 0; i < 250; i++) {
      problems.error(Place.of("f", 250 - i), "wrong", "");
    }
    problems.warning(Place.of("f"), "odd", "");
    assertThat(problems.errors()).isEqualTo(250);
    assertThat(problems.list()).hasSize(Problems.LIMIT + 1);
    assertThatThrownBy(problems::throwIfErrors)
        .isInstanceOf(BadInputException.class)
        .hasMessageStartingWith("250 problems")
        .hasMessageContaining("150 more (the first 100 are listed)");
    Problems all = new Problems();
    all.addAll(problems);
    assertThat(all.errors()).isEqualTo(250);
  }

  @ParameterizedTest
  @CsvSource({
    "kepeer, keeper",
    "KEEPER, keeper",
    "reder, reader",
    "xyz, ",
    "keeperr, keeper",
    "raeder, reader"
  })
  void theNearestNameIsFoundByEditDistance(String word, String nearest) {
    assertThat(Spelling.nearest(word, List.of("reader", "keeper", "lender")).orElse(null))
        .isEqualTo(nearest);
  }

  @Test
  void keysSortByTheirUtf8Bytes() {
    String high = new String(Character.toChars(0x1F600));
    assertThat("\uFFFD".compareTo(high)).isPositive();
    assertThat(Key.compareUtf8("\uFFFD", high)).isNegative();
    Key a = new Key(KeyKind.ACCOUNT, "s", "a");
    assertThat(a.text()).isEqualTo("account:s/a");
    assertThat(a).isLessThan(new Key(KeyKind.GROUP, "s", "a"));
    assertThat(new Key(KeyKind.IMPLICIT, "", "everyone").text()).isEqualTo("implicit:everyone");
    assertThat(Key.orderOf(List.of("a", high)).compare("\uFFFD", high)).isNegative();
  }
}
