package org.sobercompass.core.system;

/**
 * As which trustees somebody counts: surely, or perhaps. Immutable.
 *
 * @param sure one bit a trustee
 * @param perhaps one bit a trustee, none of them sure
 * @param comes whether he comes at all: 2 surely, 1 perhaps, 0 not
 */
public record Who(long[] sure, long[] perhaps, int comes) implements Projected {
  @Override
  public boolean isEmpty() {
    return comes == 0;
  }

  /**
   * Whether he counts as a trustee.
   *
   * @param favourable what to take for a membership that is not known
   */
  public boolean is(int trustee, boolean favourable) {
    if (trustee < 0) {
      return false;
    }
    long bit = 1L << trustee;
    return (sure[trustee >> 6] & bit) != 0 || (favourable && (perhaps[trustee >> 6] & bit) != 0);
  }

  /** Whether nothing about him is perhaps only. */
  public boolean isCertain() {
    for (long word : perhaps) {
      if (word != 0) {
        return false;
      }
    }
    return comes == 2;
  }

  /** Whether he surely counts as a trustee. */
  public boolean surely(int trustee) {
    return trustee >= 0 && (sure[trustee >> 6] & 1L << trustee) != 0;
  }

  /** Whether it is not known if he counts as a trustee. */
  public boolean onlyPerhaps(int trustee) {
    return trustee >= 0 && (perhaps[trustee >> 6] & 1L << trustee) != 0;
  }

  /** The projection of a token: of what it counts as, the trustees that are named. */
  public static Who of(Token token, Trustees trustees) {
    int words = (trustees.size() + 63) >> 6;
    long[] sure = new long[words];
    long[] perhaps = new long[words];
    trustees.mark(token.subjects().sure(), sure);
    trustees.mark(token.subjects().perhaps(), perhaps);
    boolean surely = !token.subjects().sure().isEmpty();
    int comes = surely ? 2 : token.subjects().perhaps().isEmpty() ? 0 : 1;
    (comes == 2 ? sure : perhaps)[0] |= comes == 0 ? 0 : 1;
    if (comes > 0) {
      trustees.markOpen(perhaps);
    }
    for (int w = 0; w < words; w++) {
      perhaps[w] &= ~sure[w];
    }
    return new Who(sure, perhaps, comes);
  }
}
