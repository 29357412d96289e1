package org.sobercompass.core.audit;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.removal.Unpick;
import org.sobercompass.core.system.Change;

/**
 * The least change that ends a finding, and what else it would end or give.
 *
 * @param result whether nothing cheaper ends it; none when it takes a decision, not a removal
 * @param changes the removals
 * @param effects which permissions they end and give
 * @param acts which admin actions they end and give
 */
public record Advice(
    Optional<Removal.Result> result, List<Change> changes, Effects effects, ActEffects acts) {
  /** Nothing was worked out. */
  public static final Advice NONE =
      new Advice(Optional.empty(), List.of(), new Effects(List.of(), List.of()), ActEffects.NONE);

  /** Works it out. O(rounds of a preview); some milliseconds for a small organization. */
  public static Advice of(Assessment assessment, Finding finding) {
    if (finding.aim() instanceof Remedy.Decided) {
      return NONE;
    }
    AccessModel model = assessment.model();
    Unpick unpick = new Unpick(model, assessment.rules().removals());
    Removal removal =
        finding.aim() instanceof Remedy.Made made
            ? unpick.given(made.changes())
            : unpick.find(Goals.of(assessment, finding.aim()));
    if (removal.changes().isEmpty()) {
      return new Advice(Optional.of(removal.result()), List.of(), NONE.effects, ActEffects.NONE);
    }
    return new Advice(
        Optional.of(removal.result()),
        removal.changes(),
        Effects.of(model, removal.changes()),
        ActEffects.of(assessment, removal.changes()));
  }

  /**
   * The cheapest removals that differ and end a finding.
   *
   * @param most so many at most
   * @return the least first; empty when it takes a decision, not a removal
   */
  public static List<Removal> alternatives(Assessment assessment, Finding finding, int most) {
    if (finding.aim() instanceof Remedy.Decided) {
      return List.of();
    }
    Unpick unpick = new Unpick(assessment.model(), assessment.rules().removals());
    return finding.aim() instanceof Remedy.Made made
        ? List.of(unpick.given(made.changes()))
        : unpick.alternatives(Goals.of(assessment, finding.aim()), most);
  }

  /**
   * What the removals cost together, the number that is least: one each, and one for each
   * assignment that each account concerned loses at most.
   */
  public long cost(Assessment assessment) {
    return new Unpick(assessment.model(), assessment.rules().removals()).cost(changes);
  }

  /** Whether nothing differs for anybody. */
  public boolean changesNothing() {
    return effects.isNone() && acts.isNone();
  }
}
