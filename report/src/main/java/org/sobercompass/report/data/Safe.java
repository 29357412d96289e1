package org.sobercompass.report.data;

import java.util.List;
import java.util.stream.Collectors;
import org.sobercompass.core.problem.Plain;

/** Makes text from outside harmless in each format. */
final class Safe {
  private Safe() {}

  /**
   * For a spreadsheet: nothing that a program acts on, and an apostrophe before what starts like a
   * formula.
   */
  static String cell(String text) {
    boolean formula = !text.isEmpty() && "=+-@\t\r".indexOf(text.charAt(0)) >= 0;
    return Plain.text(formula ? "'" + text : text);
  }

  /** A value as one text; lists by semicolons. */
  static String flat(Object value) {
    if (value instanceof List<?> list) {
      return list.stream().map(String::valueOf).collect(Collectors.joining("; "));
    }
    return value instanceof Boolean yes ? (yes ? "yes" : "no") : String.valueOf(value);
  }
}
