package org.sobercompass.core.system;

import java.util.List;

/**
 * Something wrong in the facts of one system, as the system itself sees it.
 *
 * @param kind what kind
 * @param resource where
 * @param cause what tells it from others of its kind at the same place, stable
 * @param sentence what is wrong, one sentence
 * @param subjects the numbers of the subjects concerned
 * @param grants the entries that show it
 * @param also how many further resources have the same from the same cause
 * @param advice what to do, one sentence
 */
public record Remark(
    Kind kind,
    int resource,
    String cause,
    String sentence,
    List<Integer> subjects,
    List<Integer> grants,
    int also,
    String advice) {

  /** What a system may remark; docs/findings.md explains each. */
  public enum Kind {
    ORDER_MATTERS("order-matters", "what is allowed and denied hangs on the order", 0),
    EARLIER_ID_OPENS(
        "earlier-id-opens", "an id kept from an earlier directory still opens doors", 1),
    LAYERS_DISAGREE("layers-disagree", "share list and file list disagree", 1),
    CLAIM_WITHOUT_SUPPORT("claim-without-support", "entries claim to be inherited and are not", 1),
    MISSED_CHANGE("missed-change", "what is handed on from above did not arrive", 1),
    BROKEN_INHERITANCE("broken-inheritance", "inheritance is stopped below", 0),
    WRITABLE_BY_EVERYONE("writable-by-everyone", "everyone can change it", 2),
    OWNER_OUTSIDE("owner-outside", "the owner is none of the administrators", 1),
    ENTRY_OF_MISSING("entry-of-missing", "an entry for somebody who does not exist", 0),
    ENTRY_FOR_PERSON("entry-for-person", "an entry for a person instead of a group", 0),
    MASK_HIDES("mask-hides", "the mask takes away what an entry says", 0),
    NO_WAY_TO_IT("no-way-to-it", "a right on a table without the way to it", 0),
    PUBLIC_RIGHTS("public-rights", "every role of the database has it", 1),
    MAY_SWITCH("may-switch", "a member may switch to a stronger role", 2),
    SUPERUSER_BY_MEMBERSHIP("superuser-by-membership", "a member may switch to a superuser", 2),
    SERVER_FILES("server-files", "a member reaches files or programs of the database's server", 2),
    CREATES_ROLES("creates-roles", "a role may create roles, and so come to others", 2);

    private final String id;
    private final String words;
    private final int weight;

    Kind(String id, String words, int weight) {
      this.id = id;
      this.words = words;
      this.weight = weight;
    }

    /** The id, as printed and filtered by. */
    public String id() {
      return id;
    }

    /** The kind in words. */
    public String words() {
      return words;
    }

    /** How much it matters: 0 low, 1 medium, 2 high. */
    public int weight() {
      return weight;
    }
  }
}
