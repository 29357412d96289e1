package org.sobercompass.core.carry;

import java.util.OptionalInt;

/**
 * A right that is not carried, or is carried otherwise than it was given.
 *
 * @param why why
 * @param from whose it is
 * @param to whose it would become
 * @param system the number of the system, where it is about one
 * @param grant the number of the grant there, where it is about one
 * @param group the group or unit, where it is about one
 * @param said what a system says of it, or empty
 */
public record Left(
    Why why,
    int from,
    int to,
    OptionalInt system,
    OptionalInt grant,
    OptionalInt group,
    String said) {
  /** Why a right is left. */
  public enum Why {
    /** The system does not look at the directory of the counterpart. */
    NOT_SEEN,
    /** The group or unit has no counterpart: its rights are given to members, or left. */
    NO_COUNTERPART,
    /** The assignment is over or switched off. */
    OVER,
    /** It is powerful, so somebody has to decide. */
    POWERFUL,
    /** Members of the counterpart are made by a rule. */
    BY_RULE,
    /** The system's lists cannot name the counterpart. */
    NO_NAME,
    /** It signs in to a database as a role by its name. */
    SIGNS_IN,
    /** A primary group cannot be left. */
    PRIMARY,
    /** It lies in a waste bin. */
    WASTE_BIN,
    /** Who owns something is changed by hand. */
    BY_HAND
  }

  static Left ofGroup(Why why, int from, int to, int group) {
    return new Left(
        why, from, to, OptionalInt.empty(), OptionalInt.empty(), OptionalInt.of(group), "");
  }

  static Left ofGrant(Why why, int from, int to, int system, int grant) {
    return new Left(
        why, from, to, OptionalInt.of(system), OptionalInt.of(grant), OptionalInt.empty(), "");
  }

  static Left ofSystem(Why why, int from, int to, int system, String said) {
    return new Left(
        why, from, to, OptionalInt.of(system), OptionalInt.empty(), OptionalInt.empty(), said);
  }
}
