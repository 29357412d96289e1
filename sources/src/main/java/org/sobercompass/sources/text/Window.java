package org.sobercompass.sources.text;

import java.time.Instant;
import java.time.ZoneId;
import java.util.Optional;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;

/**
 * From when and until when something counts.
 *
 * @param from when it begins, or empty
 * @param until before when it counts, or empty
 */
public record Window(Optional<Instant> from, Optional<Instant> until) {

  /**
   * A window as it was typed: days, or instants; nothing for no bound. What is no date, and an end
   * before the beginning, are errors.
   *
   * @param zone in which days are whole
   */
  public static Window read(
      String from, String until, ZoneId zone, Place place, Problems problems) {
    Window window =
        new Window(
            from.isEmpty() ? Optional.empty() : Moments.begin(from, zone),
            until.isEmpty() ? Optional.empty() : Moments.end(until, zone));
    told("from", from, window.from, place, problems);
    told("until", until, window.until, place, problems);
    if (window.from.isPresent()
        && window.until.isPresent()
        && !window.from.get().isBefore(window.until.get())) {
      problems.error(place, "it ends before it begins", "until after from");
    }
    return window;
  }

  private static void told(
      String name, String text, Optional<Instant> read, Place place, Problems problems) {
    if (!text.isEmpty() && read.isEmpty()) {
      problems.error(place, name + ": " + Problem.quote(text) + " is no date", Moments.EXPECTED);
    }
  }
}
