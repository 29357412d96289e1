package org.sobercompass.core.store;

import java.util.Arrays;
import java.util.BitSet;

/** A growable list of ints. Not thread-safe. Doubles when full; adding is O(1) amortised. */
public final class IntList {
  private int[] items;
  private int size;

  /** An empty list. */
  public IntList() {
    this(16);
  }

  /** An empty list with room for {@code capacity} items. */
  public IntList(int capacity) {
    items = new int[Math.max(capacity, 4)];
  }

  /** A list holding the given items. */
  public static IntList of(int... items) {
    IntList list = new IntList(items.length);
    for (int item : items) {
      list.add(item);
    }
    return list;
  }

  /** Adds one item at the end. */
  public void add(int item) {
    if (size == items.length) {
      items = Arrays.copyOf(items, size * 2);
    }
    items[size++] = item;
  }

  /** The item at {@code index}. */
  public int get(int index) {
    return items[index];
  }

  /** Replaces the item at {@code index}. */
  public void set(int index, int item) {
    items[index] = item;
  }

  /** Takes the last item off and returns it. */
  public int removeLast() {
    return items[--size];
  }

  /** How many items there are. */
  public int size() {
    return size;
  }

  /** Whether there are none. */
  public boolean isEmpty() {
    return size == 0;
  }

  /** Forgets all items and keeps the room. */
  public void clear() {
    size = 0;
  }

  /** Whether {@code item} is in the list; linear. */
  public boolean contains(int item) {
    for (int i = 0; i < size; i++) {
      if (items[i] == item) {
        return true;
      }
    }
    return false;
  }

  /**
   * Sorts distinct numbers below a limit ascending: many of them by marking them, O(limit / 64 +
   * size).
   */
  public void sortBelow(int limit) {
    if (size < limit >> 6) {
      sort();
      return;
    }
    BitSet marked = new BitSet(limit);
    setIn(marked);
    size = 0;
    for (int i = marked.nextSetBit(0); i >= 0; i = marked.nextSetBit(i + 1)) {
      items[size++] = i;
    }
  }

  /** Sorts ascending. */
  public void sort() {
    Arrays.sort(items, 0, size);
  }

  /** The backing array with room for so many more; for hot loops that end with {@link #filled}. */
  int[] room(int more) {
    if (size + more > items.length) {
      items = Arrays.copyOf(items, Math.max(size + more, items.length * 2));
    }
    return items;
  }

  /** How many items there are after the array from {@link #room} was filled. */
  void filled(int newSize) {
    size = newSize;
  }

  /** The backing array, valid up to {@link #size()} until the next change; for hot loops. */
  public int[] raw() {
    return items;
  }

  /** Sets a bit for each value; none may be negative. */
  public void setIn(BitSet bits) {
    for (int i = 0; i < size(); i++) {
      bits.set(get(i));
    }
  }

  /** A copy of the items. */
  public int[] toArray() {
    return Arrays.copyOf(items, size);
  }
}
