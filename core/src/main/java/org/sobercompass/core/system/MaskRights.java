package org.sobercompass.core.system;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.sobercompass.core.key.Key;

/**
 * Rights that are bits, and groups of bits, of access masks; at most 64. A group is there when all
 * its bits are. Frozen and thread-safe.
 */
public final class MaskRights implements Rights {
  private final List<Item> items;
  private final List<String> texts;
  private final int[] byText;

  /**
   * One right.
   *
   * @param text its name
   * @param mask the bits it stands for
   * @param strong whether it is one of the most that can be had
   * @param minor whether it is worth no line of its own
   */
  public record Item(String text, long mask, boolean strong, boolean minor) {
    /** A right that is worth a line. */
    public Item(String text, long mask, boolean strong) {
      this(text, mask, strong, false);
    }
  }

  /** These rights, numbered in this order. */
  public MaskRights(List<Item> items) {
    if (items.size() > 64) {
      throw new IllegalArgumentException("at most 64 rights, not " + items.size());
    }
    this.items = List.copyOf(items);
    this.texts = items.stream().map(Item::text).toList();
    this.byText =
        IntStream.range(0, items.size())
            .boxed()
            .sorted(Comparator.comparing(texts::get, Key::compareUtf8))
            .mapToInt(Integer::intValue)
            .toArray();
  }

  /** The bits that a right stands for. */
  public long mask(int right) {
    return items.get(right).mask;
  }

  /** One bit for each right whose bits are all in a mask. */
  public long of(long mask) {
    long rights = 0;
    for (int right = 0; right < items.size(); right++) {
      long need = items.get(right).mask;
      if ((mask & need) == need) {
        rights |= 1L << right;
      }
    }
    return rights;
  }

  /** One bit for each right that shares a bit with a mask. */
  public long touching(long mask) {
    long rights = 0;
    for (int right = 0; right < items.size(); right++) {
      if ((mask & items.get(right).mask) != 0) {
        rights |= 1L << right;
      }
    }
    return rights;
  }

  /** A mask in words: its largest groups, then what bits are left. */
  public String words(long mask) {
    List<String> words = new ArrayList<>();
    long left = mask;
    for (int right = 0; right < items.size() && left != 0; right++) {
      long need = items.get(right).mask;
      if ((mask & need) == need && (left & need) != 0) {
        words.add(texts.get(right));
        left &= ~need;
      }
    }
    return words.isEmpty() ? "nothing" : String.join(", ", words);
  }

  @Override
  public int size() {
    return items.size();
  }

  @Override
  public String text(int right) {
    return texts.get(right);
  }

  @Override
  public Optional<Integer> find(String text) {
    int at = texts.indexOf(text);
    return at < 0 ? Optional.empty() : Optional.of(at);
  }

  @Override
  public List<String> texts() {
    return texts;
  }

  @Override
  public int[] byText() {
    return byText;
  }

  @Override
  public List<Integer> contains(int right) {
    List<Integer> contained = new ArrayList<>();
    long mask = items.get(right).mask;
    for (int other = 0; other < items.size(); other++) {
      long need = items.get(other).mask;
      if (other != right && (mask & need) == need && mask != need) {
        contained.add(other);
      }
    }
    return contained;
  }

  @Override
  public boolean isMinor(int right) {
    return items.get(right).minor;
  }

  @Override
  public boolean isStrongest(int right) {
    return items.get(right).strong;
  }
}
