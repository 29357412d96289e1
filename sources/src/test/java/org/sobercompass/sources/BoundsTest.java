package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;

/** A source that never ends is given up, and it is said why. */
class BoundsTest {
  private static final Place PLACE = Place.of("main");

  private final AtomicLong now = new AtomicLong();
  private final Bounds bounds = new Bounds(10, 1 << 20, Duration.ofMinutes(5), now::get);

  private void givenUp(Runnable last, String why) {
    assertThatThrownBy(last::run)
        .isInstanceOf(OutsideException.class)
        .hasMessageContaining("main: reading was given up: " + why)
        .hasMessageContaining("thrown away");
  }

  @Test
  void tooManyEntries() {
    for (int i = 0; i < 10; i++) {
      bounds.came(PLACE, 0);
    }
    givenUp(() -> bounds.came(PLACE, 0), "more than 10 entries came");
  }

  @Test
  void tooManyBytes() {
    bounds.came(PLACE, 1 << 20);
    givenUp(() -> bounds.came(PLACE, 1), "more than 1 MiB came");
  }

  @Test
  void endlessAnswersWithNothingInThem() {
    for (int i = 0; i < Bounds.EMPTY; i++) {
      bounds.nothing(PLACE);
    }
    givenUp(() -> bounds.nothing(PLACE), "more than 1000 answers in a row held nothing");
  }

  @Test
  void tooLong() {
    now.set(Duration.ofMinutes(5).toNanos() + 1);
    givenUp(() -> bounds.came(PLACE, 0), "it took longer than 5 minutes");
  }
}
