package org.sobercompass.core.system;

import java.time.Instant;
import java.util.Optional;
import java.util.function.Function;
import org.sobercompass.core.facts.Via;

/**
 * One change that is not made yet: the same type for a preview, a removal and an amendment.
 * Subjects, roles and nodes are numbers of the model it is laid over. Whoever handles changes says
 * what becomes of each kind, by {@code fold}: a kind that is added later does not compile until it
 * is handled everywhere.
 */
public sealed interface Change {
  /**
   * Makes something of it, by what it is laid over.
   *
   * @param membership of who is in which group: it may concern every system
   * @param system of the grants of one system
   * @param directory of delegated administration: no system's own grants change by it
   */
  <T> T fold(
      Function<OfMembership, T> membership,
      Function<OfSystem, T> system,
      Function<OfDirectory, T> directory);

  /** One of who is in which group. */
  sealed interface OfMembership extends Change {
    /** The number of the member. */
    int member();

    /** The number of the group. */
    int group();

    /** How the group lists it. */
    Via via();

    /** Makes something of it, by its kind. */
    <T> T fold(Function<MembershipAdded, T> added, Function<MembershipRemoved, T> removed);

    @Override
    default <T> T fold(
        Function<OfMembership, T> membership,
        Function<OfSystem, T> system,
        Function<OfDirectory, T> directory) {
      return membership.apply(this);
    }
  }

  /** A subject is put into a group. */
  record MembershipAdded(int member, int group, Via via) implements OfMembership {
    @Override
    public <T> T fold(Function<MembershipAdded, T> added, Function<MembershipRemoved, T> removed) {
      return added.apply(this);
    }
  }

  /** A subject leaves a group. */
  record MembershipRemoved(int member, int group, Via via) implements OfMembership {
    @Override
    public <T> T fold(Function<MembershipAdded, T> added, Function<MembershipRemoved, T> removed) {
      return removed.apply(this);
    }
  }

  /** One of the grants of one system. */
  sealed interface OfSystem extends Change {
    /** The number of the system. */
    int system();

    /** Makes something of it, by its kind. */
    <T> T fold(Function<AssignmentAdded, T> added, Function<AssignmentRemoved, T> removed);

    @Override
    default <T> T fold(
        Function<OfMembership, T> membership,
        Function<OfSystem, T> system,
        Function<OfDirectory, T> directory) {
      return system.apply(this);
    }
  }

  /** A role is given. */
  record AssignmentAdded(
      int system,
      int role,
      int subject,
      int node,
      boolean descends,
      Optional<Instant> from,
      Optional<Instant> until)
      implements OfSystem {
    @Override
    public <T> T fold(Function<AssignmentAdded, T> added, Function<AssignmentRemoved, T> removed) {
      return added.apply(this);
    }
  }

  /** A grant is withdrawn. */
  record AssignmentRemoved(int system, int grant) implements OfSystem {
    @Override
    public <T> T fold(Function<AssignmentAdded, T> added, Function<AssignmentRemoved, T> removed) {
      return removed.apply(this);
    }
  }

  /** One of delegated administration. */
  sealed interface OfDirectory extends Change {
    /** Makes something of it, by its kind. */
    <T> T fold(Function<AdminRoleRemoved, T> role, Function<EntryRemoved, T> taken);

    @Override
    default <T> T fold(
        Function<OfMembership, T> membership,
        Function<OfSystem, T> system,
        Function<OfDirectory, T> directory) {
      return directory.apply(this);
    }
  }

  /** An admin role is withdrawn, by the number of its assignment. */
  record AdminRoleRemoved(int grant) implements OfDirectory {
    @Override
    public <T> T fold(Function<AdminRoleRemoved, T> role, Function<EntryRemoved, T> taken) {
      return role.apply(this);
    }
  }

  /**
   * An entry is taken out of the list of a directory's object, and with it what it hands on to the
   * objects below.
   *
   * @param directory the name of the directory
   * @param object the number of the object in its tree
   * @param entry the number of the entry in its list
   */
  record EntryRemoved(String directory, int object, int entry) implements OfDirectory {
    @Override
    public <T> T fold(Function<AdminRoleRemoved, T> role, Function<EntryRemoved, T> taken) {
      return taken.apply(this);
    }
  }
}
