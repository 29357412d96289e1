package org.sobercompass.core.crosswalk;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.Place;

/**
 * A crosswalk with what was found since: what was decided, as it was decided, and for everybody
 * else who could be whom. Immutable.
 *
 * @param rows in order: by how sure they are, then what was decided
 */
public record CrosswalkTable(String from, String to, List<Row> rows) {
  /** Copies. */
  public CrosswalkTable {
    rows = List.copyOf(rows);
  }

  /**
   * A row of the table.
   *
   * @param line who is said to be whom, and what was decided
   * @param match what was found; empty where it was decided
   * @param candidate what speaks for the other; empty where nobody is named, or nothing is known
   */
  public record Row(CrosswalkLine line, Optional<Match> match, Optional<Candidate> candidate) {
    /** How sure it is; empty where it was decided. */
    public Optional<Sureness> sure() {
      return match.map(Match::sure);
    }
  }

  /**
   * Puts a crosswalk and what was found together. Lines that nobody decided on give way to what is
   * found now, unless somebody wrote a comment.
   */
  public static CrosswalkTable of(Facts facts, Crosswalk crosswalk, Matched matched) {
    List<Row> rows = new ArrayList<>();
    Map<List<Object>, String> comments = new HashMap<>();
    for (CrosswalkLine line : crosswalk.lines()) {
      if (line.ruling() == Ruling.OPEN && !line.comment().isEmpty()) {
        comments.put(List.of(line.from(), line.to()), line.comment());
      }
    }
    for (Sureness sure : Sureness.values()) {
      matched
          .all()
          .filter(match -> match.sure() == sure)
          .forEach(match -> open(facts, match, comments, rows));
    }
    Set<List<Object>> met = new HashSet<>();
    rows.forEach(row -> met.add(List.of(row.line.from(), row.line.to())));
    for (CrosswalkLine line : crosswalk.lines()) {
      boolean lost = !line.comment().isEmpty() && !met.contains(List.of(line.from(), line.to()));
      if (line.ruling() != Ruling.OPEN || lost) {
        Optional<Candidate> candidate =
            facts.find(line.from()).map(account -> matched.decided().get(account));
        rows.add(
            new Row(
                line,
                Optional.empty(),
                candidate.filter(c -> line.to().equals(Optional.of(facts.key(c.to()))))));
      }
    }
    return new CrosswalkTable(crosswalk.from(), crosswalk.to(), rows);
  }

  private static void open(
      Facts facts, Match match, Map<List<Object>, String> comments, List<Row> rows) {
    List<Optional<Candidate>> candidates = new ArrayList<>();
    match.candidates().forEach(candidate -> candidates.add(Optional.of(candidate)));
    if (candidates.isEmpty()) {
      candidates.add(Optional.empty());
    }
    for (Optional<Candidate> candidate : candidates) {
      CrosswalkLine line =
          new CrosswalkLine(
              facts.kind(match.from()),
              facts.key(match.from()),
              Crosswalk.called(facts, match.from()),
              candidate.map(c -> facts.key(c.to())),
              candidate.map(c -> Crosswalk.called(facts, c.to())).orElse(""),
              Ruling.OPEN,
              "",
              Optional.empty(),
              comments.getOrDefault(
                  List.of(facts.key(match.from()), candidate.map(c -> facts.key(c.to()))), ""),
              candidate.map(Crosswalk::agreed).orElse(""),
              Place.of(""));
      rows.add(new Row(line, Optional.of(match), candidate));
    }
  }

  /**
   * The same with one more row, for a pair that somebody names.
   *
   * @param candidate what speaks for it, where anything is known
   */
  public CrosswalkTable with(Facts facts, int one, int other, Optional<Candidate> candidate) {
    CrosswalkLine line =
        new CrosswalkLine(
            facts.kind(one),
            facts.key(one),
            Crosswalk.called(facts, one),
            Optional.of(facts.key(other)),
            Crosswalk.called(facts, other),
            Ruling.OPEN,
            "",
            Optional.empty(),
            "",
            "",
            Place.of(""));
    List<Row> more = new ArrayList<>(rows);
    more.add(new Row(line, Optional.empty(), candidate));
    return new CrosswalkTable(from, to, more);
  }

  /** The same with a word on some rows that name somebody. */
  public CrosswalkTable ruled(Predicate<Row> which, Ruling ruling, String by, LocalDate on) {
    return new CrosswalkTable(
        from,
        to,
        rows.stream()
            .map(
                row ->
                    row.line.to().isPresent() && which.test(row)
                        ? new Row(
                            row.line.ruled(
                                ruling,
                                by,
                                on,
                                row.candidate.map(Crosswalk::agreed).orElse(row.line.agreed())),
                            row.match,
                            row.candidate)
                        : row)
            .toList());
  }

  /** How many rows somebody decided on. */
  public int ruled() {
    return (int) rows.stream().filter(row -> row.line.ruling() != Ruling.OPEN).count();
  }

  /** What of it is kept. */
  public Crosswalk crosswalk() {
    return new Crosswalk(from, to, rows.stream().map(Row::line).toList());
  }
}
