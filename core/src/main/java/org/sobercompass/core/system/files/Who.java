package org.sobercompass.core.system.files;

import org.sobercompass.core.system.Projected;

/**
 * As which trustees somebody counts: surely, or perhaps. Immutable.
 *
 * @param sure one bit a trustee
 * @param perhaps one bit a trustee, none of them sure
 * @param comes whether he comes at all: 2 surely, 1 perhaps, 0 not
 */
record Who(long[] sure, long[] perhaps, int comes) implements Projected {
  @Override
  public boolean isEmpty() {
    return comes == 0;
  }

  /**
   * Whether he counts as a trustee.
   *
   * @param favourable what to take for a membership that is not known
   */
  boolean is(int trustee, boolean favourable) {
    long bit = 1L << trustee;
    return (sure[trustee >> 6] & bit) != 0 || (favourable && (perhaps[trustee >> 6] & bit) != 0);
  }

  boolean surely(int trustee) {
    return (sure[trustee >> 6] & 1L << trustee) != 0;
  }

  boolean onlyPerhaps(int trustee) {
    return (perhaps[trustee >> 6] & 1L << trustee) != 0;
  }
}
