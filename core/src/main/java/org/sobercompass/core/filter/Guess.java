package org.sobercompass.core.filter;

import java.util.Locale;
import java.util.Optional;

/**
 * Compares values of an attribute whose matching rule is not known: certain where every usual rule
 * (RFC 4517 section 4.2) decides the same, undefined where they differ.
 */
final class Guess {
  private Guess() {}

  /** True for identical values, false for values that no usual rule takes for equal. */
  static Truth equal(String have, String asked) {
    if (have.equals(asked)) {
      return Truth.TRUE;
    }
    boolean perhaps = loose(have).equals(loose(asked)) || same(Syntax.INTEGER, have, asked);
    return perhaps || same(Syntax.TIME, have, asked) ? Truth.UNDEFINED : Truth.FALSE;
  }

  private static boolean same(Syntax syntax, String have, String asked) {
    Optional<String> left = syntax.normalise(have);
    return left.isPresent() && left.equals(syntax.normalise(asked));
  }

  /** The form in which all values are alike that some usual rule for text or names folds. */
  static String loose(String value) {
    return value.replaceAll("[ -]", "").toLowerCase(Locale.ROOT);
  }

  /** Whether a value is of no syntax but text: others have no rule for pieces. */
  static boolean isText(String value) {
    return Syntax.INTEGER.normalise(value).isEmpty()
        && Syntax.BOOLEAN.normalise(value).isEmpty()
        && Syntax.TIME.normalise(value).isEmpty()
        && value.indexOf('=') < 0;
  }
}
