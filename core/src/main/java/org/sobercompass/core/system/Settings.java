package org.sobercompass.core.system;

import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * The settings of a system that a proposal can change, as they stand in the file that defines it.
 * The file is read when it is asked for, and never written. Thread-safe.
 */
public interface Settings {
  /** The file, as the user names it. */
  String file();

  /**
   * What the file says somewhere.
   *
   * @param earlier settings that are written otherwise before
   * @return YAML in one line; empty where it says nothing
   * @throws IllegalArgumentException when no proposal can change what stands there, or the file
   *     cannot be read; with what could be changed
   */
  String says(List<String> path, List<Setting> earlier);

  /** The keys that can be changed one by one of what the file says somewhere; none but of a map. */
  Set<String> keys(List<String> path);

  /** All that it says, by path: each key of a map that can be changed by itself. */
  Map<List<String>, String> all();

  /**
   * The attributes (lower case) of accounts and groups that the system asks for then.
   *
   * @throws IllegalArgumentException when it cannot be read then
   */
  Set<String> needs(List<Setting> settings);

  /**
   * The system, defined so. Its grants are not read. Roles keep their numbers: new ones follow the
   * others, and one that is deleted stays in its place and gives nothing.
   *
   * @throws IllegalArgumentException when it cannot be read then, with all reasons
   */
  AccessSystem with(List<Setting> settings);
}
