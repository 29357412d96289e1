package org.sobercompass.core.findings;

import java.util.BitSet;
import java.util.Optional;
import java.util.OptionalInt;
import org.sobercompass.core.admin.AdminModel;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;

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
    /** Everybody who can do it to its object, or to any object of its scope. */
    public BitSet accounts(Powers powers) {
      AdminModel model = powers.roles();
      AdminAction known = model.administration().action(action).orElseThrow();
      BitSet objects = new BitSet();
      object.ifPresent(objects::set);
      scope.ifPresent(number -> objects.or(model.scopes().objects(number)));
      BitSet accounts = new BitSet();
      objects.stream()
          .mapToObj(powers::thing)
          .filter(thing -> powers.fits(known, thing))
          .forEach(thing -> accounts.or(powers.who(known, thing, Optional.empty()).yes()));
      return accounts;
    }
  }
}
