package org.sobercompass.core.facts;

/** Groups that nobody lists. What each means for one application is said by that application. */
public enum Implicit {
  /** Whoever the application lets come at all. */
  EVERYONE("everyone", "everyone"),
  /** The application's own members: who is enrolled and active. */
  MEMBERS("members", "the application's members"),
  /** Everyone signed in. */
  SIGNED_IN("signed-in", "everyone signed in"),
  /** A group or unit that is named and was not found in what was read: anybody may be in it. */
  UNREAD("unread", "a group that was not read");

  private final String id;
  private final String words;

  Implicit(String id, String words) {
    this.id = id;
    this.words = words;
  }

  /** The id, as written in a mapping. */
  public String id() {
    return id;
  }

  /** The group in words. */
  public String words() {
    return words;
  }
}
