package org.sobercompass.core.crosswalk;

import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.RowCheck;
import org.sobercompass.core.problem.Place;

/**
 * One line of a crosswalk: who is said to be whom.
 *
 * @param kind account, group or unit
 * @param from the one
 * @param fromName what it is called in the table
 * @param to the other; empty where nobody is named
 * @param toName what that is called in the table
 * @param ruling what a person said
 * @param by who said it, or empty
 * @param on when
 * @param comment why, or empty
 * @param agreed on what they agreed then, as {@link Crosswalk#agreed} makes it; empty where that
 *     was not kept
 * @param place where the line stands
 */
public record CrosswalkLine(
    SubjectKind kind,
    Key from,
    String fromName,
    Optional<Key> to,
    String toName,
    Ruling ruling,
    String by,
    Optional<LocalDate> on,
    String comment,
    String agreed,
    Place place) {
  /** The columns of a table of such lines: who, what was found, what was decided, the ids. */
  public static final List<String> COLUMNS =
      List.of(
          "kind",
          "from",
          "from name",
          "to",
          "to name",
          "how sure",
          "score",
          "why",
          "brings",
          "decision",
          "by",
          "on",
          "comment",
          "agreed",
          "from id",
          "to id",
          "check");

  /** A digest of who it is about: another one tells that somebody put another name in. */
  public String check() {
    return check(kind, fromName, from.id(), toName, to.map(Key::id).orElse(""));
  }

  /** The same of what a table says. */
  public static String check(
      SubjectKind kind, String fromName, String fromId, String toName, String toId) {
    return RowCheck.of(List.of(kind.words(), fromName, fromId, toName, toId));
  }

  /** Whether it says that two are the same. */
  public boolean isAccepted() {
    return ruling == Ruling.SAME && to.isPresent();
  }

  /** The same, with a word on it. */
  public CrosswalkLine ruled(Ruling word, String who, LocalDate day, String agreedOn) {
    return new CrosswalkLine(
        kind, from, fromName, to, toName, word, who, Optional.of(day), comment, agreedOn, place);
  }
}
