package org.sobercompass.core.system;

import java.util.List;
import java.util.Locale;

/**
 * Whether an account may use what it holds in a system: the conditions of account and sign-in.
 *
 * @param state usable when all are met
 * @param reasons the conditions that are not met, in the order in which they are asked
 */
public record Standing(State state, List<String> reasons) {
  /** All conditions are met. */
  public static final Standing USABLE = new Standing(State.USABLE, List.of());

  /** The state of a holding; the best of several routes wins, best last. */
  public enum State {
    BLOCKED,
    UNDECIDED,
    USABLE;

    private final String word = name().toLowerCase(Locale.ROOT);

    /** The lower-case word. */
    public String word() {
      return word;
    }
  }
}
