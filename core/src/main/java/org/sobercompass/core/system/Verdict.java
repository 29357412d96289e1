package org.sobercompass.core.system;

/** The answer to a question about rights. */
public enum Verdict {
  NO,
  /** Facts are missing, or of an unknown kind, that the answer depends on. */
  UNDECIDED,
  YES;

  /** The verdict where one of two rights is enough. */
  public Verdict or(Verdict other) {
    return ordinal() >= other.ordinal() ? this : other;
  }

  /** The verdict on two rights asked together. */
  public Verdict and(Verdict other) {
    return ordinal() <= other.ordinal() ? this : other;
  }
}
