package org.sobercompass.core.findings.grants;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.Drift;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Finding.Evidence;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.key.Key;
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
    List<String> why = new ArrayList<>();
    Weight weight = context.weight(view, view.system().roles().get(grant.role()), why);
    String what = context.describe(view, grant);
    List<Evidence> evidence = new ArrayList<>();
    difference.intended().ifPresent(g -> evidence.add(context.line(view, g)));
    difference.actual().ifPresent(g -> evidence.add(context.line(view, g)));
    List<Key> subjects =
        grant.subject() < 0 ? List.of() : List.of(context.facts.key(grant.subject()));
    return switch (difference.kind()) {
      case INTENDED_ONLY ->
          finding(
              FindingKind.INTENDED_NOT_ACTUAL,
              view,
              grant,
              Weight.LOW,
              why,
              "agreed but not in the application: " + what,
              subjects,
              evidence,
              "give it in the application, or remove it from the intended assignments",
              List.of());
      case ACTUAL_ONLY ->
          finding(
              FindingKind.ACTUAL_NOT_INTENDED,
              view,
              grant,
              weight,
              why,
              "in the application but never agreed: " + what,
              subjects,
              evidence,
              "withdraw it in the application, or have it agreed",
              difference.actual().map(actual -> removal(view, actual)).orElse(List.of()));
      case DIFFERENT ->
          finding(
              FindingKind.DIFFERS_FROM_INTENDED,
              view,
              grant,
              Weight.MEDIUM,
              why,
              "in place, but not as agreed: "
                  + what
                  + difference.actual().flatMap(a -> how(grant, a)).orElse(""),
              subjects,
              evidence,
              "bring the application in line with what was agreed",
              List.of());
    };
  }

  private static Optional<String> how(Grant intended, Grant actual) {
    List<String> parts = new ArrayList<>();
    if (intended.until() != actual.until() || intended.from() != actual.from()) {
      parts.add("its window differs");
    }
    if (intended.on() != actual.on()) {
      parts.add(actual.on() ? "it should be off" : "it is switched off");
    }
    if (intended.descends() != actual.descends()) {
      parts.add(actual.descends() ? "it should not reach below" : "it does not reach below");
    }
    return parts.isEmpty() ? Optional.empty() : Optional.of(" (" + String.join(", ", parts) + ")");
  }

  private Finding finding(
      FindingKind kind,
      SystemView view,
      Grant grant,
      Weight weight,
      List<String> why,
      String sentence,
      List<Key> subjects,
      List<Evidence> evidence,
      String advice,
      List<Change> changes) {
    return new Finding(
        kind,
        "",
        context.grantKey(view, grant),
        weight,
        why,
        sentence,
        view.id(),
        subjects,
        evidence,
        advice,
        changes);
  }

  /** Withdrawing an assignment, where the model uses those of the application. */
  private static List<Change> removal(SystemView view, Grant actual) {
    int number = view.basis() == Basis.ACTUAL ? view.grants().indexOf(actual) : -1;
    return number < 0 ? List.of() : List.of(new Change.AssignmentRemoved(view.number(), number));
  }
}
