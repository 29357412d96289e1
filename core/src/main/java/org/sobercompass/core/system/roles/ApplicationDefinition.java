package org.sobercompass.core.system.roles;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Settings;

/**
 * What an application is without who is given what. Frozen and thread-safe.
 *
 * @param id unique in the workspace
 * @param name for people
 * @param rights areas, levels, actions
 * @param nodes the tree of nodes
 * @param roles the compiled roles
 * @param compiler knows by which chain a role gives a right
 * @param combining how grants combine
 * @param sight what it sees of the directory
 * @param admission whom it admits
 * @param files what it is described in, as the user names it
 * @param settings what of that a proposal can change
 */
public record ApplicationDefinition(
    String id,
    String name,
    RoleRights rights,
    Resources nodes,
    List<RoleInfo> roles,
    RoleCompiler compiler,
    Combining combining,
    Sight sight,
    Admission admission,
    List<String> files,
    Optional<Settings> settings) {

  private ApplicationDefinition with(
      List<RoleInfo> otherRoles,
      RoleCompiler otherCompiler,
      Admission otherAdmission,
      Optional<Settings> otherSettings) {
    return new ApplicationDefinition(
        id,
        name,
        rights,
        nodes,
        otherRoles,
        otherCompiler,
        combining,
        sight,
        otherAdmission,
        files,
        otherSettings);
  }

  /** The same with another admission. */
  public ApplicationDefinition with(Admission other) {
    return with(roles, compiler, other, settings);
  }

  /** The same, whose settings a proposal can change. */
  public ApplicationDefinition with(Settings own) {
    return with(roles, compiler, admission, Optional.of(own));
  }

  /** The same with one role written otherwise. */
  ApplicationDefinition with(RoleDefinition other) {
    return with(
        compiler.definitions().stream()
            .map(role -> role.id().equals(other.id()) ? other : role)
            .toList());
  }

  /** The same with these roles. */
  private ApplicationDefinition with(Collection<RoleDefinition> definitions) {
    List<RoleInfo> infos = new ArrayList<>();
    RoleCompiler other = compiler.of(List.copyOf(definitions), infos);
    return with(infos, other, admission, settings);
  }

  /** As another one says, with the numbers of this one; its register stays. */
  ApplicationDefinition as(ApplicationDefinition other) {
    check(other);
    Map<String, RoleDefinition> byId = new LinkedHashMap<>();
    compiler.definitions().forEach(role -> byId.put(role.id(), role.emptied()));
    other.compiler.definitions().forEach(role -> byId.put(role.id(), role));
    return other
        .with(byId.values())
        .with(admission.onTermsOf(other.admission))
        .with(settings.orElseThrow());
  }

  /** The same with the roles that another one has besides, which give nothing yet. */
  ApplicationDefinition expecting(ApplicationDefinition other) {
    check(other);
    Map<String, RoleDefinition> byId = new LinkedHashMap<>();
    compiler.definitions().forEach(role -> byId.put(role.id(), role));
    other.compiler.definitions().forEach(role -> byId.putIfAbsent(role.id(), role.emptied()));
    return with(byId.values());
  }

  private void check(ApplicationDefinition other) {
    if (!rights.texts().equals(other.rights.texts()) || !nodes.ids().equals(other.nodes.ids())) {
      throw new IllegalArgumentException(
          "the file of " + name + " was changed since it was read; read it again");
    }
  }
}
