package org.sobercompass.report.answers;

import java.util.List;
import java.util.Map;
import org.sobercompass.core.comparison.Reading;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.report.data.AnswerTable;

/** Several readings of an organization in numbers. */
public final class TimelineAnswers {
  private TimelineAnswers() {}

  /**
   * Readings beside each other.
   *
   * @param readings by the name of the survey, the earliest first
   */
  public static AnswerTable of(AnswerContext now, Map<String, Reading> readings) {
    AnswerTable.Builder sheet =
        now.begin(
            "timeline/1",
            "survey",
            "as of",
            "accounts",
            "disabled",
            "groups",
            "assignments",
            "powerful",
            "high",
            "medium",
            "low");
    readings.forEach((name, reading) -> row(now, name, reading, sheet));
    List<Reading> all = List.copyOf(readings.values());
    Reading first = all.get(0);
    Reading last = all.get(all.size() - 1);
    return now.finish(
        sheet.heading(
            AnswerContext.count(all.size(), "reading", "readings")
                + ": "
                + part("findings", total(first), total(last))
                + ", "
                + part("of high weight", high(first), high(last))
                + ", "
                + part("powerful accounts", first.powerful(), last.powerful())
                + "."));
  }

  private static String part(String what, int first, int last) {
    return first == last ? last + " " + what : first + " → " + last + " " + what;
  }

  private static int total(Reading reading) {
    return reading.findings().values().stream().mapToInt(Integer::intValue).sum();
  }

  private static int high(Reading reading) {
    return reading.findings().getOrDefault(Weight.HIGH, 0);
  }

  private static void row(
      AnswerContext now, String name, Reading reading, AnswerTable.Builder into) {
    into.row(
        name,
        reading.asOf().atZone(now.zone()).toLocalDate(),
        reading.accounts(),
        reading.disabled(),
        reading.groups(),
        reading.assignments(),
        reading.powerful(),
        reading.findings().getOrDefault(Weight.HIGH, 0),
        reading.findings().getOrDefault(Weight.MEDIUM, 0),
        reading.findings().getOrDefault(Weight.LOW, 0));
  }
}
