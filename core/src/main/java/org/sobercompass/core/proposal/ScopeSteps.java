package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.Scopes;

/**
 * Steps that bring somebody into an admin scope or keep somebody out of it. A line that says the
 * opposite of the one subject is taken out first; a new line is added where that is not enough.
 * Immutable and thread-safe.
 */
public final class ScopeSteps {
  private final Facts facts;
  private final Scopes scopes;

  /** For scopes as they stand. */
  public ScopeSteps(Facts facts, Scopes scopes) {
    this.facts = facts;
    this.scopes = scopes;
  }

  /** What brings a subject into a scope, or keeps it out; nothing when it is so already. */
  public List<Step> make(AdminScope of, int subject, String groups, boolean include) {
    int scope = scopes.all().indexOf(of);
    return include ? include(scope, subject, groups) : except(scope, subject, groups);
  }

  /**
   * What includes a subject in a scope. Nothing when it is in it already.
   *
   * @param scope the number of the scope
   * @param groups what a group stands for: object, members or both; empty for others
   */
  public List<Step> include(int scope, int subject, String groups) {
    AdminScope of = scopes.all().get(scope);
    Key key = facts.key(subject);
    List<Step> steps = new ArrayList<>();
    if (of.line(true, subject).isPresent()) {
      steps.add(new Step.Line(of.id(), true, key, groups, false));
    }
    boolean included =
        isGroup(subject)
            ? !steps.isEmpty() || of.line(false, subject).isPresent()
            : !scopes.reasons(scope, subject).isEmpty();
    if (!included) {
      steps.add(new Step.Line(of.id(), false, key, groups, true));
    }
    return List.copyOf(steps);
  }

  /** What keeps a subject out of a scope. Nothing when it is not in it, or excepted already. */
  public List<Step> except(int scope, int subject, String groups) {
    AdminScope of = scopes.all().get(scope);
    Key key = facts.key(subject);
    List<Step> steps = new ArrayList<>();
    boolean own = of.line(false, subject).isPresent();
    if (own) {
      steps.add(new Step.Line(of.id(), false, key, groups, false));
    }
    boolean left =
        isGroup(subject)
            ? !own && of.line(true, subject).isEmpty()
            : scopes.reasons(scope, subject).size() > (own ? 1 : 0)
                && scopes.contains(scope, subject);
    if (left) {
      steps.add(new Step.Line(of.id(), true, key, groups, true));
    }
    return List.copyOf(steps);
  }

  private boolean isGroup(int subject) {
    return facts.kind(subject) == SubjectKind.GROUP;
  }
}
