package org.sobercompass.core.findings.details;

import java.util.BitSet;

/**
 * Some accounts, as a sentence needs them: one by name, several by their number.
 *
 * @param count how many
 * @param first the one with the lowest number; -1 where there is none
 */
public record Who(int count, int first) {
  /** Those of a set. */
  public static Who of(BitSet accounts) {
    return new Who(accounts.cardinality(), accounts.nextSetBit(0));
  }
}
