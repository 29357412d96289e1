package org.sobercompass.core.audit;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.reference.RandomSteps;
import org.sobercompass.core.reference.SmallWorld;
import org.sobercompass.core.system.Change;

/** Since when something is otherwise, by readings in which it was so or not. */
class OtherwiseSinceTest {
  private static final Instant NOW = Instant.parse("2026-11-30T06:00:00Z");

  private static Instant day(int day) {
    return Instant.parse("2026-11-0" + day + "T06:00:00Z");
  }

  private static OtherwiseSince.Taken reading(int day, Assessment assessment) {
    return new OtherwiseSince.Taken(day(day), () -> assessment);
  }

  private static OtherwiseSince.Taken notAsked(int day) {
    return new OtherwiseSince.Taken(
        day(day),
        () -> {
          throw new IllegalStateException("all is known by later readings");
        });
  }

  @Test
  void whatWasAsSaidOnceIsTakenFromTheReadingsBesideIt() {
    int rights = 0;
    int findings = 0;
    for (int seed = 0; seed < 120; seed++) {
      AccessModel model = new SmallWorld(seed).modelOf(2);
      Assessment before = Assessment.of(model, List.of());
      List<Change> changes = RandomSteps.of(model, new Random(seed)).on(model).changes();
      Assessment after = before.with(changes);
      Foretold foretold = Foretold.of(before, changes, Preview.of(before, changes, List.of()));
      assertThat(foretold.against(after).isAsSaid()).as("" + seed).isTrue();

      Foretold.Readback otherwise = foretold.against(before);
      OtherwiseSince since =
          new OtherwiseSince(
              foretold,
              otherwise,
              NOW,
              List.of(reading(7, before), reading(5, after), notAsked(3)));
      OtherwiseSince never =
          new OtherwiseSince(foretold, otherwise, NOW, List.of(reading(7, before)));
      OtherwiseSince nothing =
          new OtherwiseSince(foretold, foretold.against(after), NOW, List.of(notAsked(7)));
      Optional<OtherwiseSince.When> between =
          Optional.of(new OtherwiseSince.When(Optional.of(day(5)), day(7)));
      Optional<OtherwiseSince.When> start =
          Optional.of(new OtherwiseSince.When(Optional.empty(), day(7)));
      for (Foretold.Differs one : otherwise.rights()) {
        assertThat(since.of(one.said())).isEqualTo(between);
        assertThat(never.of(one.said())).isEqualTo(start);
        assertThat(nothing.of(one.said())).isEmpty();
        rights++;
      }
      for (String key : otherwise.notBegun()) {
        assertThat(since.of(key)).isEqualTo(between);
        findings++;
      }
      for (String key : otherwise.notEnded()) {
        assertThat(never.of(key)).isEqualTo(start);
        findings++;
      }
    }
    assertThat(rights).isGreaterThan(200);
    assertThat(findings).isGreaterThan(50);
  }
}
