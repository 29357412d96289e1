package org.sobercompass.core.system.remark;

import java.util.List;

/** About grants and roles of a database. */
public sealed interface RemarkedDatabase extends Remarked {
  /** Rights on an object. */
  record RightsOn(String rights, int resource) {}

  /** Rights that every role has in a schema; the first of them. */
  record OpenToAll(int schema, RightsOn first) implements RemarkedDatabase {}

  /** Rights of a role that may not use the schema; the first of them. */
  record OutOfReach(String role, RightsOn first, int schema) implements RemarkedDatabase {}

  /** A role that may create roles; whether it can give itself every one but a superuser's. */
  record CreatesRoles(String role, boolean reachesAll) implements RemarkedDatabase {}

  /**
   * A member of a role by which files of the server are reached.
   *
   * @param how what that role can do
   * @param others who else can become the member
   */
  record UsesServerFiles(String member, String role, String how, List<String> others)
      implements RemarkedDatabase {}

  /** A member that may switch to a role of which it does not inherit the rights. */
  record MaySwitch(String member, String role) implements RemarkedDatabase {}

  /** A member that may switch to a superuser, and who else can become that member. */
  record MayBecomeSuperuser(String member, String role, List<String> others)
      implements RemarkedDatabase {}
}
