package org.sobercompass.core.problem;

/**
 * Text from outside without characters that a terminal or a reader would act on: control characters
 * and the invisible ones that turn or mark the writing direction (Unicode Standard Annex 9, section
 * 2). Each becomes U+FFFD, so that it is seen that something was there.
 */
public final class Plain {
  private static final char SHOWN = '\uFFFD';

  private Plain() {}

  /** Whether a character is replaced. */
  public static boolean isUnsafe(char c) {
    return c < 0x20
        || (c >= 0x7f && c < 0xa0)
        || c == 0x061c
        || (c >= 0x2028 && c <= 0x202e)
        || c == 0x200e
        || c == 0x200f
        || (c >= 0x2066 && c <= 0x2069);
  }

  /** The text with every such character replaced; the same object when there is none. */
  public static String text(String text) {
    for (int i = 0; i < text.length(); i++) {
      if (isUnsafe(text.charAt(i))) {
        return replaced(text, i, "");
      }
    }
    return text;
  }

  /** The same for a text of several lines: line feeds and tabs stay. */
  public static String lines(String text) {
    for (int i = 0; i < text.length(); i++) {
      if (isUnsafe(text.charAt(i)) && "\n\t".indexOf(text.charAt(i)) < 0) {
        return replaced(text, i, "\n\t");
      }
    }
    return text;
  }

  private static String replaced(String text, int from, String kept) {
    StringBuilder out = new StringBuilder(text);
    for (int i = from; i < out.length(); i++) {
      char c = out.charAt(i);
      if (isUnsafe(c) && kept.indexOf(c) < 0) {
        out.setCharAt(i, SHOWN);
      }
    }
    return out.toString();
  }
}
