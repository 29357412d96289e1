package org.sobercompass.core.key;

import java.util.Locale;

/** What a {@link Key} names. */
public enum KeyKind {
  ACCOUNT,
  APPLICATION,
  AREA,
  ASSIGNMENT,
  FINDING,
  GROUP,
  IMPLICIT,
  NODE,
  PERMISSION,
  ROLE,
  UNIT;

  private final String word = name().toLowerCase(Locale.ROOT);

  /** The lower-case word that begins the text of a key of this kind. */
  public String word() {
    return word;
  }
}
