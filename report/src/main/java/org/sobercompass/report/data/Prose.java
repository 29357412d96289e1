package org.sobercompass.report.data;

import org.sobercompass.core.problem.Plain;

/** Text for a terminal that is no table: a title, sections, indented lines. Not thread-safe. */
public final class Prose {
  private static final String BOLD = "\u001b[1m";
  private static final String DIM = "\u001b[2m";
  private static final String PLAIN = "\u001b[0m";

  private final int width;
  private final boolean colour;
  private final StringBuilder out = new StringBuilder();

  /**
   * Text of a width.
   *
   * @param width of the terminal
   * @param colour whether to use colour
   */
  public Prose(int width, boolean colour) {
    this.width = Math.max(width, 40);
    this.colour = colour;
  }

  /** The answer in a sentence. */
  public Prose title(String text) {
    return lines("", "", text, BOLD);
  }

  /** What it was computed with. */
  public Prose fact(String text) {
    return lines("", "", text, DIM);
  }

  /** The name of a section, after an empty line. */
  public Prose section(String name) {
    out.append('\n');
    return lines("", "", name, BOLD);
  }

  /** A line below a section; {@code sign} stands before its first line. */
  public Prose item(String sign, String text) {
    return lines("  " + sign, "  " + " ".repeat(sign.length()), text, "");
  }

  /** A line that is not broken. */
  public Prose exact(String text) {
    out.append(Plain.text(text)).append('\n');
    return this;
  }

  /** An empty line. */
  public Prose gap() {
    out.append('\n');
    return this;
  }

  private Prose lines(String first, String rest, String text, String style) {
    boolean styled = colour && !style.isEmpty();
    String before = first;
    for (String line : TablePrinter.wrap(Plain.text(text), width - first.length())) {
      out.append(before).append(styled ? style + line + PLAIN : line).append('\n');
      before = rest;
    }
    return this;
  }

  /** All of it. */
  public String text() {
    return out.toString();
  }
}
