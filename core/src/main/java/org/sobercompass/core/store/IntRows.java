package org.sobercompass.core.store;

import java.util.Arrays;

/**
 * Rows of ints in two arrays (compressed sparse rows): row {@code r} is {@code targets[offsets[r]]}
 * up to {@code targets[offsets[r + 1]]}. Frozen and thread-safe. Memory: 4 bytes a row and 4 bytes
 * an item.
 */
public final class IntRows {
  private final int[] offsets;
  private final int[] targets;

  /** Wraps the arrays, which must not be changed afterwards. */
  public IntRows(int[] offsets, int[] targets) {
    if (offsets.length == 0 || offsets[offsets.length - 1] != targets.length) {
      throw new IllegalArgumentException("offsets must end at the number of targets");
    }
    this.offsets = offsets;
    this.targets = targets;
  }

  /** {@code rows} empty rows. */
  public static IntRows empty(int rows) {
    return new IntRows(new int[rows + 1], new int[0]);
  }

  /**
   * Sorts pairs into rows; inside a row the order of the input is kept. O(rows + pairs).
   *
   * @param rows the number of rows
   * @param from the row of each pair, each in {@code [0, rows)}
   * @param to the item of each pair
   */
  public static IntRows ofPairs(int rows, IntList from, IntList to) {
    int[] offsets = new int[rows + 1];
    int pairs = from.size();
    for (int i = 0; i < pairs; i++) {
      offsets[from.get(i) + 1]++;
    }
    for (int r = 0; r < rows; r++) {
      offsets[r + 1] += offsets[r];
    }
    int[] next = Arrays.copyOf(offsets, rows);
    int[] targets = new int[pairs];
    for (int i = 0; i < pairs; i++) {
      targets[next[from.get(i)]++] = to.get(i);
    }
    return new IntRows(offsets, targets);
  }

  /** The number of rows. */
  public int rows() {
    return offsets.length - 1;
  }

  /** The number of items in all rows. */
  public int items() {
    return targets.length;
  }

  /** Where row {@code row} begins. */
  public int start(int row) {
    return offsets[row];
  }

  /** Where row {@code row} ends (exclusive). */
  public int end(int row) {
    return offsets[row + 1];
  }

  /** The item at position {@code at}, between {@link #start} and {@link #end} of its row. */
  public int at(int at) {
    return targets[at];
  }

  /** How many items {@code row} has. */
  public int size(int row) {
    return offsets[row + 1] - offsets[row];
  }

  /** A copy of one row. */
  public int[] row(int row) {
    return Arrays.copyOfRange(targets, offsets[row], offsets[row + 1]);
  }

  /** The backing offsets, not to be changed; for codecs and hot loops. */
  public int[] rawOffsets() {
    return offsets;
  }

  /** The backing items, not to be changed; for codecs and hot loops. */
  public int[] rawTargets() {
    return targets;
  }
}
