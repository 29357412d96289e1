package org.sobercompass.sources.review;

import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.review.Decision;
import org.sobercompass.sources.text.FilledSheet;
import org.sobercompass.sources.text.FilledSheet.Row;

/** Reads the decisions of one sheet; rows without a decision are open and left out. */
final class DecisionReader {
  private static final List<String> ANSWERS =
      List.of("check", "decision", "until", "whose", "comment", "answered by");

  private final String name;
  private final List<String> said;
  private final ReviewFolder.Check check;
  private final Map<String, String> asked;
  private final Problems problems;

  DecisionReader(
      String name,
      List<String> said,
      ReviewFolder.Check check,
      Map<String, String> asked,
      Problems problems) {
    this.name = name;
    this.said = said;
    this.check = check;
    this.asked = asked;
    this.problems = problems;
  }

  List<Decision> read(Path file) {
    List<String> known = new ArrayList<>(said);
    known.addAll(ANSWERS);
    List<String> needed = new ArrayList<>(said);
    needed.addAll(List.of("check", "decision"));
    List<Decision> all = new ArrayList<>();
    for (Row row : new FilledSheet(name, known, needed, Set.of("until"), problems).read(file)) {
      if (!row.get("decision").isEmpty()) {
        decision(row).ifPresent(all::add);
      } else if (!row.get("until").isEmpty() || !row.get("whose").isEmpty()) {
        problems.add(
            FilledSheet.wrong(
                row, "a day or a name without a decision", "keep until, or not mine"));
      }
    }
    return all;
  }

  private Optional<Decision> decision(Row row) {
    String id = row.get("row");
    List<String> values = said.stream().map(row::get).toList();
    String own = row.get("check");
    String who = asked.get(id + " " + own);
    if (who == null || !check.of(values).equals(own)) {
      problems.add(
          FilledSheet.wrong(
              row,
              who == null
                  ? "row " + Problem.quote(id) + " is of another review"
                  : "what row " + Problem.quote(id) + " says was changed",
              "the row as it was sent; only decision, until, whose, comment and answered by are"
                  + " filled in"));
      return Optional.empty();
    }
    Optional<Decision.Kind> kind = kind(row);
    Optional<LocalDate> until = until(row);
    if (kind.isEmpty() || !fits(row, kind.get(), until)) {
      return Optional.empty();
    }
    String by = row.get("answered by");
    return Optional.of(
        new Decision(
            id,
            kind.get(),
            until,
            row.get("whose"),
            row.get("comment"),
            by.isEmpty() ? who : by,
            row.place().toString()));
  }

  private Optional<Decision.Kind> kind(Row row) {
    String word = row.get("decision").toLowerCase(Locale.ROOT);
    List<String> words = Arrays.stream(Decision.Kind.values()).map(Decision.Kind::word).toList();
    for (Decision.Kind kind : Decision.Kind.values()) {
      if (kind.word().equals(word)) {
        return Optional.of(kind);
      }
    }
    problems.add(
        FilledSheet.wrong(
                row,
                Problem.quote(row.get("decision")) + " is no decision",
                String.join(", ", words))
            .near(Spelling.nearest(word, words).orElse("")));
    return Optional.empty();
  }

  private Optional<LocalDate> until(Row row) {
    String day = row.get("until");
    try {
      return day.isEmpty() ? Optional.empty() : Optional.of(LocalDate.parse(day));
    } catch (DateTimeParseException e) {
      problems.add(
          FilledSheet.wrong(row, Problem.quote(day) + " is no day", "one like 2027-01-31"));
      return Optional.empty();
    }
  }

  /** A day goes with what is kept until then, and with nothing else. */
  private boolean fits(Row row, Decision.Kind kind, Optional<LocalDate> until) {
    boolean day = kind == Decision.Kind.KEEP_UNTIL;
    if (day && until.isEmpty() && row.get("until").isEmpty()) {
      problems.add(FilledSheet.wrong(row, "keep until without a day", "a day, as in 2027-01-31"));
    } else if (!day && until.isPresent()) {
      problems.add(
          FilledSheet.wrong(
              row, "a day with " + Problem.quote(kind.word()), "keep until, or no day"));
    }
    return day == until.isPresent();
  }
}
