package org.sobercompass.core.store;

import java.util.Arrays;
import java.util.function.IntFunction;
import java.util.stream.IntStream;

/**
 * Finds numbered things by a text without keeping the texts: pairs of (hash, number) sorted by
 * hash, so 8 bytes each. The caller checks the few candidates against the real text. Building is
 * O(n log n), a look-up O(log n). Frozen and thread-safe. Two texts made to collide cost a longer
 * list of candidates, never a wrong answer.
 */
public final class NameIndex {
  /** No pair: a number has no sign. */
  private static final long LEFT_OUT = -1;

  private final long[] pairs;

  private NameIndex(long[] pairs) {
    this.pairs = pairs;
  }

  /**
   * Indexes the numbers {@code 0..count-1}.
   *
   * @param count how many things there are
   * @param text the normalised text of a number, asked for on several threads; the empty text
   *     leaves it out
   */
  public static NameIndex of(int count, IntFunction<String> text) {
    long[] pairs = new long[count];
    IntStream.range(0, count)
        .parallel()
        .forEach(
            i -> {
              String name = text.apply(i);
              pairs[i] = name.isEmpty() ? LEFT_OUT : (long) hash(name) << 32 | i;
            });
    long[] kept = Arrays.stream(pairs).filter(pair -> pair != LEFT_OUT).toArray();
    Arrays.parallelSort(kept);
    return new NameIndex(kept);
  }

  /** The numbers whose text may be {@code name}, ascending; check each. */
  public int[] candidates(String name) {
    long low = (long) hash(name) << 32;
    int at = Arrays.binarySearch(pairs, low);
    at = at < 0 ? -at - 1 : at;
    int end = at;
    while (end < pairs.length && pairs[end] >> 32 == low >> 32) {
      end++;
    }
    int[] found = new int[end - at];
    for (int i = 0; i < found.length; i++) {
      found[i] = (int) pairs[at + i];
    }
    return found;
  }

  private static int hash(String name) {
    int h = name.hashCode();
    return h ^ (h >>> 15) * 0x2c1b3c6d;
  }
}
