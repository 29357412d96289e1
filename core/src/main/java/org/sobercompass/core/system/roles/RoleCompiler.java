package org.sobercompass.core.system.roles;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem.RoleChain;
import org.sobercompass.core.system.RoleInfo;

/**
 * Turns role definitions into sets of rights. First a derived role overlays the entries of the one
 * it derives from, area by area; then each area takes the entry of the nearest area above that has
 * one; what is denied holds for all areas below; included roles are added last. Circles are errors.
 */
public final class RoleCompiler {
  private final RoleRights rights;
  private final Map<String, RoleDefinition> byId = new LinkedHashMap<>();
  private final Map<String, Compiled> done = new HashMap<>();
  private boolean denies;

  /** A role in the making: its entries after derivation, its own rights, its whole rights. */
  private record Compiled(
      Map<String, List<String>> allows,
      Map<String, List<String>> denies,
      List<String> includes,
      long[] own,
      long[] all,
      long[] denied) {}

  /** Compiles roles over these rights. */
  public RoleCompiler(RoleRights rights) {
    this.rights = rights;
  }

  /**
   * Compiles all roles, in the order given.
   *
   * @return the roles; empty when there were errors
   */
  public List<RoleInfo> compile(
      List<RoleDefinition> definitions, boolean denyAllowed, Problems problems) {
    int before = problems.errors();
    denies = denyAllowed;
    for (RoleDefinition role : definitions) {
      if (byId.putIfAbsent(role.id(), role) != null) {
        problems.error(role.place(), "role " + role.id() + " stands twice", "each role once");
      }
    }
    new RoleChecks(rights, byId, denyAllowed, problems).run();
    if (problems.errors() > before) {
      return List.of();
    }
    for (RoleDefinition role : definitions) {
      compileWithNeeds(role.id());
    }
    return definitions.stream().map(this::info).toList();
  }

  /** The roles as they were written, in the order given. */
  public List<RoleDefinition> definitions() {
    return List.copyOf(byId.values());
  }

  /**
   * Other roles over the same rights.
   *
   * @param roles takes what they are compiled to
   * @throws IllegalArgumentException when they cannot be so, with the reason
   */
  RoleCompiler of(List<RoleDefinition> all, List<RoleInfo> roles) {
    RoleCompiler changed = new RoleCompiler(rights);
    Problems problems = new Problems();
    roles.addAll(changed.compile(all, denies, problems));
    if (problems.errors() > 0) {
      throw new IllegalArgumentException(problems.list().get(0).what());
    }
    return changed;
  }

  /** What a role needs first, then the role; circles were refused before. */
  private void compileWithNeeds(String id) {
    List<String> open = new ArrayList<>(List.of(id));
    while (!open.isEmpty()) {
      String top = open.get(open.size() - 1);
      List<String> missing =
          needs(byId, top).stream().filter(need -> !done.containsKey(need)).toList();
      if (missing.isEmpty()) {
        open.remove(open.size() - 1);
        done.computeIfAbsent(top, t -> compile(definition(t)));
      } else {
        open.addAll(missing);
      }
    }
  }

  static Set<String> needs(Map<String, RoleDefinition> byId, String id) {
    Set<String> needs = new LinkedHashSet<>();
    RoleDefinition role = byId.get(id);
    if (role != null) {
      if (!role.derives().isEmpty()) {
        needs.add(role.derives());
      }
      needs.addAll(role.includes());
    }
    return needs;
  }

  private RoleDefinition definition(String id) {
    RoleDefinition role = byId.get(id);
    if (role == null) {
      throw new IllegalStateException("no role " + id);
    }
    return role;
  }

  private Compiled done(String id) {
    Compiled role = done.get(id);
    if (role == null) {
      throw new IllegalStateException("role " + id + " is not compiled");
    }
    return role;
  }

