package org.sobercompass.core.crosswalk;

import org.sobercompass.core.facts.Facts;

/** What stands behind an account; accounts are matched only with others of the same nature. */
public enum Nature {
  PERSON("a person's account"),
  SERVICE("a service account"),
  RESOURCE("a resource account"),
  HOST("the account of a host");

  private final String words;

  Nature(String words) {
    this.words = words;
  }

  /** In words. */
  public String words() {
    return words;
  }

  /** By what its directory says. */
  public static Nature of(Facts facts, int account) {
    if (facts.is(account, Facts.SERVICE)) {
      return SERVICE;
    }
    if (facts.is(account, Facts.RESOURCE)) {
      return RESOURCE;
    }
    return facts.is(account, Facts.HOST) ? HOST : PERSON;
  }
}
