package org.sobercompass.core.system;

import java.util.BitSet;

/**
 * Many accounts and one answer, one bit an account.
 *
 * @param yes for whom the answer is yes
 * @param perhaps for whom it is undecided
 */
public record Crowd(BitSet yes, BitSet perhaps) {

  /** Who counts as a subject, one bit an account; the sets must not be changed. */
  public interface Members {
    /** The accounts that surely count as it. */
    BitSet surely(int subject);

    /** The same with those that perhaps do. */
    BitSet atMost(int subject);

    /** Whether nobody counts as anything perhaps only. */
    boolean areCertain();
  }
}
