package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.ScopeItem;
import org.sobercompass.core.system.Settings;
import org.sobercompass.core.system.WrittenRole;

/**
 * The settings of one system that are otherwise in another reading of it, as steps. Lines of scopes
 * that name one subject, and what a role allows and includes, have steps of their own, and are left
 * to those where nothing else differs.
 */
final class SettingsAsIn {
  private final SystemView here;
  private final SystemView there;
  private final List<Step> steps = new ArrayList<>();
  private final Set<List<String>> covered = new LinkedHashSet<>();
  private final List<String> left = new ArrayList<>();

  SettingsAsIn(SystemView here, SystemView there) {
    this.here = here;
    this.there = there;
    Optional<Settings> own = here.system().settings();
    Optional<Settings> other = there.system().settings();
    if (own.isPresent() && other.isPresent()) {
      try {
        compare(own.get(), other.get());
      } catch (IllegalArgumentException e) {
        left.add(
            "the settings of "
                + here.system().name()
                + " cannot be compared: "
                + String.valueOf(e.getMessage()));
      }
    }
  }

  private void compare(Settings own, Settings other) {
    Map<List<String>, String> has = own.all();
    Map<List<String>, String> had = other.all();
    Map<List<String>, String> all = new LinkedHashMap<>(has);
    had.forEach(all::putIfAbsent);
    for (List<String> path : all.keySet()) {
      String was = has.getOrDefault(path, "");
      String is = had.getOrDefault(path, "");
      boolean both = !was.isEmpty() && !is.isEmpty();
      if (!was.equals(is) && !(both && isLeftToOthers(path, own, other))) {
        Set<String> keys = was.isEmpty() || is.isEmpty() ? Set.of() : keys(path, own, other);
        if (keys.isEmpty()) {
          steps.add(new Step.Setting(here.id(), path, was, is));
        }
        keys.forEach(key -> below(path, key, own, other));
        covered.add(path);
      }
    }
  }

  /** The keys below a path in both, where it is a map in both. */
  private static Set<String> keys(List<String> path, Settings own, Settings other) {
    Set<String> keys = new LinkedHashSet<>(own.keys(path));
    Set<String> others = other.keys(path);
    if (keys.isEmpty() || others.isEmpty()) {
      return Set.of();
    }
    keys.addAll(others);
    return keys;
  }

  private void below(List<String> path, String key, Settings own, Settings other) {
    List<String> whole = new ArrayList<>(path);
    whole.add(key);
    String was = own.says(whole, List.of());
    String is = other.says(whole, List.of());
    if (!was.equals(is)) {
      steps.add(new Step.Setting(here.id(), whole, was, is));
    }
  }

  /** Whether other steps say all that differs. */
  private boolean isLeftToOthers(List<String> path, Settings own, Settings other) {
    if (path.size() < 2) {
      return false;
    }
    if (path.get(0).equals("roles") && !here.system().written().isEmpty()) {
      return rest(here, path.get(1)).equals(rest(there, path.get(1)));
    }
    return path.get(0).equals("scopes")
        && rules(here, path.get(1)).equals(rules(there, path.get(1)))
        && own.says(owner(path), List.of()).equals(other.says(owner(path), List.of()));
  }

  private static List<String> owner(List<String> scope) {
    return List.of(scope.get(0), scope.get(1), "owner");
  }

  /** What a role says besides what it allows and includes. */
  private static List<Object> rest(SystemView view, String role) {
    return view.system().written().stream()
        .filter(one -> one.id().equals(role))
        .<Object>map(WrittenRole::besides)
        .toList();
  }

  /** What a scope says besides lines that name one subject. */
  private static List<String> rules(SystemView view, String scope) {
    List<AdminScope> all = view.system() instanceof AdminRoles roles ? roles.defined() : List.of();
    List<String> rules = new ArrayList<>();
    for (AdminScope one : all) {
      if (one.id().equals(scope)) {
        rules.add(one.name());
        one.include().stream().filter(item -> !isLine(item)).forEach(i -> rules.add(i.words()));
        rules.add("except");
        one.except().stream().filter(item -> !isLine(item)).forEach(i -> rules.add(i.words()));
      }
    }
    return rules;
  }

  private static boolean isLine(ScopeItem item) {
    return item instanceof ScopeItem.Listed listed && listed.subjects().size() == 1;
  }

  List<Step> steps() {
    return steps;
  }

  /** Why settings could not be compared, a sentence each. */
  List<String> left() {
    return left;
  }

  /** Whether a setting says all of a role, or scope. */
  boolean covers(String kind, String id) {
    return covered.contains(List.of(kind, id));
  }
}
