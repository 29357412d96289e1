package org.sobercompass.cli;

/** What is known of the terminal. */
final class Terminal {
  private static final int USUAL = 100;
  private static final int WIDE = 160;

  private Terminal() {}

  /** The width from COLUMNS; without it a usual one. */
  static int width() {
    String columns = System.getenv("COLUMNS");
    return columns != null && columns.matches("[0-9]{2,4}")
        ? Math.min(Integer.parseInt(columns), WIDE)
        : USUAL;
  }

  /** How wide help is; picocli needs 55 at least. */
  static int helpWidth() {
    return Math.max(55, Math.min(width(), 100));
  }

  /** Whether standard error is a terminal; the launcher knows, Java does not. */
  static boolean ofErrors() {
    return "terminal".equals(System.getProperty("sober.errors"));
  }

  /** Whether answers go to a terminal too. */
  static boolean ofAnswers() {
    return System.console() != null;
  }

  /** Colour only on a terminal, and not when NO_COLOR is set. */
  static boolean colour() {
    String no = System.getenv("NO_COLOR");
    return ofAnswers() && (no == null || no.isEmpty());
  }
}
