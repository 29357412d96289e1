package org.sobercompass.core.comparison;

import java.time.Instant;
import java.util.EnumMap;
import java.util.Map;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.Weight;

/**
 * One reading of an organization in numbers, to be set beside others.
 *
 * @param asOf as of when
 * @param accounts how many accounts
 * @param disabled how many of them are disabled
 * @param groups how many groups
 * @param assignments how many assignments and admin roles given, entries of lists not counted
 * @param powerful how many accounts are powerful: they control a directory, administer an
 *     application, or hold what the workspace calls powerful
 * @param findings how many findings of each weight
 */
public record Reading(
    Instant asOf,
    int accounts,
    int disabled,
    int groups,
    int assignments,
    int powerful,
    Map<Weight, Integer> findings) {
  /** Copies. */
  public Reading {
    findings = Map.copyOf(findings);
  }

  /** Counts. O(a run over all accounts and all findings). */
  public static Reading of(Assessment assessment) {
    AccessModel model = assessment.model();
    Facts facts = model.facts();
    int disabled = 0;
    for (int account = 0; account < facts.accounts(); account++) {
      disabled += facts.is(account, Facts.DISABLED) ? 1 : 0;
    }
    int assignments =
        model.systems().stream().mapToInt(view -> view.assigned().size()).sum()
            + model.delegated().stream().mapToInt(view -> view.assigned().size()).sum();
    Map<Weight, Integer> findings = new EnumMap<>(Weight.class);
    for (Weight weight : Weight.values()) {
      findings.put(weight, 0);
    }
    for (Finding finding : Findings.of(assessment)) {
      findings.merge(finding.weight(), 1, Integer::sum);
    }
    return new Reading(
        model.asOf(),
        facts.accounts(),
        disabled,
        facts.groups(),
        assignments,
        new FindingContext(assessment).powerful().all().cardinality(),
        findings);
  }
}
