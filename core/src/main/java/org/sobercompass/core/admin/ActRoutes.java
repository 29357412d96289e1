package org.sobercompass.core.admin;

import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.system.Verdict;

/**
 * How an account comes to an admin action, in words: its groups, then the admin role or the list
 * that gives it. Not thread-safe, like the powers it asks.
 */
public final class ActRoutes {
  private final Powers powers;
  private final Facts facts;

  /** Routes by these powers. */
  public ActRoutes(Powers powers) {
    this.powers = powers;
    this.facts = powers.model().facts();
  }

  /** The first way to do an action to any of some objects; nothing where there is none for sure. */
  public Optional<String> first(int account, AdminAction action, BitSet objects) {
    for (int object = objects.nextSetBit(0); object >= 0; object = objects.nextSetBit(object + 1)) {
      Powers.Thing thing = powers.thing(object);
      if (powers.fits(action, thing)) {
        String done = action.name() + ": " + Words.subject(facts, object) + ", through ";
        for (Powers.Way way : powers.ways(account, action, thing, Optional.empty())) {
          if (way.gives()) {
            return Optional.of(done + words(way));
          }
        }
      }
    }
    return Optional.empty();
  }

  /** Each way in which an account can do something, in words; none where it is not sure. */
  public List<String> all(int account, Asked.Act act) {
    if (powers.can(account, act.action(), act.object(), act.destination()) != Verdict.YES) {
      return List.of();
    }
    return powers.ways(account, act.action(), act.object(), act.destination()).stream()
        .filter(Powers.Way::gives)
        .map(this::words)
        .distinct()
        .toList();
  }

  private String words(Powers.Way way) {
    String chain = names(way.chain());
    if (way.spot().isEmpty()) {
      Administration all = powers.roles().administration();
      AdminGrant grant = all.grants().get(way.grant());
      String over =
          grant.scope() < 0
              ? "everything"
              : powers.roles().scopes().all().get(grant.scope()).name();
      return chain + " → admin role " + all.roles().get(grant.role()).name() + " over " + over;
    }
    String owned = way.note().isEmpty() ? "" : ": " + way.note();
    String list = way.spot().map(s -> " → the list of " + s.tree().label(s.object())).orElse("");
    return chain + (owned.isEmpty() ? list : owned);
  }

  private String names(List<Integer> subjects) {
    return subjects.stream().map(s -> Words.subject(facts, s)).collect(Collectors.joining(" → "));
  }
}
