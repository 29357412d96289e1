package org.sobercompass.core.system.roles;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;

/** Checks role definitions before they are compiled: names, denies, circles. */
final class RoleChecks {
  private final RoleRights rights;
  private final Map<String, RoleDefinition> byId;
  private final boolean denyAllowed;
  private final Problems problems;

  RoleChecks(
      RoleRights rights, Map<String, RoleDefinition> byId, boolean denyAllowed, Problems problems) {
    this.rights = rights;
    this.byId = byId;
    this.denyAllowed = denyAllowed;
    this.problems = problems;
  }

  void run() {
    for (RoleDefinition role : byId.values()) {
      for (String need : RoleCompiler.needs(byId, role.id())) {
        if (!byId.containsKey(need)) {
          problems.unknown(
              role.place(),
              "role "
                  + role.id()
                  + " names the role "
                  + Problem.quote(need)
                  + ", which is not there",
              "a role of this application",
              need,
              byId.keySet());
        }
      }
      entries(role, role.allows());
      entries(role, role.denies());
      if (!denyAllowed && !role.denies().isEmpty()) {
        problems.error(
            role.place(),
            "role "
                + role.id()
                + " denies something, but this application does not combine by deny",
            "no deny, or combining: deny-overrides");
      }
    }
    circles();
  }

  private void entries(RoleDefinition role, Map<String, List<String>> entries) {
    entries.forEach(
        (area, words) -> {
          if (!area.equals(RoleRights.EVERY_AREA) && rights.area(area) < 0) {
            problems.unknown(
                role.place(),
                "role "
                    + role.id()
                    + " names the area "
                    + Problem.quote(area)
                    + ", which is not there",
                "an area of this application or *",
                area,
                rights.areas());
          }
          words.forEach(word -> word(role, area, word));
          long levels =
              words.stream()
                  .filter(w -> rights.slot(w) >= 0 && rights.slot(w) < rights.levels())
                  .count();
          if (levels > 1) {
            problems.error(
                role.place(),
                "role " + role.id() + " gives two levels on " + area,
                "one level, since a higher one contains the lower");
          }
        });
  }

  private void word(RoleDefinition role, String area, String word) {
    if (!word.equals(RoleRights.NONE) && rights.slot(word) < 0) {
      problems.unknown(
          role.place(),
          "role "
              + role.id()
              + " names "
              + Problem.quote(word)
              + " on "
              + area
              + ", which is no level or action",
          "one of " + String.join(", ", rights.vocabulary()) + ", none",
          word,
          rights.vocabulary());
    }
  }

  /** Roles left over when all that need nothing unfinished are taken away, again and again. */
  private void circles() {
    Map<String, Set<String>> open = new HashMap<>();
    byId.keySet().forEach(id -> open.put(id, new LinkedHashSet<>(RoleCompiler.needs(byId, id))));
    open.values().forEach(needs -> needs.retainAll(byId.keySet()));
    boolean moved = true;
    while (moved) {
      Set<String> free = new LinkedHashSet<>();
      open.forEach(
          (id, needs) -> {
            if (needs.isEmpty()) free.add(id);
          });
      open.keySet().removeAll(free);
      open.values().forEach(needs -> needs.removeAll(free));
      moved = !free.isEmpty();
    }
    while (!open.isEmpty()) {
      List<String> circle = circle(open);
      problems.error(
          place(circle),
          "roles include each other in a circle: " + String.join(" → ", circle),
          "no circle");
      open.keySet().removeAll(circle);
      open.values().forEach(needs -> needs.removeAll(circle));
      open.values().removeIf(Set::isEmpty);
    }
  }

  private Place place(List<String> circle) {
    RoleDefinition role = byId.get(circle.get(0));
    return role == null ? Place.of("") : role.place();
  }

  private static List<String> circle(Map<String, Set<String>> open) {
    List<String> walk = new ArrayList<>();
    String at = open.keySet().stream().sorted().findFirst().orElseThrow();
    while (!walk.contains(at)) {
      walk.add(at);
      at =
          open.getOrDefault(at, Set.of()).stream().filter(open::containsKey).findFirst().orElse(at);
    }
    List<String> circle = new ArrayList<>(walk.subList(walk.indexOf(at), walk.size()));
    circle.add(at);
    return circle;
  }
}
