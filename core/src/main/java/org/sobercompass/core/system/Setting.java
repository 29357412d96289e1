package org.sobercompass.core.system;

import java.util.List;

/**
 * One setting of a system that is to be written otherwise in the file that defines it. Immutable.
 *
 * @param path the keys from the top of the file, such as {@code sight, account-filter}
 * @param is what is to stand there, as YAML in one line; empty when it is to be taken out
 */
public record Setting(List<String> path, String is) {
  /** Copies. */
  public Setting {
    path = List.copyOf(path);
  }

  /** Where it stands, for people: its keys with colons. */
  public String where() {
    return String.join(":", path);
  }
}
