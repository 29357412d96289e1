package org.sobercompass.core.system;

import java.util.List;
import java.util.Map;
import org.sobercompass.core.problem.Place;

/**
 * A role as it is written, before it is worked out. Immutable.
 *
 * @param id the id of the role
 * @param includes the ids of the roles it includes
 * @param allows by area, a level and actions
 * @param besides all else that it says: its name, what it derives from and denies; equal for equal
 * @param place where it stands
 */
public record WrittenRole(
    String id,
    List<String> includes,
    Map<String, List<String>> allows,
    List<Object> besides,
    Place place) {

  /** What it says of an area itself; nothing when it has no entry of its own there. */
  public List<String> own(String area) {
    return allows.getOrDefault(area, List.of());
  }
}
