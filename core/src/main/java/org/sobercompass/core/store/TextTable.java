package org.sobercompass.core.store;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * Gives each distinct text a number, in the order of first sight. Keeps the UTF-8 bytes once, in
 * slabs. Interning and finding are O(length) on average. Not thread-safe.
 */
public final class TextTable {
  private final Texts.Builder texts = Texts.builder(1024);
  private int[] slots = new int[2048];
  private int[] hashes = new int[1024];

  /** The number of {@code text}, given one now if it is new. */
  public int intern(String text) {
    return intern(text.getBytes(StandardCharsets.UTF_8));
  }

  /** The number of a text given as UTF-8, given one now if it is new. */
  public int intern(byte[] text) {
    int hash = hash(text);
    int slot = slot(hash, text);
    if (slots[slot] != 0) {
      return slots[slot] - 1;
    }
    int number = texts.add(text);
    if (number == hashes.length) {
      hashes = Arrays.copyOf(hashes, number * 2);
    }
    hashes[number] = hash;
    slots[slot] = number + 1;
    if ((number + 1) * 2 > slots.length) {
      grow();
    }
    return number;
  }

  /** The number of {@code text}, or -1 when it was never interned. */
  public int find(String text) {
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    return slots[slot(hash(bytes), bytes)] - 1;
  }

  /** How many distinct texts there are. */
  public int size() {
    return texts.size();
  }

  /** The frozen texts by number; the table must not be used afterwards. */
  public Texts freeze() {
    return texts.build();
  }

  private int slot(int hash, byte[] text) {
    int mask = slots.length - 1;
    int slot = hash & mask;
    while (slots[slot] != 0 && !same(slots[slot] - 1, hash, text)) {
      slot = (slot + 1) & mask;
    }
    return slot;
  }

  private boolean same(int number, int hash, byte[] text) {
    return hashes[number] == hash && texts.equalsBytes(number, text);
  }

  private void grow() {
    slots = new int[slots.length * 2];
    int mask = slots.length - 1;
    for (int number = 0; number < texts.size(); number++) {
      int slot = hashes[number] & mask;
      while (slots[slot] != 0) {
        slot = (slot + 1) & mask;
      }
      slots[slot] = number + 1;
    }
  }

  private static int hash(byte[] text) {
    int h = Arrays.hashCode(text) * 0x9e3779b9;
    return h ^ (h >>> 15);
  }
}
