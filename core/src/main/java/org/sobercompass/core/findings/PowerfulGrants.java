package org.sobercompass.core.findings;

import java.util.HashSet;
import java.util.Set;
import java.util.function.BiPredicate;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.admin.NamedPowers;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.system.Grant;

/**
 * Whether a grant of a system, by its number, gives power: a role that administers the application,
 * a permission that the workspace calls powerful, an admin role over everything, an entry of
 * whoever controls a directory. Thread-safe.
 */
public final class PowerfulGrants implements BiPredicate<SystemView, Integer> {
  private final FindingRules rules;
  private final Set<Integer> controlling = new HashSet<>();
  private final Set<String> delegated = new HashSet<>();

  /** By the rules of an assessment. */
  public PowerfulGrants(Assessment assessment) {
    this.rules = assessment.rules();
    assessment.model().delegated().forEach(view -> delegated.add(view.id()));
    for (NamedPower power : NamedPowers.of(assessment.powers())) {
      if (power.ofDirectory()) {
        controlling.addAll(power.trustees());
      }
    }
  }

  @Override
  public boolean test(SystemView view, Integer number) {
    if (number < 0) {
      return false;
    }
    Grant grant = view.grants().get(number);
    if (view.system() instanceof AdminRoles roles) {
      return roles.given().get(number).scope() == AdminGrant.EVERYTHING;
    }
    var role = view.system().roles().get(grant.role());
    boolean administers = view.admission().terms().administrators().contains(role.id());
    boolean controls = delegated.contains(view.id()) && controlling.contains(grant.subject());
    return administers
        || controls
        || rules.powerful().stream()
            .anyMatch(
                permission ->
                    permission.system().equals(view.id()) && role.allows(permission.right()));
  }
}
