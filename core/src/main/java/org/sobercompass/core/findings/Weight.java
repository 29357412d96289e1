package org.sobercompass.core.findings;

import java.util.Locale;

/** How much a finding matters. */
public enum Weight {
  LOW,
  MEDIUM,
  HIGH;

  /** The lower-case word. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }
}
