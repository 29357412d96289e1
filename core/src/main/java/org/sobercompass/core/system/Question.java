package org.sobercompass.core.system;

/**
 * May all these rights be used together on this resource?
 *
 * @param resource the number of the resource
 * @param allOf the rights, as numbers of the system's {@link Rights}
 */
public record Question(int resource, int[] allOf) {
  /** A question for one right. */
  public static Question of(int resource, int right) {
    return new Question(resource, new int[] {right});
  }
}
