package org.sobercompass.core.removal;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.system.Change;

/** What is to end. */
public interface Goal {
  /**
   * What still gives it after some removals, or nothing when it has ended. The facts named must be
   * enough by themselves for it to hold, given that nothing is added: one of them has to go.
   *
   * @param model the access model with the removals laid over it
   * @param made the removals, also those of directories' lists and admin roles
   */
  Optional<Still> still(AccessModel model, List<Change> made);

  /**
   * All that is known to give it still, each enough by itself: fewer rounds than one at a time. Not
   * more than some hundreds; empty exactly when {@link #still} is.
   */
  default List<Still> stills(AccessModel model, List<Change> made) {
    return still(model, made).map(List::of).orElse(List.of());
  }

  /**
   * What still gives something: routes, memberships, entries, admin roles.
   *
   * @param parts each a route with its system, all of which are needed together
   * @param edges memberships that are needed besides, each as member and group
   * @param grants entries and admin roles that are needed besides, as their removals
   * @param scopes exceptions from scopes, each of which ends it
   * @param exact whether something has to go of just these: else there may be cheaper ways
   */
  record Still(
      List<Part> parts,
      List<int[]> edges,
      List<Change.AssignmentRemoved> grants,
      List<Change.Redefined> scopes,
      boolean exact) {
    /** Routes that are needed together. */
    public static Still of(List<Part> parts) {
      return new Still(parts, List.of(), List.of(), List.of(), true);
    }
  }

  /** A route in a system, by the system's number. */
  record Part(int system, Route route) {}
}
