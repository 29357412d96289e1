package org.sobercompass.core.problem;

/**
 * One thing that is wrong in the input.
 *
 * @param severity whether answers may still be given
 * @param place where it stands
 * @param what what is wrong, one sentence without a full stop, the offending text cut short
 * @param expected what was expected instead, or empty
 * @param nearest the nearest right thing, or empty
 */
public record Problem(
    Severity severity, Place place, String what, String expected, String nearest) {

  /** How much a problem weighs. */
  public enum Severity {
    /** The input cannot be used: no answer is given. */
    ERROR,
    /** Answers are given, and this goes with them. */
    WARNING
  }

  private static final int SHOWN = 60;

  /** A problem that stops the work. */
  public static Problem error(Place place, String what, String expected) {
    return new Problem(Severity.ERROR, place, what, expected, "");
  }

  /** A problem that goes with the answers. */
  public static Problem warning(Place place, String what, String expected) {
    return new Problem(Severity.WARNING, place, what, expected, "");
  }

  /** The same with the nearest right thing. */
  public Problem near(String nearestThing) {
    return new Problem(severity, place, what, expected, nearestThing);
  }

  /** Text from outside, in quotes, cut short and without control characters. */
  public static String quote(String text) {
    int end = text.length() <= SHOWN ? text.length() : text.offsetByCodePoints(0, SHOWN / 2);
    return '"' + Plain.text(text.substring(0, end)) + (end < text.length() ? "…\"" : "\"");
  }

  /** Place, what, what was expected, the nearest right thing, in one line, safe for a terminal. */
  @Override
  public String toString() {
    StringBuilder out = new StringBuilder(place.toString()).append(": ").append(what);
    if (!expected.isEmpty()) {
      out.append("; expected ").append(expected);
    }
    if (!nearest.isEmpty()) {
      out.append("; did you mean ").append(nearest).append('?');
    }
    return Plain.lines(out.toString());
  }
}
