package org.sobercompass.organization;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Setting;
import org.sobercompass.core.system.Settings;
import org.sobercompass.core.system.scopes.ScopeSystem;
import org.sobercompass.sources.workspace.Workspace;

/**
 * An organization with what a proposal is to create; kept, since it is read again for that. Not
 * thread-safe.
 */
final class Expecting {
  private final Organization of;
  private Wanted last = new Wanted(List.of(), Set.of(), Map.of());
  private @Nullable Organization with;

  /** What is to be there besides, and the attributes that are to be kept for it. */
  private record Wanted(
      List<Step.Presence> created, Set<String> attributes, Map<String, List<Setting>> settings) {}

  Expecting(Organization of) {
    this.of = of;
  }

  /** The organization with what this creates; itself where all of it is there. */
  Organization of(Proposal proposal) {
    Facts facts = of.model().facts();
    List<Step.Presence> fresh =
        proposal.created().stream().filter(one -> facts.find(one.subject()).isEmpty()).toList();
    Map<String, List<Setting>> settings = proposal.settings();
    Set<String> asked = asked(settings);
    boolean defines = proposal.steps().stream().anyMatch(Expecting::defines);
    if (fresh.isEmpty() && asked.isEmpty() && !defines) {
      return of;
    }
    Wanted wanted = new Wanted(fresh, asked, settings);
    Organization again = with;
    if (again == null || !last.equals(wanted)) {
      boolean reads = !fresh.isEmpty() || !asked.isEmpty();
      Workspace read = reads ? of.workspace().expecting(fresh, asked) : of.workspace();
      again =
          new Organization(
              read,
              read.model(of.model().asOf(), of.model().basis()).telling(of.model().progress()),
              settings);
      with = again;
      last = wanted;
    }
    return again;
  }

  /** Whether a step makes a role, or a scope. */
  private static boolean defines(Step step) {
    return step instanceof Step.Setting setting
        && setting.path().size() == 2
        && setting.was().isEmpty()
        && List.of("roles", "scopes").contains(setting.path().get(0));
  }

  /** The attributes that settings ask for and that were not kept. */
  private Set<String> asked(Map<String, List<Setting>> settings) {
    Set<String> asked = new TreeSet<>();
    for (AccessSystem system : of.workspace().systems()) {
      List<Setting> own = settings.getOrDefault(system.id(), List.of());
      if (!own.isEmpty() && system.settings().isPresent()) {
        asked.addAll(needs(system.settings().get(), own));
      }
    }
    List<Setting> ofRoles = settings.getOrDefault(ScopeSystem.ID, List.of());
    of.workspace()
        .administration()
        .settings()
        .filter(own -> !ofRoles.isEmpty())
        .ifPresent(own -> asked.addAll(needs(own, ofRoles)));
    asked.removeAll(of.model().facts().arrays().columns().keySet());
    return asked;
  }

  /** What cannot be read is told when the proposal is laid over the model, with its step. */
  private static Set<String> needs(Settings settings, List<Setting> own) {
    try {
      return settings.needs(own);
    } catch (IllegalArgumentException e) {
      return Set.of();
    }
  }
}
