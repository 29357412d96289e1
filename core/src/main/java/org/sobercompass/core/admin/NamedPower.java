package org.sobercompass.core.admin;

import java.util.List;

/**
 * A power worth following: to administer an application, to control a directory, or one that the
 * workspace names.
 *
 * @param id the word it is named by
 * @param name for people, after "can": "administer Orders"
 * @param ofDirectory whether it is power in a directory; else in an application
 * @param trustees the accounts and groups that hold it
 */
public record NamedPower(String id, String name, boolean ofDirectory, List<Integer> trustees) {
  /** Copies. */
  public NamedPower {
    trustees = List.copyOf(trustees);
  }
}
