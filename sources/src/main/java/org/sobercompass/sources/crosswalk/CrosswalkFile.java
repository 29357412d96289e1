package org.sobercompass.sources.crosswalk;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.crosswalk.Crosswalk;
import org.sobercompass.core.crosswalk.CrosswalkLine;
import org.sobercompass.core.crosswalk.Ruling;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.text.FilledSheet;
import org.sobercompass.sources.text.FilledSheet.Row;
import org.sobercompass.sources.text.YesNo;

/**
 * Reads the table of a crosswalk. A row that stands as it was written is about whom its ids say,
 * also when they are called otherwise now; where somebody put in another name, the name counts.
 * Only {@code from}, {@code to} and {@code decision} must be there. Not thread-safe.
 */
public final class CrosswalkFile {
  private static final List<String> NEEDED = List.of("from", "to", "decision");
  private final Facts facts;
  private final CrosswalkSettings settings;
  private final Problems problems;

  /** Reads for these directories. */
  public CrosswalkFile(Facts facts, CrosswalkSettings settings, Problems problems) {
    this.facts = facts;
    this.settings = settings;
    this.problems = problems;
  }

  /**
   * The table in a file; without lines where there is none yet.
   *
   * @param shown how the user names the file
   */
  public Crosswalk read(Path file, String shown) {
    String from = settings.plan().from().directory();
    String to = settings.plan().to().directory();
    List<CrosswalkLine> lines = new ArrayList<>();
    if (Files.exists(file)) {
      for (Row row :
          new FilledSheet(shown, CrosswalkLine.COLUMNS, NEEDED, Set.of("on"), problems)
              .read(file)) {
        line(row, from, to).ifPresent(lines::add);
      }
    }
    Crosswalk read = new Crosswalk(from, to, lines);
    read.contradictions().stream()
        .filter(Crosswalk.Doubt::isWrong)
        .forEach(
            doubt ->
                problems.error(
                    doubt.line().place(),
                    Problem.quote(doubt.line().fromName())
                        + (doubt.trouble() == Crosswalk.Trouble.TWICE
                            ? " is said to be "
                                + Problem.quote(doubt.now())
                                + " in a line before, and "
                                + Problem.quote(doubt.line().toName())
                                + " here"
                            : " leads to "
                                + Problem.quote(doubt.now())
                                + " and by other lines back to itself"),
                    "yes in one line for each account"));
    return read;
  }

  private Optional<CrosswalkLine> line(Row row, String from, String to) {
    Optional<SubjectKind> kind = kind(row);
    Optional<Ruling> ruling = ruling(row);
    Optional<LocalDate> on = day(row);
    if (kind.isEmpty() || ruling.isEmpty()) {
      return Optional.empty();
    }
    boolean asWritten = isAsWritten(row, kind.get());
    Optional<Key> one = key(row, "from", kind.get(), from, asWritten);
    Optional<Key> other = key(row, "to", kind.get(), to, asWritten);
    if (ruling.get() == Ruling.SAME && row.get("to").isEmpty()) {
      problems.add(
          FilledSheet.wrong(
              row, "yes, and nobody is named in the column to", "an account of " + to));
      return Optional.empty();
    }
    if (one.isEmpty() || other.isEmpty() && !row.get("to").isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(
        new CrosswalkLine(
            kind.get(),
            one.get(),
            row.get("from"),
            other,
            row.get("to"),
            ruling.get(),
            row.get("by"),
            on,
            row.get("comment"),
            asWritten ? row.get("agreed") : "",
            row.place()));
  }

  /** Whether nobody put in another name since the row was written. */
  private static boolean isAsWritten(Row row, SubjectKind kind) {
    String check =
        CrosswalkLine.check(
            kind, row.get("from"), row.get("from id"), row.get("to"), row.get("to id"));
    return row.get("check").equals(check);
  }

  private Optional<SubjectKind> kind(Row row) {
    String word = row.get("kind").isEmpty() ? "account" : row.get("kind").toLowerCase(Locale.ROOT);
    for (SubjectKind kind : List.of(SubjectKind.ACCOUNT, SubjectKind.GROUP, SubjectKind.UNIT)) {
      if (kind.keyKind().word().equals(word)) {
        return Optional.of(kind);
      }
    }
    problems.add(
        FilledSheet.wrong(
            row, Problem.quote(word) + " is no kind of subject", "account, group or unit"));
    return Optional.empty();
  }

  private Optional<Ruling> ruling(Row row) {
    String word = row.get("decision").toLowerCase(Locale.ROOT);
    if (word.isEmpty()) {
      return Optional.of(Ruling.OPEN);
    }
    if (word.equals(Ruling.NEVER.word())) {
      return Optional.of(Ruling.NEVER);
    }
    Optional<Boolean> yes = YesNo.parse(word);
    if (yes.isEmpty()) {
      problems.add(
          FilledSheet.wrong(
                  row, Problem.quote(word) + " is no decision", "yes, never, or nothing yet")
              .near(Spelling.nearest(word, List.of("yes", "never")).orElse("")));
    }
    return yes.map(is -> is ? Ruling.SAME : Ruling.NEVER);
  }

  private Optional<LocalDate> day(Row row) {
    String day = row.get("on");
    try {
      return day.isEmpty() ? Optional.empty() : Optional.of(LocalDate.parse(day));
    } catch (DateTimeParseException e) {
      problems.add(
          FilledSheet.wrong(row, Problem.quote(day) + " is no day", "one like 2026-11-30"));
      return Optional.empty();
    }
  }

  private Optional<Key> key(
      Row row, String side, SubjectKind kind, String directory, boolean asWritten) {
    String name = row.get(side);
    if (name.isEmpty()) {
      return Optional.empty();
    }
    String id = row.get(side + " id");
    if (asWritten && !id.isEmpty()) {
      return Optional.of(new Key(kind.keyKind(), directory, id));
    }
    List<Integer> found =
        NameResolver.find(facts, kind, name).stream()
            .filter(subject -> facts.source(subject).equals(directory))
            .toList();
    if (found.size() == 1) {
      return Optional.of(facts.key(found.get(0)));
    }
    Place place = row.place();
    if (found.isEmpty()) {
      problems.add(
          Problem.error(
                  place,
                  side
                      + ": there is no "
                      + kind.words()
                      + " "
                      + Problem.quote(name)
                      + " in "
                      + directory,
                  "a login name, mail address, DN or id")
              .near(Spelling.nearest(name, facts.names().known(kind)).orElse("")));
    } else {
      problems.error(
          place,
          side + ": " + Problem.quote(name) + " fits " + found.size() + " in " + directory,
          "the DN or id of one of them");
    }
    return Optional.empty();
  }
}