  private Compiled compile(RoleDefinition role) {
    Map<String, List<String>> allows = new LinkedHashMap<>();
    Map<String, List<String>> denies = new LinkedHashMap<>();
    Set<String> includes = new LinkedHashSet<>();
    if (!role.derives().isEmpty()) {
      Compiled base = done(role.derives());
      allows.putAll(base.allows);
      denies.putAll(base.denies);
      includes.addAll(base.includes);
    }
    allows.putAll(role.allows());
    denies.putAll(role.denies());
    includes.addAll(role.includes());
    long[] own = new long[rights.words()];
    long[] denied = new long[rights.words()];
    for (int area = 0; area < rights.areas().size(); area++) {
      allow(area, nearest(area, allows), own);
      for (String above = rights.areas().get(area); ; above = parent(above)) {
        deny(area, denies.getOrDefault(above, List.of()), denied);
        if (above.equals(RoleRights.EVERY_AREA)) {
          break;
        }
      }
    }
    long[] all = own.clone();
    for (String included : includes) {
      or(all, done(included).all);
      or(denied, done(included).denied);
    }
    return new Compiled(allows, denies, List.copyOf(includes), own, all, denied);
  }

  private static String parent(String area) {
    int slash = area.lastIndexOf('/');
    return slash < 0 ? RoleRights.EVERY_AREA : area.substring(0, slash);
  }

  private List<String> nearest(int area, Map<String, List<String>> entries) {
    return entries.getOrDefault(nearestArea(rights.areas().get(area), entries), List.of());
  }

  private static String nearestArea(String area, Map<String, List<String>> entries) {
    String above = area;
    while (!entries.containsKey(above) && !above.equals(RoleRights.EVERY_AREA)) {
      above = parent(above);
    }
    return above;
  }

  private void allow(int area, List<String> words, long[] bits) {
    for (String word : words) {
      int slot = rights.slot(word);
      for (int s = slot < rights.levels() ? 0 : slot; s <= slot; s++) {
        set(bits, rights.right(area, s));
      }
    }
  }

  private void deny(int area, List<String> words, long[] bits) {
    for (String word : words) {
      int slot = rights.slot(word);
      int last = slot < rights.levels() ? rights.levels() - 1 : slot;
      for (int s = Math.max(slot, 0); s <= last && slot >= 0; s++) {
        set(bits, rights.right(area, s));
      }
    }
  }

  private static void set(long[] bits, int right) {
    bits[right >> 6] |= 1L << right;
  }

  private static void or(long[] into, long[] other) {
    for (int i = 0; i < into.length; i++) {
      into[i] |= other[i];
    }
  }

  private RoleInfo info(RoleDefinition role) {
    Compiled compiled = done(role.id());
    return new RoleInfo(
        role.id(), role.name(), compiled.all, compiled.denied, compiled.includes, role.derives());
  }

  /** The shortest chain of inclusions from a role to one whose own entries give a right. */
  public RoleChain chain(String role, int right) {
    Map<String, String> cameFrom = new LinkedHashMap<>();
    List<String> queue = new ArrayList<>(List.of(role));
    for (int at = 0; at < queue.size(); at++) {
      String id = queue.get(at);
      if ((done(id).own[right >> 6] >>> right & 1) != 0) {
        return new RoleChain(back(role, id, cameFrom), entry(id, right));
      }
      for (String included : done(id).includes) {
        if (!included.equals(role) && cameFrom.putIfAbsent(included, id) == null) {
          queue.add(included);
        }
      }
    }
    return new RoleChain(List.of(role), "");
  }

  private static List<String> back(String first, String last, Map<String, String> cameFrom) {
    List<String> chain = new ArrayList<>();
    for (String id = last; !id.equals(first); id = cameFrom.getOrDefault(id, first)) {
      chain.add(0, id);
    }
    chain.add(0, first);
    return chain;
  }

  private String entry(String id, int right) {
    Map<String, List<String>> allows = done(id).allows;
    String area = nearestArea(rights.areas().get(right / rights.slots()), allows);
    return area + ": " + String.join(", ", allows.getOrDefault(area, List.of()));
  }
}
