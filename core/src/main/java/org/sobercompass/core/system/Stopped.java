package org.sobercompass.core.system;

import java.util.OptionalInt;

/**
 * A grant that would give a right but does not.
 *
 * @param grant the grant
 * @param right the right it would give
 * @param reason what stops it
 * @param by the grant that stops it, for a deny or a nearer grant
 */
public record Stopped(int grant, int right, Reason reason, OptionalInt by) {

  /** What can stop a grant. */
  public enum Reason {
    DENIED("denied"),
    NEARER("a nearer assignment decides"),
    SWITCHED_OFF("switched off"),
    NOT_YET("not yet begun"),
    OVER("over"),
    ANOTHER_LAYER("another layer does not let it through"),
    NOT_SEEN("the application does not see the account or a group on the way"),
    NOT_COUNTED("the application does not count this membership");

    private final String words;

    Reason(String words) {
      this.words = words;
    }

    /** The reason in words. */
    public String words() {
      return words;
    }
  }

  /** Stopped by no other grant. */
  public static Stopped of(int grant, int right, Reason reason) {
    return new Stopped(grant, right, reason, OptionalInt.empty());
  }
}
