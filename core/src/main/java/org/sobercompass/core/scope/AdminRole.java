package org.sobercompass.core.scope;

import java.util.Set;
import org.sobercompass.core.problem.Place;

/**
 * A named set of admin actions.
 *
 * @param id the word it is named by
 * @param name for people
 * @param actions the ids of the actions
 * @param limitable whether it may be limited to a scope; else it is given over everything only
 * @param place where it stands
 */
public record AdminRole(
    String id, String name, Set<String> actions, boolean limitable, Place place) {
  /** Copies. */
  public AdminRole {
    actions = Set.copyOf(actions);
  }

  /** The same that allows nothing. */
  public AdminRole emptied() {
    return new AdminRole(id, name, Set.of(), limitable, place);
  }
}
