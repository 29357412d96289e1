package org.sobercompass.core.crosswalk;

import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.membership.Sight;

/**
 * What of two directories is matched, and by what.
 *
 * @param from what is looked at of the one: its accounts, groups and units
 * @param to what is looked at of the other
 * @param rules what of accounts is compared
 * @param strip beginnings that do not count in the names of groups and units, in lower case
 */
public record MatchPlan(Sight from, Sight to, List<MatchRule> rules, List<String> strip) {
  /** Copies. */
  public MatchPlan {
    rules = List.copyOf(rules);
    strip = List.copyOf(strip);
  }

  /** All of two directories, by what is usual. */
  public static MatchPlan usual(String from, String to) {
    return new MatchPlan(Sight.all(from), Sight.all(to), MatchRule.usual(), List.of());
  }

  /** The same by other rules. */
  public MatchPlan by(List<MatchRule> others) {
    return new MatchPlan(from, to, others, strip);
  }

  /** The same with the sides exchanged. */
  public MatchPlan reversed() {
    return new MatchPlan(to, from, rules.stream().map(MatchRule::reversed).toList(), strip);
  }

  /** The attributes that must be read for it. */
  public Set<String> needs() {
    Set<String> needs = new TreeSet<>(from.needs());
    needs.addAll(to.needs());
    rules.forEach(rule -> needs.addAll(rule.needs()));
    return needs;
  }
}
