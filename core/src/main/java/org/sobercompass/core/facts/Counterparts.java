package org.sobercompass.core.facts;

import java.util.Optional;
import org.sobercompass.core.key.Key;

/**
 * Which account, group or unit of one reading is which of another, by {@link Facts#find}: by
 * immutable id, else by DN. Made once where many are asked about. Frozen and thread-safe.
 */
public final class Counterparts {
  private static final int NONE = -1;

  private final int[] there;

  private Counterparts(int[] there) {
    this.there = there;
  }

  /**
   * Finds all of them. O(subjects) where both readings list most of them in one order: each is
   * looked for beside the one before it first.
   */
  public static Counterparts of(Facts here, Facts there) {
    int[] found = new int[here.subjects()];
    int offset = 0;
    for (int subject = 0; subject < found.length; subject++) {
      Key key = here.key(subject);
      int guess = subject + offset;
      boolean fits =
          guess >= 0
              && guess < there.subjects()
              && there.kind(guess) == here.kind(subject)
              && there.key(guess).equals(key);
      found[subject] = fits ? guess : there.find(key).orElse(NONE);
      if (found[subject] != NONE) {
        offset = found[subject] - subject;
      }
    }
    return new Counterparts(found);
  }

  /** The number of a subject in the other reading; empty if it is not there. */
  public Optional<Integer> of(int subject) {
    return there[subject] == NONE ? Optional.empty() : Optional.of(there[subject]);
  }

  /** The same without an object for each: -1 if it is not there. */
  public int at(int subject) {
    return there[subject];
  }
}
