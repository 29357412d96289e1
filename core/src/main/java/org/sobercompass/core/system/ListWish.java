package org.sobercompass.core.system;

import java.util.List;

/**
 * What somebody is to get, or no longer to get, by an entry in a list.
 *
 * @param subject an account, group or implicit group
 * @param resource where
 * @param rights the rights, by number
 * @param below whether it also counts below
 */
public record ListWish(int subject, int resource, List<Integer> rights, boolean below) {
  /** Copies. */
  public ListWish {
    rights = List.copyOf(rights);
  }

  /**
   * An entry to add to a list, or to take out of it.
   *
   * @param resource whose list
   * @param text the entry, as the system writes it
   * @param added whether it is added; else it is taken out
   */
  public record Edit(int resource, String text, boolean added) {}
}
