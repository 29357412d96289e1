package org.sobercompass.core.store;

import java.util.Arrays;

/**
 * Rows of blocks of bits. A block has a number and a few words; a row names only the blocks in
 * which it has bits. Made row by row: not thread-safe while it is made, frozen and thread-safe
 * afterwards. Memory: 4 bytes a row, 8 bytes a word, 8 bytes more a block.
 */
public final class BlockRows {
  /** More blocks than this have no number here. */
  public static final int BLOCKS = 1 << 24;

  /** More words than this a block cannot have. */
  public static final int WORDS = 1 << 8;

  private final int[] end;
  private int rows;
  private long[] data = new long[64];
  private int size;

  /** No row yet, with room for so many. */
  public BlockRows(int rows) {
    end = new int[rows];
  }

  /**
   * Adds a block to the row that is being made.
   *
   * @param block its number, less than {@link #BLOCKS}
   * @param to its first word among the words of all blocks
   * @param count how many words it has, one at least and less than {@link #WORDS}, in {@code words}
   *     from {@code from} on
   */
  public void add(int block, int to, long[] words, int from, int count) {
    if (size + 1 + count > data.length) {
      data = Arrays.copyOf(data, Math.max(data.length * 2, size + 1 + count));
    }
    data[size++] = (long) to << 32 | (long) count << 24 | block;
    System.arraycopy(words, from, data, size, count);
    size += count;
  }

  /** Ends the row that is being made. */
  public void endRow() {
    end[rows++] = size;
  }

  /** How many words all rows take, the numbers of blocks among them. */
  public int size() {
    return size;
  }

  int start(int row) {
    return row == 0 ? 0 : end[row - 1];
  }

  int end(int row) {
    return end[row];
  }

  /** For each block its first word, how many there are and its number in one; then its words. */
  long[] raw() {
    return data;
  }
}
