package org.sobercompass.core.admin;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.readiness.Condition;
import org.sobercompass.core.readiness.Readiness.Step;
import org.sobercompass.core.readiness.ReadinessCheck;
import org.sobercompass.core.system.HostLimits;
import org.sobercompass.core.system.Verdict;

/**
 * What must be so before an administrator can do something: connected as an account of the right
 * directory, which may sign in, from an allowed host, with the right to do it. Not thread-safe.
 */
public final class ActReadiness {
  private final Powers powers;
  private final Facts facts;
  private final Asker asker;
  private final Console console;
  private final Optional<String> from;

  /**
   * Over powers.
   *
   * @param from the host it would be done from, if that is asked
   */
  public ActReadiness(Powers powers, Optional<String> from) {
    this.powers = powers;
    this.facts = powers.model().facts();
    this.asker = powers.model().asker();
    this.console = powers.roles().administration().console();
    this.from = from;
  }

  /** The conditions, in the order in which they are met. */
  public List<Step> steps(
      int account,
      AdminAction action,
      Powers.Thing object,
      Optional<DirectoryTrees.Spot> destination) {
    List<Step> steps = new ArrayList<>();
    connected(account, object, steps);
    steps.addAll(new ReadinessCheck(asker, from).account(account));
    host(account, steps);
    Verdict verdict = powers.can(account, action, object, destination);
    Truth met =
        verdict == Verdict.YES ? Truth.TRUE : verdict == Verdict.NO ? Truth.FALSE : Truth.UNDEFINED;
    String detail =
        powers.fits(action, object)
            ? verdict == Verdict.NO ? "no admin role and no entry gives it" : ""
            : "it cannot be done to an object of this class";
    steps.add(new Step(Condition.RIGHTS, met, detail));
    return steps;
  }

  private void connected(int account, Powers.Thing object, List<Step> steps) {
    String own = facts.source(account);
    boolean known = !console.directories().isEmpty();
    boolean asked = known && console.directories().contains(own);
    boolean sameTree =
        object.spot().map(s -> s.tree().directory().equals(own)).orElse(true)
            || !powers.trees().sid(account).isEmpty();
    Truth met = Truth.of(known ? asked : sameTree);
    String must =
        known
            ? "as an account of " + String.join(" or ", console.directories())
            : "as an account that the directory of the object knows";
    steps.add(new Step(Condition.SEEN, met, must + "; it is of " + own));
  }

  private void host(int account, List<Step> steps) {
    List<String> hosts = from.map(List::of).orElse(console.hosts());
    if (from.isPresent() && !console.hosts().isEmpty()) {
      boolean there = console.hosts().stream().anyMatch(h -> HostLimits.same(h, from.get()));
      steps.add(
          new Step(
              Condition.PLACE,
              Truth.of(there),
              "done from " + String.join(", ", console.hosts()) + "; asked for " + from.get()));
    }
    List<String> allowed = HostLimits.of(facts, account);
    if (!allowed.isEmpty()) {
      steps.add(
          new Step(
              Condition.HOST,
              HostLimits.allows(allowed, hosts),
              "only from " + String.join(", ", allowed)));
    }
  }
}
