package org.sobercompass.core.store;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * A frozen list of texts as UTF-8 bytes in slabs: 4 bytes and the text itself for each, no object.
 * Thread-safe. {@link #get} makes a new string at each call. An absent text is the empty text.
 */
public final class Texts {
  private static final int SLAB_BITS = 24;
  private static final int SLAB = 1 << SLAB_BITS;

  private final long[] ends;
  private final byte[][] slabs;

  private Texts(long[] ends, byte[][] slabs) {
    this.ends = ends;
    this.slabs = slabs;
  }

  /** A builder with room for {@code expected} texts. */
  public static Builder builder(int expected) {
    return new Builder(expected);
  }

  /** The given texts, in order. */
  public static Texts of(Iterable<String> texts) {
    Builder builder = builder(16);
    for (String text : texts) {
      builder.add(text);
    }
    return builder.build();
  }

  /** How many texts there are. */
  public int size() {
    return ends.length;
  }

  /** The text at {@code index}. */
  public String get(int index) {
    return new String(bytes(index), StandardCharsets.UTF_8);
  }

  /** Whether the text at {@code index} is empty. */
  public boolean isEmpty(int index) {
    return ends[index] == begin(index);
  }

  /** The bytes of the text at {@code index}, a copy. */
  public byte[] bytes(int index) {
    long begin = begin(index);
    byte[] out = new byte[(int) (ends[index] - begin)];
    copy(begin, out);
    return out;
  }

  /** Whether the text at {@code index} has exactly these bytes. */
  public boolean equalsBytes(int index, byte[] other) {
    return same(ends, slabs, index, other);
  }

  /** Whether the text at {@code index} ends with these bytes. */
  public boolean endsWith(int index, byte[] suffix) {
    long from = ends[index] - suffix.length;
    if (from < begin(index)) {
      return false;
    }
    for (int i = 0; i < suffix.length; i++) {
      long at = from + i;
      if (slabs[(int) (at >>> SLAB_BITS)][(int) (at & (SLAB - 1))] != suffix[i]) {
        return false;
      }
    }
    return true;
  }

  private static boolean same(long[] ends, byte[][] slabs, int index, byte[] other) {
    long begin = index == 0 ? 0 : ends[index - 1];
    if (ends[index] - begin != other.length) {
      return false;
    }
    int done = 0;
    while (done < other.length) {
      int offset = (int) ((begin + done) & (SLAB - 1));
      int length = Math.min(other.length - done, SLAB - offset);
      byte[] slab = slabs[(int) ((begin + done) >>> SLAB_BITS)];
      if (!Arrays.equals(slab, offset, offset + length, other, done, done + length)) {
        return false;
      }
      done += length;
    }
    return true;
  }

  /** All bytes of all texts, for codecs. */
  public long totalBytes() {
    return ends.length == 0 ? 0 : ends[ends.length - 1];
  }

  /** The end of each text in the run of bytes, not to be changed; for codecs. */
  public long[] rawEnds() {
    return ends;
  }

  /** The slabs of bytes, not to be changed; all but the last are full; for codecs. */
  public byte[][] rawSlabs() {
    return slabs;
  }

  /** Puts back what {@link #rawEnds} and {@link #rawSlabs} gave. */
  public static Texts ofRaw(long[] ends, byte[][] slabs) {
    return new Texts(ends, slabs);
  }

  /** The size of one slab in bytes, for codecs. */
  public static int slabSize() {
    return SLAB;
  }

  private long begin(int index) {
    return index == 0 ? 0 : ends[index - 1];
  }

  private void copy(long begin, byte[] out) {
    int done = 0;
    while (done < out.length) {
      long at = begin + done;
      int offset = (int) (at & (SLAB - 1));
      int length = Math.min(out.length - done, SLAB - offset);
      System.arraycopy(slabs[(int) (at >>> SLAB_BITS)], offset, out, done, length);
      done += length;
    }
  }

  /** Collects texts in order. Not thread-safe. */
  public static final class Builder {
    private long[] ends;
    private byte[][] slabs = new byte[1][];
    private int size;
    private long total;

    private Builder(int expected) {
      ends = new long[Math.max(expected, 4)];
    }

    /** Adds {@code text} and returns its index. */
    public int add(String text) {
      return add(text.getBytes(StandardCharsets.UTF_8));
    }

    /** Adds a text given as UTF-8 and returns its index. */
    public int add(byte[] text) {
      int done = 0;
      while (done < text.length) {
        int slab = (int) (total >>> SLAB_BITS);
        int offset = (int) (total & (SLAB - 1));
        int length = Math.min(text.length - done, SLAB - offset);
        room(slab, offset + length);
        System.arraycopy(text, done, slabs[slab], offset, length);
        done += length;
        total += length;
      }
      if (size == ends.length) {
        ends = Arrays.copyOf(ends, size * 2);
      }
      ends[size] = total;
      return size++;
    }

    private void room(int slab, int needed) {
      if (slab >= slabs.length) {
        slabs = Arrays.copyOf(slabs, slab + 1);
      }
      byte[] have = slabs[slab];
      if (have == null) {
        slabs[slab] = new byte[slab == 0 ? Math.max(needed, 256) : SLAB];
      } else if (have.length < needed) {
        slabs[slab] = Arrays.copyOf(have, Math.min(SLAB, Math.max(needed, have.length * 2)));
      }
    }

    /** How many texts were added. */
    public int size() {
      return size;
    }

    /** Whether the text at {@code index} has exactly these bytes. */
    public boolean equalsBytes(int index, byte[] other) {
      return same(ends, slabs, index, other);
    }

    /** The frozen list; the builder must not be used afterwards. */
    public Texts build() {
      byte[][] kept = total == 0 ? new byte[0][] : slabs;
      if (total > 0) {
        int last = (int) ((total - 1) >>> SLAB_BITS);
        kept[last] = Arrays.copyOf(kept[last], (int) (((total - 1) & (SLAB - 1)) + 1));
      }
      return new Texts(Arrays.copyOf(ends, size), kept);
    }
  }
}
