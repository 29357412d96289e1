package org.sobercompass.core.store;

import java.util.Arrays;

/**
 * A set of small numbers that is emptied in O(1): a number is in it when its stamp is the current
 * one. Not thread-safe; 4 bytes a number.
 */
public final class Stamps {
  private final int[] stamps;
  private int current = 1;

  /** An empty set for numbers in {@code [0, size)}. */
  public Stamps(int size) {
    stamps = new int[size];
  }

  /** Empties the set. */
  public void clear() {
    if (++current == Integer.MAX_VALUE) {
      Arrays.fill(stamps, 0);
      current = 1;
    }
  }

  /** Adds {@code number}; false when it was in already. */
  public boolean add(int number) {
    if (stamps[number] == current) {
      return false;
    }
    stamps[number] = current;
    return true;
  }

  /** Adds the numbers of a part of an array; those that were not in are also added to a list. */
  public void addAll(int[] numbers, int from, int to, IntList fresh) {
    int[] room = fresh.room(to - from);
    int size = fresh.size();
    for (int at = from; at < to; at++) {
      int number = numbers[at];
      if (stamps[number] != current) {
        stamps[number] = current;
        room[size++] = number;
      }
    }
    fresh.filled(size);
  }

  /** Whether {@code number} is in the set. */
  public boolean contains(int number) {
    return stamps[number] == current;
  }
}
