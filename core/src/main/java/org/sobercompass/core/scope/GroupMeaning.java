package org.sobercompass.core.scope;

/**
 * What a group that comes into a scope stands for; said, never assumed.
 *
 * @param object the group object itself
 * @param members the accounts in it, to any depth
 * @param nested the groups in it, as objects, to any depth
 */
public record GroupMeaning(boolean object, boolean members, boolean nested) {
  /** In words. */
  public String words() {
    String both = object && members ? "it and its members" : object ? "it itself" : "its members";
    return nested ? both + ", groups in it too" : both;
  }
}
