package org.sobercompass.core.system;

import java.util.BitSet;

/**
 * Many accounts and one answer, one bit an account.
 *
 * @param yes for whom the answer is yes
 * @param perhaps for whom it is undecided
 */
public record Crowd(BitSet yes, BitSet perhaps) {}
