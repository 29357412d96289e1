package org.sobercompass.core.crosswalk;

/** What a person said of two. */
public enum Ruling {
  /** Nothing yet. */
  OPEN(""),
  /** They are the same. */
  SAME("yes"),
  /** They are not the same, whatever speaks for it. */
  NEVER("never");

  private final String word;

  Ruling(String word) {
    this.word = word;
  }

  /** As it is written in the table. */
  public String word() {
    return word;
  }
}
