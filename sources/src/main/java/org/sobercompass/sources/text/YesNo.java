package org.sobercompass.sources.text;

import java.util.Locale;
import java.util.Optional;

/** Yes and no as people write them. */
public final class YesNo {
  private YesNo() {}

  /** True for yes, true, on, 1; false for no, false, off, 0; empty for anything else. */
  public static Optional<Boolean> parse(String text) {
    return switch (text.strip().toLowerCase(Locale.ROOT)) {
      case "yes", "true", "on", "1" -> Optional.of(true);
      case "no", "false", "off", "0" -> Optional.of(false);
      default -> Optional.empty();
    };
  }
}
