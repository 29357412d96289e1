package org.sobercompass.core.system;

/** What is to be said of a list at a glance. */
public enum ListMark {
  /** It has entries of its own. */
  EXPLICIT("+", "entries of its own"),
  /** Nothing comes into it from above. */
  BLOCKED("|", "inheritance blocked"),
  /** Entries claim to be inherited and are not. */
  CLAIMED("!", "marked as inherited without a source"),
  /** Something handed on from above did not arrive. */
  MISSED("~", "inheritance not applied"),
  /** All it has comes from above. */
  INHERITED("=", "inherited"),
  /** It was not read. */
  UNREAD("?", "not read"),
  /** Somebody reads only some of its rows. */
  ROWS("#", "row security");

  private final String sign;
  private final String words;

  ListMark(String sign, String words) {
    this.sign = sign;
    this.words = words;
  }

  /** One character. */
  public String sign() {
    return sign;
  }

  /** The mark in words. */
  public String words() {
    return words;
  }
}
