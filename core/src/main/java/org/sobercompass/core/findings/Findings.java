package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.AccessModel;

/** Finds all that should not be. */
public final class Findings {
  private Findings() {}

  /** All findings of a model, worst first. O(one sweep of all accounts + redundancy). */
  public static List<Finding> of(AccessModel model, List<SeparationRule> rules) {
    FindingContext context = new FindingContext(model);
    List<Finding> found = new ArrayList<>();
    new SeparationFinder(context, rules).find(found::add);
    new AccountFinder(context).find(found::add);
    new GrantFinder(context).find(found::add);
    new DriftFinder(context).find(found::add);
    new GroupFinder(context).find(found::add);
    new RemarkFinder(context).find(found::add);
    found.sort(Finding.WORST_FIRST);
    return List.copyOf(found);
  }
}
