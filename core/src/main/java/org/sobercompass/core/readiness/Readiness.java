package org.sobercompass.core.readiness;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.filter.Truth;

/**
 * The conditions for one account in one system.
 *
 * @param account the account
 * @param system the number of the system
 * @param steps the conditions that are asked here, in order
 * @param signInName what to type at sign-in; empty when nothing is asked
 * @param caseCounts whether upper and lower case differ in it; empty when nothing says so
 */
public record Readiness(
    int account, int system, List<Step> steps, String signInName, Optional<Boolean> caseCounts) {
  /**
   * One condition.
   *
   * @param condition which
   * @param met whether it is met; undefined when it is not known
   * @param detail what was looked at, or what is missing
   */
  public record Step(Condition condition, Truth met, String detail) {}

  /** Copies. */
  public Readiness {
    steps = List.copyOf(steps);
  }

  /** The first condition that is surely not met. */
  public Optional<Step> firstFailure() {
    return steps.stream().filter(step -> step.met() == Truth.FALSE).findFirst();
  }

  /** Whether all are met; undefined when that is not known. */
  public Truth ready() {
    Truth all = Truth.TRUE;
    for (Step step : steps) {
      all = all.and(step.met());
    }
    return all;
  }
}
