package org.sobercompass.core.findings.grants;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.Drift;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.GrantDetails;
import org.sobercompass.core.findings.details.Strength;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;

/** What was agreed against what is there. */
public final class DriftFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(
          FindingKind.INTENDED_NOT_ACTUAL,
          FindingKind.ACTUAL_NOT_INTENDED,
          FindingKind.DIFFERS_FROM_INTENDED);

  private final FindingContext context;

  public DriftFinder(FindingContext context) {
    this.context = context;
  }

  @Override
  public void find(Consumer<Finding> out) {
    for (SystemView view : context.model.systems()) {
      for (Drift.Difference difference : Drift.of(view.system())) {
        out.accept(finding(view, difference));
      }
    }
  }

  private Finding finding(SystemView view, Drift.Difference difference) {
    Grant grant = difference.grant();
    Strength strength = context.strength(view, grant);
    List<Evidence> evidence = new ArrayList<>();
    difference.intended().ifPresent(g -> evidence.add(FindingContext.assigned(view, g)));
    difference.actual().ifPresent(g -> evidence.add(FindingContext.assigned(view, g)));
    FindingKind kind =
        switch (difference.kind()) {
          case INTENDED_ONLY -> FindingKind.INTENDED_NOT_ACTUAL;
          case ACTUAL_ONLY -> FindingKind.ACTUAL_NOT_INTENDED;
          case DIFFERENT -> FindingKind.DIFFERS_FROM_INTENDED;
        };
    Weight weight =
        switch (difference.kind()) {
          case INTENDED_ONLY -> Weight.LOW;
          case ACTUAL_ONLY -> FindingContext.weight(strength);
          case DIFFERENT -> Weight.MEDIUM;
        };
    boolean added = difference.kind() == Drift.Kind.ACTUAL_ONLY;
    return context.finding(
        kind,
        "",
        context.grantKey(view, grant),
        weight,
        new GrantDetails.Drifted(view.number(), difference, strength),
        evidence,
        view.id(),
        context.subject(grant.subject()),
        FindingContext.ending(added ? removal(view, grant) : List.of()));
  }

  /** Withdrawing an assignment, where the model uses those of the application. */
  private static List<Change> removal(SystemView view, Grant actual) {
    int number = view.basis() == Basis.ACTUAL ? view.grants().indexOf(actual) : -1;
    return number < 0 ? List.of() : List.of(new Change.AssignmentRemoved(view.number(), number));
  }
}
