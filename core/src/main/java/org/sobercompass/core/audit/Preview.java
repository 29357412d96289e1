package org.sobercompass.core.audit;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.expect.Expectation;
import org.sobercompass.core.expect.Expectations;
import org.sobercompass.core.expect.Outcome;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.system.Change;

/**
 * What changes would do before they are made.
 *
 * @param effects the permissions that they end and give
 * @param acts the admin actions that they end and give
 * @param begin the findings that there would be, and are not
 * @param end the findings that there would not be any more
 * @param doors who is shut out of an application, and who is let in
 * @param expected the expectations of which the answer would be another one
 */
public record Preview(
    Effects effects,
    ActEffects acts,
    List<Finding> begin,
    List<Finding> end,
    List<Door> doors,
    List<Expected> expected) {

  /**
   * An expectation before and after the changes.
   *
   * @param before as it is
   * @param after as it would be; its verdict is another one
   */
  public record Expected(Outcome before, Outcome after) {}

  /**
   * Of changes; their numbers are those of the model that is judged. O(what they may concern, and
   * the quick findings twice) for memberships, assignments and states of accounts; else O(two runs
   * of all findings). Expectations are checked twice.
   */
  public static Preview of(
      Assessment assessment, List<Change> changes, List<Expectation> expectations) {
    Assessment changed = assessment.with(changes);
    FindingDifference findings = FindingDifference.of(assessment, changed, changes);
    Effects effects = Effects.of(assessment.model(), changes);
    return new Preview(
        effects,
        ActEffects.of(assessment, changes),
        findings.begin(),
        findings.end(),
        Door.of(assessment.model(), changed.model(), effects),
        expected(assessment, changed, expectations));
  }

  private static List<Expected> expected(
      Assessment before, Assessment after, List<Expectation> expectations) {
    Expectations then = new Expectations(before);
    Expectations now = new Expectations(after);
    List<Expected> all = new ArrayList<>();
    for (Expectation expectation : expectations) {
      Outcome was = then.check(expectation);
      Outcome is = now.check(expectation);
      if (was.verdict() != is.verdict()) {
        all.add(new Expected(was, is));
      }
    }
    return List.copyOf(all);
  }

  /** Whether nothing would differ for anybody. */
  public boolean changesNothing() {
    return effects.isNone()
        && acts.isNone()
        && begin.isEmpty()
        && end.isEmpty()
        && expected.isEmpty();
  }
}
