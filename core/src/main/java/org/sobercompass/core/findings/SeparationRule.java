package org.sobercompass.core.findings;

import java.util.List;
import org.sobercompass.core.problem.Place;

/**
 * Permissions that no account may hold together: at least one of each of {@code atLeast} sides.
 *
 * @param id unique in the workspace
 * @param name what must be kept apart, for people
 * @param sides each a list of permissions of any systems
 * @param atLeast how many sides make a conflict; 2 or more
 * @param weight how much it matters
 * @param place where it stands
 */
public record SeparationRule(
    String id, String name, List<List<Permission>> sides, int atLeast, Weight weight, Place place) {

  /** A permission of a system, by the system's id and the number of the right. */
  public record Permission(String system, int right) {}
}
