package org.sobercompass.core.filter;

/** The three values of a filter (RFC 4511 section 4.5.1.7). */
public enum Truth {
  FALSE,
  UNDEFINED,
  TRUE;

  /** The truth value of a boolean. */
  public static Truth of(boolean value) {
    return value ? TRUE : FALSE;
  }

  /** The lesser of both. */
  public Truth and(Truth other) {
    return ordinal() <= other.ordinal() ? this : other;
  }

  /** The greater of both. */
  public Truth or(Truth other) {
    return ordinal() >= other.ordinal() ? this : other;
  }

  /** The opposite; undefined stays undefined. */
  public Truth not() {
    return values()[2 - ordinal()];
  }
}
