package org.sobercompass.report.data;

import java.util.List;
import java.util.stream.Collectors;

/** Makes text from outside harmless in each format. */
final class Safe {
  private Safe() {}

  /**
   * For a terminal: control characters, and those that turn the writing direction, are replaced.
   */
  static String terminal(String text) {
    StringBuilder out = null;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      boolean turns = (c >= 0x202a && c <= 0x202e) || (c >= 0x2066 && c <= 0x2069);
      if (Character.isISOControl(c) || turns) {
        out = out == null ? new StringBuilder(text) : out;
        out.setCharAt(i, '\uFFFD');
      }
    }
    return out == null ? text : out.toString();
  }

  /** For a spreadsheet: a cell that starts like a formula gets an apostrophe before it. */
  static String cell(String text) {
    boolean formula = !text.isEmpty() && "=+-@\t\r".indexOf(text.charAt(0)) >= 0;
    return formula ? "'" + text : text;
  }

  /** A value as one text; lists by semicolons. */
  static String flat(Object value) {
    if (value instanceof List<?> list) {
      return list.stream().map(String::valueOf).collect(Collectors.joining("; "));
    }
    return value instanceof Boolean yes ? (yes ? "yes" : "no") : String.valueOf(value);
  }
}
