package org.sobercompass.core.system.roles;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.problem.Place;

/**
 * A role as it is written.
 *
 * @param id unique in the application
 * @param name for people
 * @param derives the role it starts as a copy of, or empty
 * @param includes the roles whose rights it has besides its own
 * @param allows for an area (or {@link RoleRights#EVERY_AREA}) the level, or none, and the actions
 * @param denies the same for what it takes away
 * @param place where it stands
 */
public record RoleDefinition(
    String id,
    String name,
    String derives,
    List<String> includes,
    Map<String, List<String>> allows,
    Map<String, List<String>> denies,
    Place place) {

  /** The same with another entry for an area; none where there are no words. */
  RoleDefinition allowing(String area, List<String> words) {
    Map<String, List<String>> other = new LinkedHashMap<>(allows);
    other.remove(area);
    if (!words.isEmpty()) {
      other.put(area, List.copyOf(words));
    }
    return new RoleDefinition(id, name, derives, includes, other, denies, place);
  }

  /** The same including other roles. */
  RoleDefinition including(List<String> others) {
    return new RoleDefinition(id, name, derives, List.copyOf(others), allows, denies, place);
  }

  /** The same that gives nothing any more. */
  RoleDefinition emptied() {
    return new RoleDefinition(id, name, "", List.of(), Map.of(), Map.of(), place);
  }
}
