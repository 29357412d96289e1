package org.sobercompass.core.findings;

import java.util.OptionalInt;

/** One thing that stands on a side of a separation of duties rule. */
public sealed interface Side {
  /** A permission of a system, by the system's id and the number of the right. */
  record Permission(String system, int right) implements Side {}

  /** A role of a system, by the system's id and the number of the role: to be given it. */
  record RoleHeld(String system, int role) implements Side {}

  /**
   * An admin action over an object, or over any object in a scope.
   *
   * @param action the id of the action
   * @param object the number of the subject it is done to, if it is one
   * @param scope the number of the scope otherwise
   */
  record Act(String action, OptionalInt object, OptionalInt scope) implements Side {}
}
