package org.sobercompass.core.audit;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;

/**
 * Whether a finding concerns one thing: a subject, a role, a permission, a place, an admin scope.
 * Not thread-safe.
 */
public final class Concerning {
  private final Map<String, Map<String, Grant>> grants = new HashMap<>();

  /** Whether it comes from, or names, one of some subjects, by the texts of their keys. */
  public static boolean subjects(Finding finding, Set<String> keys) {
    return keys.contains(finding.cause().text())
        || finding.subjects().stream().anyMatch(key -> keys.contains(key.text()));
  }

  /** Whether it is about an admin scope, or about an admin role over it. */
  public static boolean scope(Finding finding, String id) {
    String cause = finding.cause().id();
    return (finding.cause().source().equals("scope") && cause.equals(id))
        || (finding.cause().source().equals("admin") && cause.endsWith("/" + id));
  }

  /** Whether it is about a role, about an assignment of it, or shown by a route through it. */
  public boolean role(Finding finding, SystemView view, int role) {
    String id = view.system().roles().get(role).id();
    boolean itself =
        finding.cause().kind() == KeyKind.ROLE
            && finding.cause().source().equals(view.id())
            && finding.cause().id().equals(id);
    return itself
        || assignment(finding, view).map(grant -> grant.role() == role).orElse(false)
        || finding.evidence().stream()
            .filter(item -> item.system() == view.number())
            .anyMatch(item -> item.route().map(r -> r.roles().contains(id)).orElse(false));
  }

  /** Whether it is shown by a route to a permission, or about an assignment of a role with it. */
  public boolean right(Finding finding, SystemView view, int right) {
    return assignment(finding, view)
            .map(grant -> view.system().roles().get(grant.role()).allows(right))
            .orElse(false)
        || finding.evidence().stream()
            .filter(item -> item.system() == view.number())
            .anyMatch(item -> item.route().map(r -> r.right() == right).orElse(false));
  }

  /**
   * Whether it is about a place or one below, or about an assignment there; one that comes from
   * further up is not of the place.
   */
  public boolean place(Finding finding, SystemView view, int resource) {
    if (!finding.cause().source().equals(view.id()) && !finding.system().equals(view.id())) {
      return false;
    }
    if (assignment(finding, view).map(grant -> isIn(view, resource, grant)).orElse(false)) {
      return true;
    }
    String path = view.resources().id(resource);
    String cause = finding.cause().id();
    boolean named =
        finding.cause().kind() == KeyKind.NODE
            && (cause.equals(path) || cause.startsWith(path + "/") || cause.startsWith(path + " "));
    return named
        || finding.changes().stream()
            .filter(Change.AssignmentRemoved.class::isInstance)
            .map(Change.AssignmentRemoved.class::cast)
            .filter(gone -> gone.system() == view.number())
            .anyMatch(gone -> isIn(view, resource, view.grants().get(gone.grant())));
  }

  private static boolean isIn(SystemView view, int resource, Grant grant) {
    return view.resources().covers(resource, grant.resource());
  }

  /** The assignment that a finding comes from. */
  private Optional<Grant> assignment(Finding finding, SystemView view) {
    if (finding.cause().kind() != KeyKind.ASSIGNMENT
        || !finding.cause().source().equals(view.id())) {
      return Optional.empty();
    }
    Map<String, Grant> byId =
        grants.computeIfAbsent(
            view.id(),
            id -> {
              Map<String, Grant> all = new HashMap<>();
              view.assigned().forEach(grant -> all.put(grant.id(), grant));
              return all;
            });
    return Optional.ofNullable(byId.get(finding.cause().id()));
  }
}
