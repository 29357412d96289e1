package org.sobercompass.core.system;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.sobercompass.core.facts.Via;

/**
 * One change that can be laid over a model to see what it would do. Numbers are those of the model
 * it is laid over. What is done with it is said for each kind of change, so that a new one cannot
 * be forgotten anywhere.
 */
public sealed interface Change {
  /**
   * Does what fits: to memberships, to what a system gives and defines, or to an account or group
   * itself.
   */
  <T> T fold(
      Function<OfMembership, T> membership,
      Function<OfSystem, T> system,
      Function<OfSubject, T> subject);

  /** A change of memberships. */
  sealed interface OfMembership extends Change {
    /** The account or group. */
    int member();

    /** The group. */
    int group();

    /** How it lists, or would list, the member. */
    Via via();

    /** Does what fits. */
    <T> T byKind(Function<MembershipAdded, T> added, Function<MembershipRemoved, T> removed);

    @Override
    default <T> T fold(
        Function<OfMembership, T> membership,
        Function<OfSystem, T> system,
        Function<OfSubject, T> subject) {
      return membership.apply(this);
    }
  }

  /** A member is added to a group. */
  record MembershipAdded(int member, int group, Via via) implements OfMembership {
    @Override
    public <T> T byKind(
        Function<MembershipAdded, T> added, Function<MembershipRemoved, T> removed) {
      return added.apply(this);
    }
  }

  /** A member is taken out of a group. */
  record MembershipRemoved(int member, int group, Via via) implements OfMembership {
    @Override
    public <T> T byKind(
        Function<MembershipAdded, T> added, Function<MembershipRemoved, T> removed) {
      return removed.apply(this);
    }
  }

  /** A change of what a system gives or defines: of assignments, admin roles, entries, scopes. */
  sealed interface OfSystem extends Change {
    /** The number of the system. */
    int system();

    /** Does what fits. */
    <T> T byKind(
        Function<AssignmentAdded, T> added,
        Function<AssignmentRemoved, T> removed,
        Function<Redefined, T> redefined);

    @Override
    default <T> T fold(
        Function<OfMembership, T> membership,
        Function<OfSystem, T> system,
        Function<OfSubject, T> subject) {
      return system.apply(this);
    }
  }

  /**
   * A role is given; an admin role over a scope, whose number then stands for the node.
   *
   * @param on whether it counts; one that is switched off is only kept
   */
  record AssignmentAdded(
      int system,
      int role,
      int subject,
      int node,
      boolean descends,
      Optional<Instant> from,
      Optional<Instant> until,
      boolean on)
      implements OfSystem {
    /** One that is switched on. */
    public AssignmentAdded(
        int system,
        int role,
        int subject,
        int node,
        boolean descends,
        Optional<Instant> from,
        Optional<Instant> until) {
      this(system, role, subject, node, descends, from, until, true);
    }

    @Override
    public <T> T byKind(
        Function<AssignmentAdded, T> added,
        Function<AssignmentRemoved, T> removed,
        Function<Redefined, T> redefined) {
      return added.apply(this);
    }
  }

  /**
   * An assignment is withdrawn, or an entry is taken out of its list, with what it handed on; by
   * its number.
   */
  record AssignmentRemoved(int system, int grant) implements OfSystem {
    @Override
    public <T> T byKind(
        Function<AssignmentAdded, T> added,
        Function<AssignmentRemoved, T> removed,
        Function<Redefined, T> redefined) {
      return removed.apply(this);
    }
  }

  /** What a system defines is otherwise: a scope, its register, a role. */
  record Redefined(int system, Redefinition how) implements OfSystem {
    @Override
    public <T> T byKind(
        Function<AssignmentAdded, T> added,
        Function<AssignmentRemoved, T> removed,
        Function<Redefined, T> redefined) {
      return redefined.apply(this);
    }
  }

  /** A change of an account or group itself. */
  sealed interface OfSubject extends Change {
    /** The account or group. */
    int subject();

    /** Does what fits. */
    <T> T byKind(Function<AccountChanged, T> account, Function<PresenceChanged, T> presence);

    @Override
    default <T> T fold(
        Function<OfMembership, T> membership,
        Function<OfSystem, T> system,
        Function<OfSubject, T> subject) {
      return subject.apply(this);
    }
  }

  /**
   * An account is disabled or enabled, ends at another time, or may sign in from other hosts.
   *
   * @param disabled whether it is; empty when that stays
   * @param expires epoch second, or {@link org.sobercompass.core.facts.Facts#NEVER}; empty when
   *     that stays
   * @param hosts from which hosts it may sign in, none for all; empty when that stays
   */
  record AccountChanged(
      int subject, Optional<Boolean> disabled, Optional<Long> expires, Optional<List<String>> hosts)
      implements OfSubject {
    /** Of its state or end. */
    public AccountChanged(int subject, Optional<Boolean> disabled, Optional<Long> expires) {
      this(subject, disabled, expires, Optional.empty());
    }

    @Override
    public <T> T byKind(
        Function<AccountChanged, T> account, Function<PresenceChanged, T> presence) {
      return account.apply(this);
    }
  }

  /**
   * An account or group is created, or deleted. What is created was read with the rest, as absent.
   *
   * @param isThere whether it is there then
   */
  record PresenceChanged(int subject, boolean isThere) implements OfSubject {
    @Override
    public <T> T byKind(
        Function<AccountChanged, T> account, Function<PresenceChanged, T> presence) {
      return presence.apply(this);
    }
  }
}
