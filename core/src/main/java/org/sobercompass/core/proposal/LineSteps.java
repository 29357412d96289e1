package org.sobercompass.core.proposal;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiFunction;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.proposal.Bound.Kind;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Redefinition;

/**
 * Lays lines of admin scopes that one proposal adds and takes out over a model. Not thread-safe.
 */
final class LineSteps {
  private final Facts facts;
  private final Lookup lookup;

  /** How many lines each scope would include. */
  private final Map<String, Integer> included = new HashMap<>();

  LineSteps(Facts facts, Lookup lookup) {
    this.facts = facts;
    this.lookup = lookup;
  }

  Optional<Change> line(Step.Line line, BiFunction<Kind, String, Optional<Change>> none) {
    Optional<SystemView> view = lookup.adminRoles();
    Optional<Integer> subject = lookup.subject(line.subject());
    if (view.isEmpty() || subject.isEmpty()) {
      return Optional.empty();
    }
    List<AdminScope> scopes = ((AdminRoles) view.get().system()).defined();
    Optional<Integer> scope = lookup.scope(scopes, line.scope());
    if (scope.isEmpty()) {
      return Optional.empty();
    }
    AdminScope of = scopes.get(scope.get());
    boolean there = of.line(line.excepted(), subject.get()).isPresent();
    String says = line.excepted() ? " is excepted from the scope " : " is a line of the scope ";
    if (there == line.added()) {
      return there
          ? none.apply(
              Kind.ALREADY, Words.subject(facts, subject.get()) + says + line.scope() + " already")
          : none.apply(
              Kind.NOT_THERE, "no line of the scope " + line.scope() + " is about it alone");
    }
    int change = line.excepted() ? 0 : line.added() ? 1 : -1;
    int left = included.getOrDefault(line.scope(), of.include().size()) + change;
    if (left == 0) {
      return none.apply(
          Kind.UNKNOWN, "the scope " + line.scope() + " would include nothing any more");
    }
    if (line.added() && line.groups().isEmpty() && facts.kind(subject.get()) == SubjectKind.GROUP) {
      return none.apply(
          Kind.UNKNOWN, "it is not said what the group stands for: object, members or both");
    }
    included.put(line.scope(), left);
    return Optional.of(
        new Change.Redefined(
            view.get().number(),
            new Redefinition.ScopeLine(
                scope.get(), line.excepted(), subject.get(), line.groups(), line.added())));
  }
}
