package org.sobercompass.core.proposal;

import java.time.Instant;
import java.util.Optional;
import java.util.function.Function;
import org.sobercompass.core.key.Key;

/**
 * One proposed change, by stable keys, with what is needed to undo it. Immutable. What is done with
 * it is said for each kind, so that a new one cannot be forgotten anywhere.
 */
public sealed interface Step {
  /** Does what fits. */
  <T> T fold(
      Function<Join, T> join,
      Function<Leave, T> leave,
      Function<Assign, T> assign,
      Function<Withdraw, T> withdraw);

  /** The step that takes this one back. */
  Step inverse();

  /** An account or group is put into a group. */
  record Join(Key member, Key group) implements Step {
    @Override
    public <T> T fold(
        Function<Join, T> join,
        Function<Leave, T> leave,
        Function<Assign, T> assign,
        Function<Withdraw, T> withdraw) {
      return join.apply(this);
    }

    @Override
    public Step inverse() {
      return new Leave(member, group);
    }
  }

  /** An account or group is taken out of a group that lists it. */
  record Leave(Key member, Key group) implements Step {
    @Override
    public <T> T fold(
        Function<Join, T> join,
        Function<Leave, T> leave,
        Function<Assign, T> assign,
        Function<Withdraw, T> withdraw) {
      return leave.apply(this);
    }

    @Override
    public Step inverse() {
      return new Join(member, group);
    }
  }

  /** A role is given. */
  record Assign(Assignment what) implements Step {
    @Override
    public <T> T fold(
        Function<Join, T> join,
        Function<Leave, T> leave,
        Function<Assign, T> assign,
        Function<Withdraw, T> withdraw) {
      return assign.apply(this);
    }

    @Override
    public Step inverse() {
      return new Withdraw(what);
    }
  }

  /** A role that was given is withdrawn. */
  record Withdraw(Assignment what) implements Step {
    @Override
    public <T> T fold(
        Function<Join, T> join,
        Function<Leave, T> leave,
        Function<Assign, T> assign,
        Function<Withdraw, T> withdraw) {
      return withdraw.apply(this);
    }

    @Override
    public Step inverse() {
      return new Assign(what);
    }
  }

  /**
   * A role of an application given to a subject at a node.
   *
   * @param application the id of the application
   * @param role the id of the role
   * @param subject an account, group, unit or implicit group
   * @param node the id of the node
   * @param below whether it also counts below the node
   * @param from when it begins, or empty
   * @param until before when it counts, or empty
   */
  record Assignment(
      String application,
      String role,
      Key subject,
      String node,
      boolean below,
      Optional<Instant> from,
      Optional<Instant> until) {}
}
