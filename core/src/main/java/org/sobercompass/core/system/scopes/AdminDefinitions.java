package org.sobercompass.core.system.scopes;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.scope.AdminRole;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.GroupMeaning;
import org.sobercompass.core.scope.ScopeItem;
import org.sobercompass.core.system.Redefinition;

/**
 * The admin scopes and roles that a workspace defines. Immutable.
 *
 * @param scopes by number
 * @param roles by number
 */
record AdminDefinitions(List<AdminScope> scopes, List<AdminRole> roles) {
  AdminDefinitions {
    scopes = List.copyOf(scopes);
    roles = List.copyOf(roles);
  }

  /** As another one says, with the numbers of this one; what is deleted stays, and is empty. */
  AdminDefinitions as(AdminDefinitions other) {
    Map<String, AdminScope> scopesThen = new LinkedHashMap<>();
    scopes.forEach(was -> scopesThen.put(was.id(), was.emptied()));
    other.scopes.forEach(is -> scopesThen.put(is.id(), is));
    Map<String, AdminRole> rolesThen = new LinkedHashMap<>();
    roles.forEach(was -> rolesThen.put(was.id(), was.emptied()));
    other.roles.forEach(is -> rolesThen.put(is.id(), is));
    return new AdminDefinitions(List.copyOf(scopesThen.values()), List.copyOf(rolesThen.values()));
  }

  /** The same with what another one has besides, which is empty yet. */
  AdminDefinitions expecting(AdminDefinitions other) {
    Map<String, AdminScope> scopesThen = new LinkedHashMap<>();
    scopes.forEach(was -> scopesThen.put(was.id(), was));
    other.scopes.forEach(is -> scopesThen.putIfAbsent(is.id(), is.emptied()));
    Map<String, AdminRole> rolesThen = new LinkedHashMap<>();
    roles.forEach(was -> rolesThen.put(was.id(), was));
    other.roles.forEach(is -> rolesThen.putIfAbsent(is.id(), is.emptied()));
    return new AdminDefinitions(List.copyOf(scopesThen.values()), List.copyOf(rolesThen.values()));
  }

  /** The same with the lines of scopes that redefinitions put in and take out. */
  AdminDefinitions lined(List<Redefinition> all, Facts facts) {
    List<AdminScope> lined = new ArrayList<>(scopes);
    all.stream()
        .filter(how -> how.settings().findAny().isEmpty())
        .forEach(how -> lined(how, lined, facts));
    return new AdminDefinitions(lined, roles);
  }

  /** Puts a line into its scope or takes it out. */
  private static AdminScope lined(Redefinition how, List<AdminScope> scopes, Facts facts) {
    return how.byKind(
        line -> {
          AdminScope was = scopes.get(line.scope());
          return scopes.set(
              line.scope(),
              line.added()
                  ? was.with(line.excepted(), item(line, facts))
                  : was.without(line.excepted(), line.subject()));
        },
        register -> {
          throw new IllegalArgumentException("admin roles have no register");
        },
        role -> {
          throw new IllegalArgumentException("admin roles are not written otherwise yet");
        },
        item -> {
          throw new IllegalArgumentException("admin roles have no lists");
        },
        setting -> {
          throw new IllegalStateException("settings come before lines");
        });
  }

  private static ScopeItem item(Redefinition.ScopeLine line, Facts facts) {
    return new ScopeItem.Listed(
        List.of(line.subject()),
        GroupMeaning.of(line.groups(), false),
        Place.of("proposal"),
        facts.kind(line.subject()).keyKind().word() + " " + facts.title(line.subject()));
  }
}
