package org.sobercompass.core.admin;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRole;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.system.Settings;

/**
 * All that a workspace states of delegated administration. Immutable.
 *
 * @param actions the catalogue of admin actions
 * @param scopes the admin scopes
 * @param roles the admin roles
 * @param grants who has which role over what
 * @param console where administrators work
 * @param powers further powers worth following
 * @param settings what of scopes and roles a proposal can change
 */
public record Administration(
    List<AdminAction> actions,
    List<AdminScope> scopes,
    List<AdminRole> roles,
    List<AdminGrant> grants,
    Console console,
    List<NamedPower> powers,
    Optional<Settings> settings) {
  /** Nothing. */
  public static final Administration NONE =
      new Administration(List.of(), List.of(), List.of(), List.of(), Console.ANY, List.of());

  /** Of which no proposal can change more than lines of scopes and who has which role. */
  public Administration(
      List<AdminAction> actions,
      List<AdminScope> scopes,
      List<AdminRole> roles,
      List<AdminGrant> grants,
      Console console,
      List<NamedPower> powers) {
    this(actions, scopes, roles, grants, console, powers, Optional.empty());
  }

  /** Copies. */
  public Administration {
    actions = List.copyOf(actions);
    scopes = List.copyOf(scopes);
    roles = List.copyOf(roles);
    grants = List.copyOf(grants);
    powers = List.copyOf(powers);
  }

  /** The same as a system of admin roles says after what was changed. */
  Administration as(AdminRoles now) {
    return new Administration(
        actions, now.defined(), now.adminRoles(), now.given(), console, powers, settings);
  }

  /** The same, of which a proposal can change what its file says. */
  public Administration with(Settings own) {
    return new Administration(actions, scopes, roles, grants, console, powers, Optional.of(own));
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
