package org.sobercompass.core.store;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * Gives each distinct text a number, in the order of first sight. Keeps the UTF-8 bytes once, in
 * slabs. Interning and finding are O(length) on average. Not thread-safe; once nothing is interned
 * any more, any thread may find.
 */
public final class TextTable {
  private final Texts.Builder texts = Texts.builder(1024);

  /** Each the hash of a text and, below it, its number plus one; 0 where a slot is free. */
  private long[] slots = new long[2048];

  /** The number of {@code text}, given one now if it is new. */
  public int intern(String text) {
    return intern(text.getBytes(StandardCharsets.UTF_8));
  }

  /** The number of a text given as UTF-8, given one now if it is new. */
  public int intern(byte[] text) {
    return intern(hash(text), text);
  }

  /**
   * The numbers of many texts given as UTF-8: as if each was interned, in their order. Faster in a
   * large table, since its slots are read one after the other before any text is compared.
   *
   * @param count how many of the texts to intern
   * @param numbers takes the number of each
   */
  public void intern(byte[][] texts, int count, int[] numbers) {
    int[] hashes = new int[count];
    for (int i = 0; i < count; i++) {
      hashes[i] = hash(texts[i]);
    }
    int mask = slots.length - 1;
    for (int i = 0; i < count; i++) {
      long first = slots[hashes[i] & mask];
      numbers[i] = (int) (first >>> 32) == hashes[i] ? (int) first - 1 : -1;
    }
    for (int i = 0; i < count; i++) {
      if (numbers[i] < 0 || !this.texts.equalsBytes(numbers[i], texts[i])) {
        numbers[i] = intern(hashes[i], texts[i]);
      }
    }
  }

  private int intern(int hash, byte[] text) {
    int slot = slot(hash, text);
    if (slots[slot] != 0) {
      return (int) slots[slot] - 1;
    }
    int number = texts.add(text);
    slots[slot] = (long) hash << 32 | number + 1;
    if ((number + 1) * 2 > slots.length) {
      grow();
    }
    return number;
  }

  /** The number of {@code text}, or -1 when it was never interned. */
  public int find(String text) {
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    return (int) slots[slot(hash(bytes), bytes)] - 1;
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
    while (slots[slot] != 0 && !same(slots[slot], hash, text)) {
      slot = (slot + 1) & mask;
    }
    return slot;
  }

  private boolean same(long slot, int hash, byte[] text) {
    return (int) (slot >>> 32) == hash && texts.equalsBytes((int) slot - 1, text);
  }

  private void grow() {
    long[] old = slots;
    slots = new long[old.length * 2];
    int mask = slots.length - 1;
    for (long one : old) {
      if (one != 0) {
        int slot = (int) (one >>> 32) & mask;
        while (slots[slot] != 0) {
          slot = (slot + 1) & mask;
        }
        slots[slot] = one;
      }
    }
  }

  private static int hash(byte[] text) {
    int h = Arrays.hashCode(text) * 0x9e3779b9;
    return h ^ (h >>> 15);
  }
}
