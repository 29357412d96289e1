package org.sobercompass.core.admin;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.admin.Reach.Step;

/**
 * Chains of steps by which accounts come to a power.
 *
 * @param steps by subject the first step from it
 */
public record ReachChains(Map<Integer, Step> steps) {
  /** The chain from an account; see {@link Reach#chain}. */
  public List<Step> of(int account) {
    return chain(account, steps::get);
  }

  static List<Step> chain(int account, IntFunction<@Nullable Step> steps) {
    List<Step> chain = new ArrayList<>();
    int at = account;
    Step step = steps.apply(at);
    while (step != null && step.to() != at) {
      chain.add(step);
      at = step.to();
      step = steps.apply(at);
    }
    return chain;
  }
}
