package org.sobercompass.core.admin;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRole;
import org.sobercompass.core.scope.AdminScope;

/**
 * All that a workspace states of delegated administration. Immutable.
 *
 * @param actions the catalogue of admin actions
 * @param scopes the admin scopes
 * @param roles the admin roles
 * @param grants who has which role over what
 * @param console where administrators work
 * @param powers further powers worth following
 */
public record Administration(
    List<AdminAction> actions,
    List<AdminScope> scopes,
    List<AdminRole> roles,
    List<AdminGrant> grants,
    Console console,
    List<NamedPower> powers) {
  /** Nothing. */
  public static final Administration NONE =
      new Administration(List.of(), List.of(), List.of(), List.of(), Console.ANY, List.of());

  /** Copies. */
  public Administration {
    actions = List.copyOf(actions);
    scopes = List.copyOf(scopes);
    roles = List.copyOf(roles);
    grants = List.copyOf(grants);
    powers = List.copyOf(powers);
  }

  /** The same with other scopes and assignments of admin roles. */
  Administration with(List<AdminScope> otherScopes, List<AdminGrant> others) {
    return new Administration(actions, otherScopes, roles, others, console, powers);
  }

  /** Over what an admin role is given, in words: a scope by its name, or everything. */
  public String over(AdminGrant grant) {
    return grant.scope() == AdminGrant.EVERYTHING ? "everything" : scopes.get(grant.scope()).name();
  }

  /** The action with this id. */
  public Optional<AdminAction> action(String id) {
    return actions.stream().filter(action -> action.id().equals(id)).findFirst();
  }

  /** The number of the scope with this id. */
  public Optional<Integer> scope(String id) {
    for (int scope = 0; scope < scopes.size(); scope++) {
      if (scopes.get(scope).id().equals(id)) {
        return Optional.of(scope);
      }
    }
    return Optional.empty();
  }
}
