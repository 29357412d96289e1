package org.sobercompass.core.findings.details;

import java.util.List;
import org.sobercompass.core.access.Drift;
import org.sobercompass.core.system.Grant;

/** About assignments in applications. */
public sealed interface GrantDetails extends Details {
  /**
   * An application that asks for no sign-in.
   *
   * @param given how much it gives everyone, role by role
   */
  record NoSignIn(int system, List<Strength> given) implements GrantDetails {}

  /** A role that is given to somebody who does not exist, or was not read. */
  record MissingSubject(int system, Grant grant, Strength strength) implements GrantDetails {}

  /** A role that is given to a person. */
  record ToPerson(int system, Grant grant, Strength strength) implements GrantDetails {}

  /**
   * A role that is given to everyone.
   *
   * @param reached how many accounts hold what it gives
   */
  record ToEveryone(int system, Grant grant, Strength strength, int reached)
      implements GrantDetails {}

  /** An assignment that has expired. */
  record Expired(int system, Grant grant) implements GrantDetails {}

  /** A role that is given to an empty group. */
  record ToEmptyGroup(int system, Grant grant, Strength strength) implements GrantDetails {}

  /**
   * An empty group that is given several roles.
   *
   * @param assignments how many
   * @param systems in how many applications
   */
  record EmptyGroup(int group, int assignments, int systems) implements GrantDetails {}

  /**
   * A role that is given to very many.
   *
   * @param isUnit whether to a unit, else to a group
   * @param isNamed whether the workspace calls it broad
   * @param inside how many accounts are in it
   * @param seen how many the application sees
   * @param percent from what share on a group is broad
   */
  record ToMany(
      int system,
      Grant grant,
      Strength strength,
      boolean isUnit,
      boolean isNamed,
      int inside,
      int seen,
      int percent)
      implements GrantDetails {}

  /**
   * A role that is given everywhere while others have it at one place.
   *
   * @param narrow how many assignments of the role are at one place
   * @param all how many it has
   */
  record Everywhere(int system, Grant grant, Strength strength, int narrow, int all)
      implements GrantDetails {}

  /** An assignment without which nobody would hold less or more. */
  record Redundant(int system, Grant grant) implements GrantDetails {}

  /**
   * Assignments that are redundant because of one other.
   *
   * @param by the other
   * @param covered how many
   */
  record Covered(int system, Grant by, int covered) implements GrantDetails {}

  /**
   * An assignment that takes away what others give.
   *
   * @param denies whether by a deny, else because it is nearer
   * @param accounts from how many accounts
   */
  record TakesAway(int system, Grant grant, boolean denies, int accounts) implements GrantDetails {}

  /** What was agreed against what is there. */
  record Drifted(int system, Drift.Difference difference, Strength strength)
      implements GrantDetails {}
}
