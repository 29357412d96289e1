package org.sobercompass.core.store;

import java.util.Arrays;

/**
 * Blocks of bits to which rows are added, which knows the blocks that were touched: listing them in
 * order and emptying them costs as much as was touched, however many blocks there are. Not
 * thread-safe.
 */
public final class BlockSum {
  private static final int UNROLLED = 4;

  private final int[] start;
  private final long[] bits;
  private final long[] touched;
  private final long[] groups;
  private int[] list = new int[256];
  private int[] words = new int[64];

  /**
   * All blocks empty.
   *
   * @param start the first word of each block, and the number of words as the last; not to be
   *     changed
   */
  public BlockSum(int[] start) {
    this.start = start;
    int blocks = start.length - 1;
    bits = new long[start[blocks]];
    touched = new long[(blocks >> 6) + 1];
    groups = new long[(blocks >> 12) + 1];
  }

  /** Adds a row. */
  public void add(BlockRows rows, int row) {
    long[] data = rows.raw();
    int end = rows.end(row);
    for (int at = rows.start(row); at < end; ) {
      long head = data[at++];
      int block = (int) head & BlockRows.BLOCKS - 1;
      touched[block >> 6] |= 1L << block;
      groups[block >> 12] |= 1L << (block >> 6);
      int last = at + ((int) head >>> 24);
      int to = (int) (head >>> 32);
      bits[to] |= data[at++];
      if (at < last) {
        bits[to + 1] |= data[at++];
        for (to += 2; at < last; at++, to++) {
          bits[to] |= data[at];
        }
      }
    }
  }

  /**
   * Lists the blocks that were touched, ascending, in {@link #list()}. The caller empties their
   * words before anything is added again.
   *
   * @return how many
   */
  public int touched() {
    int count = 0;
    int wordCount = 0;
    for (int g = 0; g < groups.length; g++) {
      wordCount = flatten(groups[g], g << 6, wordCount, true);
      groups[g] = 0;
    }
    for (int i = 0; i < wordCount; i++) {
      int t = words[i];
      count = flatten(touched[t], t << 6, count, false);
      touched[t] = 0;
    }
    return count;
  }

  /** Writes the numbers of set bits, the first four without a branch: mostly there are few. */
  private int flatten(long set, int base, int count, boolean ofWords) {
    int[] out = ofWords ? words : list;
    if (count + Long.SIZE + UNROLLED > out.length) {
      out = Arrays.copyOf(out, out.length * 2 + Long.SIZE);
      if (ofWords) {
        words = out;
      } else {
        list = out;
      }
    }
    long left = set;
    for (int i = 0; i < UNROLLED; i++) {
      out[count + i] = base + Long.numberOfTrailingZeros(left);
      left &= left - 1;
    }
    int at = count + UNROLLED;
    while (left != 0) {
      out[at++] = base + Long.numberOfTrailingZeros(left);
      left &= left - 1;
    }
    return count + Long.bitCount(set);
  }

  /** The blocks touched, as far as {@link #touched()} said. */
  public int[] list() {
    return list;
  }

  /** The words of all blocks. */
  public long[] bits() {
    return bits;
  }

  /** The first word of each block. */
  public int[] start() {
    return start;
  }

  /** Empties the blocks that {@link #touched()} listed, from one position up to another. */
  public void empty(int from, int to) {
    for (int i = from; i < to; i++) {
      for (int w = start[list[i]]; w < start[list[i] + 1]; w++) {
        bits[w] = 0;
      }
    }
  }
}
