package org.sobercompass.core.system;

/** Takes what {@link Decider#sweep} gives. */
@FunctionalInterface
public interface GrantSink {
  /**
   * One cell: resources with the same outcome.
   *
   * @param resource the top of the cell
   * @param below false: the resource itself; true: what lies below it, as far as no other cell
   *     covers it
   * @param count how many resources the cell has
   * @param yes one bit a right, in words of 64; valid during the call only
   * @param perhaps the same for undecided rights
   */
  void cell(int resource, boolean below, int count, long[] yes, long[] perhaps);
}
