package org.sobercompass.core.descriptor;

import java.io.Serial;

/** A descriptor that is none. */
public final class MalformedException extends Exception {
  @Serial private static final long serialVersionUID = 1L;

  private final int at;
  private final String expected;

  /**
   * Says where and why.
   *
   * @param at the offset of the byte, or the column of the text (from 1)
   * @param expected what would have been right
   */
  public MalformedException(int at, String what, String expected) {
    super(what);
    this.at = at;
    this.expected = expected;
  }

  /** The offset of the byte, or the column of the text (from 1). */
  public int at() {
    return at;
  }

  /** What it is, in words. */
  @Override
  public String getMessage() {
    return String.valueOf(super.getMessage());
  }

  /** What would have been right. */
  public String expected() {
    return expected;
  }
}
