package org.sobercompass.core.delegation;

/** Where an entry of a list comes from. */
public enum Origin {
  /** Written here, and neither a default nor there from the beginning: a delegation. */
  ADDED("added here"),
  /** It says that it came from above, and nothing above gives it: a delegation too. */
  CLAIMED("says it is inherited, and is not"),
  /** What the directory had when it was untouched, or when a survey of it was accepted. */
  PROVISIONED("as provisioned"),
  /** What the directory itself keeps on protected administrators. */
  GUARDED("kept by the directory"),
  /** What its class gives every object. */
  DEFAULT("default of its class"),
  /** It came from above. */
  INHERITED("from above");

  private final String words;

  Origin(String words) {
    this.words = words;
  }

  /** The origin in words. */
  public String words() {
    return words;
  }

  /** Whether somebody delegated something by it. */
  public boolean isDelegation() {
    return this == ADDED || this == CLAIMED;
  }
}
