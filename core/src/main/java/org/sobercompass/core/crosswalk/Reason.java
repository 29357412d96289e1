package org.sobercompass.core.crosswalk;

/**
 * What one rule says of two accounts.
 *
 * @param what the attribute, {@code name}, {@code login} or {@code members}
 * @param degree whether they agree
 * @param value the value they share, as it was compared; of what differs that of the one and that
 *     of the other
 * @param other the value of the other where they differ; else empty
 * @param held how many accounts of that side which has more of them have the shared value
 */
public record Reason(String what, Degree degree, String value, String other, int held) {
  /** Whether values agree. */
  public enum Degree {
    SAME,
    /** Names that share a part, such as the given name. */
    PARTLY,
    DIFFERENT
  }
}
