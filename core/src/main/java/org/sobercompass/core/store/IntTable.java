package org.sobercompass.core.store;

import java.util.Arrays;

/**
 * A map from non-negative ints to ints by open addressing; 16 bytes an entry at most. Thread-safe
 * once it is no longer changed.
 */
public final class IntTable {
  private int[] keys;
  private int[] values;
  private int size;

  /** A table with room for {@code expected} entries. */
  public IntTable(int expected) {
    int capacity = Integer.highestOneBit(Math.max(4, expected) * 2 - 1) * 2;
    keys = new int[capacity];
    values = new int[capacity];
    Arrays.fill(keys, -1);
  }

  /** Sets the value of a key. */
  public void put(int key, int value) {
    if (size * 2 >= keys.length) {
      grow();
    }
    int slot = slot(key);
    if (keys[slot] < 0) {
      keys[slot] = key;
      size++;
    }
    values[slot] = value;
  }

  /** The value of a key, or -1. */
  public int get(int key) {
    int slot = slot(key);
    return keys[slot] < 0 ? -1 : values[slot];
  }

  private int slot(int key) {
    int mask = keys.length - 1;
    int slot = (key * 0x9e3779b9 >>> 7) & mask;
    while (keys[slot] >= 0 && keys[slot] != key) {
      slot = (slot + 1) & mask;
    }
    return slot;
  }

  private void grow() {
    int[] oldKeys = keys;
    int[] oldValues = values;
    keys = new int[oldKeys.length * 2];
    values = new int[oldKeys.length * 2];
    Arrays.fill(keys, -1);
    size = 0;
    for (int i = 0; i < oldKeys.length; i++) {
      if (oldKeys[i] >= 0) {
        put(oldKeys[i], oldValues[i]);
      }
    }
  }
}
