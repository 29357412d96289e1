package org.sobercompass.organization;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.UnknownNameException;
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
  private List<?> last = List.of();
  private @Nullable Organization with;

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
    Organization again = with;
    if (again == null || !last.equals(List.of(fresh, asked, settings))) {
      boolean reads = !fresh.isEmpty() || !asked.isEmpty();
      Workspace read = reads ? of.workspace().expecting(fresh, asked) : of.workspace();
      again =
          new Organization(
              read,
              read.model(of.model().asOf(), of.model().basis()).telling(of.model().progress()),
              settings);
      with = again;
      last = List.of(fresh, asked, settings);
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

  /** A group that is to be created where another one stands, of the same kind. */
  Step.Presence groupLike(String name, int like) {
    Facts facts = of.model().facts();
    String directory = facts.source(like);
    return of.workspace().directories().stream()
        .filter(one -> one.name().equals(directory))
        .findFirst()
        .flatMap(one -> one.kind().groupLike(one.entries(), directory, facts.dn(like), name))
        .orElseThrow(
            () ->
                new UnknownNameException(
                    "groups like "
                        + Problem.quote(facts.label(like))
                        + " are created where they are kept, not by this program"));
  }
}
