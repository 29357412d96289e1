package org.sobercompass.core.system;

import java.util.Locale;

/** Which grants an answer uses: those read from the application, or those agreed. */
public enum Basis {
  ACTUAL,
  INTENDED;

  /** The lower-case word. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }
}
