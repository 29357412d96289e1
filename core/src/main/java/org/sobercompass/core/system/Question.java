package org.sobercompass.core.system;

/**
 * May all these rights be used together on this resource?
 *
 * @param resource the number of the resource
 * @param allOf the rights, as numbers of the system's {@link Rights}
 * @param destination the resource that it would be moved to, or {@link #NOWHERE}
 */
public record Question(int resource, int[] allOf, int destination) {
  /** Nothing would be moved, or it is not said where to. */
  public static final int NOWHERE = -1;

  /** A question without a destination. */
  public Question(int resource, int[] allOf) {
    this(resource, allOf, NOWHERE);
  }

  /** A question for one right. */
  public static Question of(int resource, int right) {
    return new Question(resource, new int[] {right});
  }
}
