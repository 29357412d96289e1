package org.sobercompass.core.removal;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Route;

/** What is to end. */
public interface Goal {
  /**
   * What still gives it in a model, or nothing when it has ended. The facts named must be enough by
   * themselves for it to hold, given that nothing is added: one of them has to go.
   */
  Optional<Still> still(AccessModel model);

  /**
   * What still gives something: routes, or memberships alone.
   *
   * @param parts each a route with its system, all of which are needed together
   * @param edges memberships that are needed besides, each as member and group
   * @param exact whether something has to go of just these: else there may be cheaper ways
   */
  record Still(List<Part> parts, List<int[]> edges, boolean exact) {
    /** Routes that are needed together. */
    public static Still of(List<Part> parts) {
      return new Still(parts, List.of(), true);
    }
  }

  /** A route in a system, by the system's number. */
  record Part(int system, Route route) {}
}
