package org.sobercompass.report.data;

/** How many cells of a terminal a text takes (Unicode Standard Annex 11). */
final class Cells {
  private Cells() {}

  /** The cells of a whole text. O(characters). */
  static int width(String text) {
    int width = 0;
    for (int i = 0; i < text.length(); i += Character.charCount(text.codePointAt(i))) {
      width += width(text.codePointAt(i));
    }
    return width;
  }

  /** The end of what fits into some cells from a place on; at least one character. */
  static int fits(String text, int from, int room) {
    int at = from;
    int used = 0;
    while (at < text.length()) {
      int point = text.codePointAt(at);
      used += width(point);
      if (used > room && at > from) {
        return at;
      }
      at += Character.charCount(point);
    }
    return at;
  }

  /** Marks that stand over others take none; wide characters take two. */
  private static int width(int point) {
    if (point < 0x300) {
      return 1;
    }
    int type = Character.getType(point);
    if (type == Character.NON_SPACING_MARK
        || type == Character.ENCLOSING_MARK
        || type == Character.FORMAT) {
      return 0;
    }
    return isWide(point) ? 2 : 1;
  }

  private static boolean isWide(int point) {
    return (point >= 0x1100 && point <= 0x115f)
        || (point >= 0x2e80 && point <= 0x303e)
        || (point >= 0x3041 && point <= 0xa4cf)
        || (point >= 0xac00 && point <= 0xd7a3)
        || (point >= 0xf900 && point <= 0xfaff)
        || (point >= 0xfe30 && point <= 0xfe6f)
        || (point >= 0xff00 && point <= 0xff60)
        || (point >= 0xffe0 && point <= 0xffe6)
        || (point >= 0x1f300 && point <= 0x1faff)
        || (point >= 0x20000 && point <= 0x3fffd);
  }
}
