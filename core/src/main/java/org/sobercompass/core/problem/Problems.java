package org.sobercompass.core.problem;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/**
 * Collects problems while a reader goes on, so that all of a file are told in one go. Keeps at most
 * {@link #LIMIT} of each severity and counts the rest. Not thread-safe.
 */
public final class Problems {
  /** How many problems of one severity are kept. */
  public static final int LIMIT = 100;

  private final List<Problem> kept = new ArrayList<>();
  private int errors;
  private int warnings;

  /** Adds one problem. */
  public void add(Problem problem) {
    int count = problem.severity() == Problem.Severity.ERROR ? ++errors : ++warnings;
    if (count <= LIMIT) {
      kept.add(problem);
    }
  }

  /** Adds all of another collection, its overflow included. */
  public void addAll(Problems other) {
    other.kept.forEach(this::add);
    errors += Math.max(0, other.errors - LIMIT);
    warnings += Math.max(0, other.warnings - LIMIT);
  }

  /** Adds an error. */
  public void error(Place place, String what, String expected) {
    add(Problem.error(place, what, expected));
  }

  /** Adds an error with the nearest right thing out of {@code known}. */
  public void unknown(
      Place place, String what, String expected, String word, Iterable<String> known) {
    add(Problem.error(place, what, expected).near(Spelling.nearest(word, known).orElse("")));
  }

  /** Adds a warning. */
  public void warning(Place place, String what, String expected) {
    add(Problem.warning(place, what, expected));
  }

  /** How many errors there are, kept or not. */
  public int errors() {
    return errors;
  }

  /** How many warnings there are, kept or not. */
  public int warnings() {
    return warnings;
  }

  /** What is kept, by place. */
  public List<Problem> list() {
    return kept.stream()
        .sorted(Comparator.comparing(Problem::place).thenComparing(Problem::what))
        .toList();
  }

  /** Throws when there is an error. */
  public void throwIfErrors() {
    throwIfErrors(List.of());
  }

  /**
   * Throws when there is an error; what else was noticed goes with it, since it may be the cause.
   *
   * @param besides problems noticed before
   */
  public void throwIfErrors(List<Problem> besides) {
    if (errors > 0) {
      List<Problem> noticed =
          Stream.concat(besides.stream(), list().stream())
              .filter(p -> p.severity() == Problem.Severity.WARNING)
              .distinct()
              .toList();
      throw new BadInputException(
          list().stream().filter(p -> p.severity() == Problem.Severity.ERROR).distinct().toList(),
          errors,
          noticed);
    }
  }
}
