package org.sobercompass.core.system.roles;

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
    Place place) {}
