package org.sobercompass.core.facts;

/** How a membership is stated; a membership profile says which of these a system counts. */
public enum Via {
  /** {@code member} of groupOfNames (RFC 4519) or of a group of the {@code ad} kind. */
  MEMBER("member", "listed"),
  /** {@code uniqueMember} of groupOfUniqueNames (RFC 4519). */
  UNIQUE_MEMBER("uniqueMember", "listed"),
  /** {@code memberUid} of posixGroup (RFC 2307). */
  MEMBER_UID("memberUid", "listed"),
  /** The account's {@code gidNumber} (RFC 2307) or {@code primaryGroupID} ([MS-ADTS] 3.1.1.1.6). */
  PRIMARY("primary", "primary group"),
  /** A rule: {@code memberURL} of groupOfURLs, or a rule of the workspace. */
  DYNAMIC("dynamic", "by rule"),
  /** Being below an organizational unit. */
  CONTAINER("container", "below"),
  /** In a group that nobody lists. */
  IMPLICIT("implicit", "implicit"),
  /** Signing in to a database as one of its roles. */
  SIGNS_IN("signs-in", "signs in as"),
  /** A role of a database that has what another has. */
  ROLE("role", "inherits the role"),
  /** A role of a database that may switch to another, but has nothing of it until then. */
  SWITCH("switch", "may switch to"),
  /** Perhaps by a rule: it is undefined for the member. Counts where {@link #DYNAMIC} counts. */
  UNDEFINED("undefined", "perhaps by rule"),
  /**
   * Perhaps listed: the group has members that were not shown. Counts where the kind of edge counts
   * whose attribute was withheld.
   */
  WITHHELD("withheld", "perhaps listed");

  private static final Via[] ALL = values();

  private final String attribute;
  private final String words;

  Via(String attribute, String words) {
    this.attribute = attribute;
    this.words = words;
  }

  /** The attribute name, as written in a workspace. */
  public String attribute() {
    return attribute;
  }

  /** Whether such an edge is a membership for sure. */
  public boolean isSure() {
    return this != UNDEFINED && this != WITHHELD;
  }

  /** Whether the group itself lists the member, so that it can be taken out there. */
  public boolean isListed() {
    return this == MEMBER || this == UNIQUE_MEMBER || this == MEMBER_UID;
  }

  /** The kind of edge in words. */
  public String words() {
    return words;
  }

  /** The value with this ordinal. */
  public static Via of(int ordinal) {
    return ALL[ordinal];
  }
}
