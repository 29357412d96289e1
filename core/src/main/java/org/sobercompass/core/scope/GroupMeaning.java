package org.sobercompass.core.scope;

import java.util.List;
import java.util.Optional;

/**
 * What a group that comes into a scope stands for; said, never assumed.
 *
 * @param object the group object itself
 * @param members the accounts in it, to any depth
 * @param nested the groups in it, as objects, to any depth
 */
public record GroupMeaning(boolean object, boolean members, boolean nested) {
  /** The words that are written for it. */
  public static final List<String> WORDS = List.of("object", "members", "both");

  /**
   * By the word that is written for it: object, members or both. Empty for another word.
   *
   * @param nested whether groups in it are meant too
   */
  public static Optional<GroupMeaning> of(String word, boolean nested) {
    return WORDS.contains(word)
        ? Optional.of(new GroupMeaning(!word.equals("members"), !word.equals("object"), nested))
        : Optional.empty();
  }

  /** The word that is written for it. */
  public String word() {
    return object && members ? "both" : object ? "object" : "members";
  }

  /** In words. */
  public String words() {
    String both = object && members ? "it and its members" : object ? "it itself" : "its members";
    return nested ? both + ", groups in it too" : both;
  }
}
