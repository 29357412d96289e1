package org.sobercompass.core.filter;

/** A filter text that is not one; tells the column and what was expected there. */
public final class FilterSyntaxException extends IllegalArgumentException {
  private static final long serialVersionUID = 1L;

  private final int column;
  private final String expected;

  FilterSyntaxException(String text, int column, String expected) {
    super("filter " + text + ", column " + column + ": expected " + expected);
    this.column = column;
    this.expected = expected;
  }

  /** The column, from 1. */
  public int column() {
    return column;
  }

  /** What was expected there. */
  public String expected() {
    return expected;
  }
}
