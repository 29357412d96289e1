package org.sobercompass.core.review;

import java.time.LocalDate;
import java.util.Optional;

/**
 * What somebody decided on one item.
 *
 * @param item the id of the item
 * @param kind what was decided
 * @param until the last day, of what is kept until then
 * @param whose who answers for it, of what is not mine; as written
 * @param comment why, or empty
 * @param by who decided
 * @param place where it stands, for people
 */
public record Decision(
    String item,
    Kind kind,
    Optional<LocalDate> until,
    String whose,
    String comment,
    String by,
    String place) {

  /** What can be decided. */
  public enum Kind {
    KEEP("keep"),
    TAKE_AWAY("take away"),
    KEEP_UNTIL("keep until"),
    NOT_MINE("not mine");

    private final String word;

    Kind(String word) {
      this.word = word;
    }

    /** As it is written in a sheet. */
    public String word() {
      return word;
    }
  }

  /** Whether another decision says the same. */
  public boolean agrees(Decision other) {
    return kind == other.kind && until.equals(other.until);
  }
}
