package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.AccessModel;

/** Finds all that should not be. */
public final class Findings {
  private Findings() {}

  /** All findings of a model by the usual thresholds and these rules, worst first. */
  public static List<Finding> of(AccessModel model, List<SeparationRule> rules) {
    return of(Judged.of(model, rules));
  }

  /**
   * All findings, worst first; the same for the same input. O(two sweeps of all accounts, and
   * evidence for each finding).
   */
  public static List<Finding> of(Judged judged) {
    FindingContext context = new FindingContext(judged);
    FindingRules rules = judged.rules();
    List<Finding> found = new ArrayList<>();
    Consumer<Finding> out =
        finding -> {
          if (!rules.off().contains(finding.kind())) {
            Weight weight = rules.weights().getOrDefault(finding.kind(), finding.weight());
            found.add(weight == finding.weight() ? finding : finding.weighing(weight));
          }
        };
    new SeparationFinder(context).find(out);
    new AccountFinder(context).find(out);
    new GrantFinder(context).find(out);
    new DriftFinder(context).find(out);
    new GroupFinder(context).find(out);
    new RemarkFinder(context).find(out);
    new WideFinder(context).find(out);
    new TakenAwayFinder(context).find(out);
    new ServiceFinder(context).find(out);
    new UsageFinder(context).find(out);
    new PeerFinder(context).find(out);
    new NestingFinder(context).find(out);
    new SourceFinder(context).find(out);
    new EarlierIdFinder(context).find(out);
    PowerfulAccounts powerful = new PowerfulAccounts(context);
    new PowerfulFinder(context, powerful).find(out);
    new ReachFinder(context, powerful).find(out);
    found.sort(Finding.WORST_FIRST);
    return List.copyOf(found);
  }

  /** The kinds that are looked for by these rules. */
  public static Set<FindingKind> kinds(FindingRules rules) {
    Set<FindingKind> all = java.util.EnumSet.allOf(FindingKind.class);
    all.removeAll(rules.off());
    return all;
  }
}
