package org.sobercompass.core.system;

import java.time.Instant;
import java.util.Optional;
import org.sobercompass.core.facts.Via;

/**
 * One change that is not made yet: the same type for a preview, a removal and an amendment.
 * Subjects, roles and nodes are numbers of the model it is laid over.
 */
public sealed interface Change {

  /** A subject is put into a group. */
  record MembershipAdded(int member, int group, Via via) implements Change {}

  /** A subject leaves a group. */
  record MembershipRemoved(int member, int group, Via via) implements Change {}

  /** A role is given. */
  record AssignmentAdded(
      int system,
      int role,
      int subject,
      int node,
      boolean descends,
      Optional<Instant> from,
      Optional<Instant> until)
      implements Change {}

  /** A grant is withdrawn. */
  record AssignmentRemoved(int system, int grant) implements Change {}

  /** One of delegated administration; no system's own grants change by it. */
  sealed interface OfDirectory extends Change {}

  /** An admin role is withdrawn, by the number of its assignment. */
  record AdminRoleRemoved(int grant) implements OfDirectory {}

  /**
   * An entry is taken out of the list of a directory's object, and with it what it hands on to the
   * objects below.
   *
   * @param directory the name of the directory
   * @param object the number of the object in its tree
   * @param entry the number of the entry in its list
   */
  record EntryRemoved(String directory, int object, int entry) implements OfDirectory {}
}
