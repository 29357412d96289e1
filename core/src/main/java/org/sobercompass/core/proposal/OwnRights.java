package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.proposal.Step.Assignment;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.ScopeItem;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.core.system.Grant;

/**
 * What subjects have by themselves, other than by entries of lists: assignments, groups that list
 * them, lines of registers and of admin scopes. O(assignments + lines) once. Not thread-safe.
 */
public final class OwnRights {
  private final AccessModel model;
  private final Facts facts;
  private final Steps steps;
  private final Map<Integer, List<Given>> given = new HashMap<>();
  private final Map<Integer, List<Step>> lines = new HashMap<>();

  /**
   * An assignment.
   *
   * @param view of which system
   * @param grant its number there
   * @param what it says, where it can be said by keys: not where it is switched off
   */
  public record Given(SystemView view, int grant, Optional<Assignment> what) {
    /** Whether it counts no more at an epoch second, or is switched off. */
    public boolean isOver(long at) {
      Grant one = view.grants().get(grant);
      return what.isEmpty() || !one.on() || one.until() <= at;
    }
  }

  /** Of a model, its delegated administration too. */
  public OwnRights(AccessModel model) {
    this.model = model;
    this.facts = model.facts();
    this.steps = new Steps(model);
    Steps.systems(model).forEach(this::add);
  }

  private void add(SystemView view) {
    List<Grant> all = view.assigned();
    for (int g = 0; g < all.size(); g++) {
      Grant grant = all.get(g);
      if (grant.subject() >= 0 && !grant.declared() && !grant.isWithdrawn()) {
        var what =
            view.system() instanceof AdminRoles roles
                ? steps.of(view, roles, g)
                : steps.of(view, grant);
        given
            .computeIfAbsent(grant.subject(), s -> new ArrayList<>())
            .add(new Given(view, g, what));
      }
    }
    for (Enrolment line : view.admission().register().orElse(List.of())) {
      if (line.subject() >= 0) {
        lines
            .computeIfAbsent(line.subject(), s -> new ArrayList<>())
            .add(steps.register(view, line, true));
      }
    }
    if (view.system() instanceof AdminRoles roles) {
      for (AdminScope scope : roles.defined()) {
        lines(scope, false, scope.include());
        lines(scope, true, scope.except());
      }
    }
  }

  private void lines(AdminScope scope, boolean excepted, List<ScopeItem> items) {
    for (ScopeItem item : items) {
      if (item instanceof ScopeItem.Listed listed && listed.subjects().size() == 1) {
        int subject = listed.subjects().get(0);
        String groups = listed.groups().map(meaning -> meaning.word()).orElse("");
        lines
            .computeIfAbsent(subject, s -> new ArrayList<>())
            .add(new Step.Line(scope.id(), excepted, facts.key(subject), groups, true));
      }
    }
  }

  /** The assignments to a subject by name, those that are over too. */
  public List<Given> assigned(int subject) {
    return given.getOrDefault(subject, List.of());
  }

  /** The lines of registers and scopes that name it. */
  public List<Step> lines(int subject) {
    return lines.getOrDefault(subject, List.of());
  }

  /** A group that a subject is in, and how. */
  public record Membership(int group, Via via) {}

  /** The groups that it is in by itself, whichever way. */
  public Stream<Membership> memberships(int subject) {
    List<Membership> all = new ArrayList<>();
    for (int i = 0; i < model.graph().upCount(subject); i++) {
      Membership one =
          new Membership(model.graph().upGroup(subject, i), model.graph().upVia(subject, i));
      // By whichever attribute it is listed, it is a member once.
      if (all.stream().noneMatch(m -> m.group() == one.group())) {
        all.add(one);
      }
    }
    return all.stream();
  }
}
