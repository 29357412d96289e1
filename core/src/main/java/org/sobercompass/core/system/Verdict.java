package org.sobercompass.core.system;

/** The answer to a question about rights. */
public enum Verdict {
  NO,
  /** Facts are missing, or of an unknown kind, that the answer hangs on. */
  UNDECIDED,
  YES;

  /** The verdict on two rights asked together. */
  public Verdict and(Verdict other) {
    return ordinal() <= other.ordinal() ? this : other;
  }
}
