package org.sobercompass.core.system.roles;

/**
 * How the grants of an account combine in an application; docs/combining.md has the rules with
 * examples.
 *
 * @param mode the way
 * @param byNode with {@link Mode#NEAREST}: the deepest node that bears a covering grant decides
 * @param bySubject with {@link Mode#NEAREST}: account beats listed group or organizational unit
 *     beats implicit group; asked after the node when both are set
 */
public record Combining(Mode mode, boolean byNode, boolean bySubject) {
  /** All grants add up. */
  public static final Combining UNION = new Combining(Mode.UNION, false, false);

  /** All grants add up, and what one denies is taken away wherever it reaches. */
  public static final Combining DENY_OVERRIDES = new Combining(Mode.DENY_OVERRIDES, false, false);

  /** The three ways. */
  public enum Mode {
    UNION("union"),
    DENY_OVERRIDES("deny-overrides"),
    NEAREST("nearest");

    private final String word;

    Mode(String word) {
      this.word = word;
    }

    /** The word in a workspace. */
    public String word() {
      return word;
    }
  }

  /** Only the nearest grants count. */
  public static Combining nearest(boolean byNode, boolean bySubject) {
    if (!byNode && !bySubject) {
      throw new IllegalArgumentException("nearest needs by node, by subject, or both");
    }
    return new Combining(Mode.NEAREST, byNode, bySubject);
  }

  /** The way in words. */
  public String words() {
    return switch (mode) {
      case UNION -> "union";
      case DENY_OVERRIDES -> "deny overrides";
      case NEAREST -> "nearest " + (byNode ? bySubject ? "node, then subject" : "node" : "subject");
    };
  }
}
