package org.sobercompass.core.admin;

import java.util.List;
import org.sobercompass.core.system.Climb;

/**
 * A power worth following: to administer an application, to control a directory, or one that the
 * workspace names.
 *
 * @param id the word it is named by
 * @param name for people, after "can": "administer Orders"
 * @param ofDirectory whether it is power in a directory; else in an application
 * @param trustees the accounts and groups that hold it
 * @param known whether these are all; not so where the list that says it was not read
 * @param climbs who comes to it by a system's own rules
 */
public record NamedPower(
    String id,
    String name,
    boolean ofDirectory,
    List<Integer> trustees,
    boolean known,
    List<Climb> climbs) {
  /** A power of which all holders are known, and to which a system's own rules do not lead. */
  public NamedPower(String id, String name, boolean ofDirectory, List<Integer> trustees) {
    this(id, name, ofDirectory, trustees, true, List.of());
  }

  /** Copies. */
  public NamedPower {
    trustees = List.copyOf(trustees);
    climbs = List.copyOf(climbs);
  }
}
