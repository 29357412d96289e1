package org.sobercompass.core.system;

/** Sets of rights as words of 64 bits, one bit a right, least significant first. */
public final class RightBits {
  private RightBits() {}

  /** Whether two sets have a right in common; the second may be longer. */
  public static boolean meet(long[] a, long[] b) {
    for (int w = 0; w < a.length; w++) {
      if ((a[w] & b[w]) != 0) {
        return true;
      }
    }
    return false;
  }

  /** Adds the rights of one set to another that is as long or longer. */
  public static void add(long[] rights, long[] into) {
    for (int w = 0; w < rights.length; w++) {
      into[w] |= rights[w];
    }
  }

  /** Whether a set has no right. */
  public static boolean isEmpty(long[] rights) {
    for (long word : rights) {
      if (word != 0) {
        return false;
      }
    }
    return true;
  }
}
