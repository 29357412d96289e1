package org.sobercompass.core.crosswalk;

import java.text.Normalizer;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;

/** Names of persons as they compare: without case, accents, punctuation, or order of the parts. */
final class PersonName {
  private static final Pattern MARKS = Pattern.compile("\\p{M}+");
  private static final Pattern REST = Pattern.compile("[^\\p{L}\\p{N}]+");
  private static final int SHORTEST = 2;

  private PersonName() {}

  /** Lower case without accents (Unicode Standard Annex 15); letters that have no mark stay. */
  static String plain(String text) {
    boolean ascii = text.chars().allMatch(c -> c < 0x80);
    if (ascii) {
      return text.toLowerCase(Locale.ROOT);
    }
    return MARKS
        .matcher(Normalizer.normalize(text, Normalizer.Form.NFKD))
        .replaceAll("")
        .toLowerCase(Locale.ROOT)
        .replace("ø", "o")
        .replace("ł", "l")
        .replace("đ", "d")
        .replace("ß", "ss")
        .replace("æ", "ae")
        .replace("œ", "oe")
        .replace("þ", "th");
  }

  /** The parts in the order of the alphabet. */
  static String tidy(String name) {
    List<String> parts = parts(REST.matcher(plain(name)).replaceAll(" ").strip());
    Collections.sort(parts);
    return String.join(" ", parts);
  }

  private static List<String> parts(String tidy) {
    return new ArrayList<>(List.of(tidy.split(" ")));
  }

  /** Whether two tidy names share a part that is longer than an initial. */
  static boolean share(String one, String other) {
    List<String> parts = parts(other);
    return parts(one).stream().anyMatch(p -> p.length() >= SHORTEST && parts.contains(p));
  }

  /**
   * Whether one tidy name is the other with further parts, such as a middle name: both have two or
   * more.
   */
  static boolean within(String one, String other) {
    List<String> a = parts(one);
    List<String> b = parts(other);
    return Math.min(a.size(), b.size()) >= 2 && (b.containsAll(a) || a.containsAll(b));
  }
}
