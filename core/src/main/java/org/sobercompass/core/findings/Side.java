package org.sobercompass.core.findings;

import java.util.BitSet;
import java.util.Optional;
import java.util.OptionalInt;
import org.sobercompass.core.admin.ActRoutes;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.system.Crowd;

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
  record Act(String action, OptionalInt object, OptionalInt scope) implements Side {
    /** What it can be done to: its object, or all objects of its scope. */
    public BitSet objects(Powers powers) {
      BitSet objects = new BitSet();
      object.ifPresent(objects::set);
      scope.ifPresent(number -> powers.roles().scopes().objects(number).setIn(objects));
      return objects;
    }

    /** How an account comes to it, in words; nothing where that is not sure. */
    public Optional<String> route(Powers powers, int account) {
      AdminAction known = powers.roles().administration().action(action).orElseThrow();
      return new ActRoutes(powers).first(account, known, objects(powers));
    }

    /** Who can do it to its object, or to any object of its scope, and of whom it is not known. */
    public Crowd who(Powers powers) {
      AdminAction known = powers.roles().administration().action(action).orElseThrow();
      BitSet yes = new BitSet();
      BitSet perhaps = new BitSet();
      objects(powers).stream()
          .mapToObj(powers::thing)
          .filter(thing -> powers.fits(known, thing))
          .map(thing -> powers.who(known, thing, Optional.empty()))
          .forEach(
              answer -> {
                yes.or(answer.yes());
                perhaps.or(answer.perhaps());
              });
      perhaps.andNot(yes);
      return new Crowd(yes, perhaps);
    }
  }
}
