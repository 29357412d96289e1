package org.sobercompass.core.audit;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.system.Change;

/**
 * What changes would do before they are made.
 *
 * @param effects the permissions that they end and give
 * @param acts the admin actions that they end and give
 * @param begin the findings that there would be, and are not
 * @param end the findings that there would not be any more
 */
public record Preview(Effects effects, ActEffects acts, List<Finding> begin, List<Finding> end) {

  /** Of changes; their numbers are those of the model that is judged. O(two runs of findings). */
  public static Preview of(Assessment assessment, List<Change> changes) {
    List<Finding> before = Findings.of(assessment);
    List<Finding> after = Findings.of(assessment.with(changes));
    return new Preview(
        Effects.of(assessment.model(), changes),
        ActEffects.of(assessment, changes),
        without(after, before),
        without(before, after));
  }

  private static List<Finding> without(List<Finding> some, List<Finding> others) {
    Set<Key> known = new HashSet<>();
    others.forEach(finding -> known.add(finding.key()));
    return some.stream().filter(finding -> !known.contains(finding.key())).toList();
  }

  /** Whether nothing would differ for anybody. */
  public boolean changesNothing() {
    return effects.isNone() && acts.isNone() && begin.isEmpty() && end.isEmpty();
  }
}
