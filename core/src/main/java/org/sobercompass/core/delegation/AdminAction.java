package org.sobercompass.core.delegation;

import java.util.List;

/**
 * One thing an administrator may do to a directory object.
 *
 * @param id the word it is named by
 * @param name what it is, for people: "set a new password"
 * @param on the classes of objects it can be done to; none for all
 * @param need the rights it needs
 * @param weight how much it gives: 0 little, 1 much, 2 the object itself
 */
public record AdminAction(String id, String name, List<String> on, Requirement need, int weight) {
  /** Copies. */
  public AdminAction {
    on = List.copyOf(on);
  }

  /** Whether it can be done to objects of a class. */
  public boolean fits(DsNames names, String objectClass) {
    return on.isEmpty() || on.stream().anyMatch(c -> names.isA(objectClass, c));
  }
}
