package org.sobercompass.core.findings.details;

import java.util.List;

/** About groups that carry rights. */
public sealed interface GroupDetails extends Details {
  /** Groups each of which is a member of the next, and the last of the first. */
  record Circle(List<Integer> groups) implements GroupDetails {}

  /** A group with members that do not exist. */
  record MissingMembers(int group, int missing) implements GroupDetails {}

  /**
   * Rights that come through many groups in groups.
   *
   * @param systems where the group is given something
   * @param accounts how many get it that way
   * @param deepest the most memberships one after the other
   * @param limit more than how many are told
   */
  record DeepNesting(int group, List<Integer> systems, int accounts, int deepest, int limit)
      implements GroupDetails {}
}
