package org.sobercompass.core.key;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Optional;

/**
 * A typed stable key: kind, source, and the immutable id inside that source ({@code objectGUID},
 * {@code entryUUID}, SID, else the canonical name). Its text is {@code kind:source/id}. Immutable.
 *
 * @param kind what is named
 * @param source the directory or application it belongs to; empty for what belongs to none
 * @param id the immutable id inside the source
 */
public record Key(KeyKind kind, String source, String id) implements Comparable<Key> {

  /** The text: {@code kind:source/id}, or {@code kind:id} where there is no source. */
  public String text() {
    return source.isEmpty() ? kind.word() + ":" + id : kind.word() + ":" + source + "/" + id;
  }

  /** The key with a text; empty when it is none. */
  public static Optional<Key> read(String text) {
    int colon = text.indexOf(':');
    for (KeyKind kind : KeyKind.values()) {
      if (colon > 0 && kind.word().equals(text.substring(0, colon))) {
        String rest = text.substring(colon + 1);
        int slash = kind == KeyKind.IMPLICIT ? -1 : rest.indexOf('/');
        return Optional.of(
            slash < 0
                ? new Key(kind, "", rest)
                : new Key(kind, rest.substring(0, slash), rest.substring(slash + 1)));
      }
    }
    return Optional.empty();
  }

  /** By the UTF-8 bytes of the text. */
  @Override
  public int compareTo(Key other) {
    return compareUtf8(text(), other.text());
  }

  @Override
  public String toString() {
    return text();
  }

  /** Compares two texts by their UTF-8 bytes, unsigned. O(length). */
  public static int compareUtf8(String a, String b) {
    if (isPlain(a) && isPlain(b)) {
      return a.compareTo(b);
    }
    return Arrays.compareUnsigned(
        a.getBytes(StandardCharsets.UTF_8), b.getBytes(StandardCharsets.UTF_8));
  }

  /**
   * The order of {@link #compareUtf8} for these texts: looked at once, so that comparing is cheap.
   */
  public static Comparator<String> orderOf(Iterable<String> texts) {
    for (String text : texts) {
      if (!isPlain(text)) {
        return Key::compareUtf8;
      }
    }
    return Comparator.naturalOrder();
  }

  /** Below the surrogates, UTF-16 order and UTF-8 order are the same. */
  private static boolean isPlain(String text) {
    for (int i = 0; i < text.length(); i++) {
      if (text.charAt(i) >= Character.MIN_SURROGATE) {
        return false;
      }
    }
    return true;
  }
}
