package org.sobercompass.core.facts;

import org.sobercompass.core.key.KeyKind;

/** What a right can be given to, in the order of key texts, which is the order of numbers. */
public enum SubjectKind {
  ACCOUNT(KeyKind.ACCOUNT, "account"),
  GROUP(KeyKind.GROUP, "group"),
  IMPLICIT(KeyKind.IMPLICIT, "implicit group"),
  UNIT(KeyKind.UNIT, "organizational unit");

  private final KeyKind keyKind;
  private final String words;

  SubjectKind(KeyKind keyKind, String words) {
    this.keyKind = keyKind;
    this.words = words;
  }

  /** The kind of its keys. */
  public KeyKind keyKind() {
    return keyKind;
  }

  /** The kind in words. */
  public String words() {
    return words;
  }
}
