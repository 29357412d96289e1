package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.KeyKind;

/**
 * Who answers for what: owners of applications and admin scopes as the workspace names them, owners
 * of groups as their directory does. Subjects, accounts or groups, by number. Thread-safe where the
 * resolver is.
 */
public final class Owners {
  private final Assessment assessment;
  private final Facts facts;
  private final Function<String, List<Integer>> resolver;

  /** Who values name that were looked up: one owner often has many groups. */
  private final Map<String, List<Integer>> known = new ConcurrentHashMap<>();

  /**
   * The owners in what was judged.
   *
   * @param resolver the accounts that a value of an owner attribute names: a DN, a login
   */
  public Owners(Assessment assessment, Function<String, List<Integer>> resolver) {
    this.assessment = assessment;
    this.facts = assessment.model().facts();
    this.resolver = value -> known.computeIfAbsent(value, resolver);
  }

  /** Of the application with an id; none when nobody is named. */
  public List<Integer> ofApplication(String id) {
    Integer owner = assessment.owned().applications().get(id);
    return owner == null ? List.of() : List.of(owner);
  }

  /** Of a node or path: who is named for it, or for the nearest above, else of the application. */
  public List<Integer> ofPlace(SystemView view, int resource) {
    Map<String, Integer> places = assessment.owned().places().getOrDefault(view.id(), Map.of());
    for (int at = resource; at >= 0 && !places.isEmpty(); at = view.resources().parent(at)) {
      Integer owner = places.get(view.resources().id(at));
      if (owner != null) {
        return List.of(owner);
      }
    }
    return ofApplication(view.id());
  }

  /** Of the admin scope with an id. */
  public List<Integer> ofScope(String id) {
    Integer owner = assessment.owned().scopes().get(id);
    return owner == null ? List.of() : List.of(owner);
  }

  /** Of a group: what the attributes for owners name ({@code owner}, RFC 4519 section 2.21). */
  public List<Integer> ofGroup(int group) {
    return named(group, assessment.rules().ownerAttributes());
  }

  /** The accounts that some attributes of a subject name, each once. */
  public List<Integer> named(int subject, List<String> attributes) {
    Set<Integer> found = new LinkedHashSet<>();
    for (String attribute : attributes) {
      for (String value : facts.values(subject, attribute)) {
        found.addAll(resolver.apply(value));
      }
    }
    return List.copyOf(found);
  }

  /** Of what a finding comes from: its application, its admin scope or its group. */
  public List<Integer> of(Finding finding) {
    Set<Integer> all = new LinkedHashSet<>();
    boolean ofApplication = finding.cause().kind() == KeyKind.APPLICATION;
    all.addAll(ofApplication(ofApplication ? finding.cause().id() : finding.system()));
    String id = finding.cause().id();
    // An assignment of an admin role ends with its scope.
    if (finding.cause().source().equals("admin")) {
      all.addAll(ofScope(id.substring(id.lastIndexOf('/') + 1)));
    } else if (finding.cause().source().equals("scope")) {
      all.addAll(ofScope(id));
    }
    if (finding.cause().kind() == KeyKind.GROUP) {
      facts.find(finding.cause()).ifPresent(group -> all.addAll(ofGroup(group)));
    }
    return new ArrayList<>(all);
  }
}
