package org.sobercompass.sources.text;

import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.util.Optional;

/** Dates and instants as people write them. A date is the whole day in the workspace's zone. */
public final class Moments {
  /** What is expected, for problems. */
  public static final String EXPECTED =
      "a date like 2026-11-30 or an instant like 2026-11-30T18:00:00Z";

  private Moments() {}

  /** The first moment of a date, or the instant itself. */
  public static Optional<Instant> begin(String text, ZoneId zone) {
    return parse(text, zone, 0);
  }

  /** The moment after a date has ended, or the instant itself. */
  public static Optional<Instant> end(String text, ZoneId zone) {
    return parse(text, zone, 1);
  }

  private static Optional<Instant> parse(String text, ZoneId zone, int daysOn) {
    try {
      if (text.length() == 10) {
        return Optional.of(LocalDate.parse(text).plusDays(daysOn).atStartOfDay(zone).toInstant());
      }
      boolean hasZone = text.endsWith("Z") || text.matches(".*[+-][0-9]{2}:[0-9]{2}$");
      return Optional.of(
          hasZone
              ? OffsetDateTime.parse(text).toInstant()
              : LocalDateTime.parse(text).atZone(zone).toInstant());
    } catch (DateTimeParseException e) {
      return Optional.empty();
    }
  }
}
