package org.sobercompass.core.crosswalk;

import java.util.List;

/**
 * What was found for all accounts, groups or units of one side.
 *
 * @param all one for each that nobody decided on, ascending
 * @param rules what each rule found to compare
 * @param left those of the other side that are nobody's counterpart and nobody's candidate,
 *     ascending
 */
public record Matches(List<Match> all, List<RuleNote> rules, List<Integer> left) {
  /** Copies. */
  public Matches {
    all = List.copyOf(all);
    rules = List.copyOf(rules);
    left = List.copyOf(left);
  }

  /** How many are of a class. */
  public int count(Sureness sure) {
    return (int) all.stream().filter(match -> match.sure() == sure).count();
  }
}
