package org.sobercompass.core.store;

import java.util.Arrays;
import java.util.BitSet;

/**
 * A frozen set of numbers: ascending, 4 bytes each, or one bit for each possible number, whichever
 * is smaller. Whether a number is in it is O(log size) or O(1). Thread-safe.
 */
public final class NumberSet {
  private final int[] few;
  private final BitSet many;
  private final int size;

  private NumberSet(int[] few, BitSet many, int size) {
    this.few = few;
    this.many = many;
    this.size = size;
  }

  /** The numbers of the bits that are set. O(bits). */
  public static NumberSet of(BitSet bits) {
    int size = bits.cardinality();
    boolean sparse = (long) size * Integer.SIZE < bits.length();
    return sparse
        ? new NumberSet(bits.stream().toArray(), new BitSet(0), size)
        : new NumberSet(new int[0], (BitSet) bits.clone(), size);
  }

  /** Whether a number is in the set. */
  public boolean contains(int number) {
    return few.length > 0 ? Arrays.binarySearch(few, number) >= 0 : many.get(number);
  }

  /** How many numbers there are. */
  public int size() {
    return size;
  }

  /** Whether there is none. */
  public boolean isEmpty() {
    return size == 0;
  }

  /** How many numbers are in both. O(the smaller of them x log) where one has few. */
  public int common(NumberSet other) {
    if (few.length > 0 || size == 0) {
      return (int) Arrays.stream(few).filter(other::contains).count();
    }
    if (other.few.length > 0 || other.size == 0) {
      return other.common(this);
    }
    BitSet both = (BitSet) many.clone();
    both.and(other.many);
    return both.cardinality();
  }

  /** Sets the bits of all numbers. */
  public void setIn(BitSet bits) {
    for (int number : few) {
      bits.set(number);
    }
    bits.or(many);
  }

  /** The numbers as bits; the caller's own. */
  public BitSet bits() {
    BitSet bits = new BitSet();
    setIn(bits);
    return bits;
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof NumberSet set
        && size == set.size
        && Arrays.equals(few, set.few)
        && many.equals(set.many);
  }

  @Override
  public int hashCode() {
    return Arrays.hashCode(few) * 31 + many.hashCode();
  }
}
