package org.sobercompass.core.problem;

import java.util.Locale;
import java.util.Optional;

/** The nearest right name to a mistyped one, by edit distance (insert, delete, change, swap). */
public final class Spelling {
  private static final int LONGEST = 64;

  private Spelling() {}

  /**
   * The nearest of {@code known} to {@code word}, ignoring case; empty when none is near (more than
   * a third of its letters differ). Ties go to the first. O(known x length squared), so the length
   * that is looked at is capped.
   */
  public static Optional<String> nearest(String word, Iterable<String> known) {
    String asked = fold(word);
    int best = Math.max(1, asked.length() / 3) + 1;
    String found = null;
    for (String name : known) {
      String candidate = fold(name);
      if (Math.abs(candidate.length() - asked.length()) >= best) {
        continue;
      }
      int distance = distance(asked, candidate);
      if (distance < best) {
        best = distance;
        found = name;
      }
    }
    return Optional.ofNullable(found);
  }

  /** The nearest name as the end of a message: {@code "; did you mean X?"}, or nothing. */
  public static String hint(String word, Iterable<String> known) {
    return nearest(word, known).map(name -> "; did you mean " + name + "?").orElse("");
  }

  private static String fold(String word) {
    String lower = word.toLowerCase(Locale.ROOT);
    return lower.length() <= LONGEST ? lower : lower.substring(0, LONGEST);
  }

  private static int distance(String a, String b) {
    int[] beforeLast = new int[b.length() + 1];
    int[] last = new int[b.length() + 1];
    int[] row = new int[b.length() + 1];
    for (int j = 0; j <= b.length(); j++) {
      last[j] = j;
    }
    for (int i = 1; i <= a.length(); i++) {
      row[0] = i;
      for (int j = 1; j <= b.length(); j++) {
        int change = last[j - 1] + (a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1);
        row[j] = Math.min(change, Math.min(last[j], row[j - 1]) + 1);
        if (i > 1 && j > 1 && swapped(a, i, b, j)) {
          row[j] = Math.min(row[j], beforeLast[j - 2] + 1);
        }
      }
      int[] spare = beforeLast;
      beforeLast = last;
      last = row;
      row = spare;
    }
    return last[b.length()];
  }

  private static boolean swapped(String a, int i, String b, int j) {
    return a.charAt(i - 1) == b.charAt(j - 2) && a.charAt(i - 2) == b.charAt(j - 1);
  }
}
