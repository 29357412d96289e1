package org.sobercompass.core.crosswalk;

import java.util.Locale;
import java.util.Optional;

/** How sure it is who a counterpart is. */
public enum Sureness {
  /** Two kinds of evidence agree, nothing speaks against it, and nobody else comes near. */
  CERTAIN,
  /** Evidence agrees and nobody else comes near, but it could be chance. */
  LIKELY,
  /** Several could be it, or several could be the other's. */
  AMBIGUOUS,
  /** There is no evidence that is good enough. */
  NONE;

  private final String word = name().toLowerCase(Locale.ROOT);

  /** The word for it. */
  public String word() {
    return word;
  }

  /** The one with a word. */
  public static Optional<Sureness> of(String word) {
    for (Sureness one : values()) {
      if (one.word.equals(word.strip().toLowerCase(Locale.ROOT))) {
        return Optional.of(one);
      }
    }
    return Optional.empty();
  }
}
