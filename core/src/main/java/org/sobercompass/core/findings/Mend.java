package org.sobercompass.core.findings;

/** What it takes to end a finding. */
public enum Mend {
  /** A change that can be undone: leave a group, withdraw an assignment. */
  REVERSIBLE("a change that can be undone"),
  /** A change that cannot be undone as it was: an account or an id that goes. */
  IRREVERSIBLE("a change that cannot be undone"),
  /** Somebody has to decide what is meant, before anything is changed. */
  DECISION("a decision");

  private final String words;

  Mend(String words) {
    this.words = words;
  }

  /** What it takes, in words. */
  public String words() {
    return words;
  }
}
