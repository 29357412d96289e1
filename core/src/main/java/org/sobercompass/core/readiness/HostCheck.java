package org.sobercompass.core.readiness;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.HostLimits;

/** Sign-in hosts, from both ends: which hosts accounts name, and who may sign in at one. */
public final class HostCheck {
  private final AccessModel model;
  private final Facts facts;

  /** Over a model. */
  public HostCheck(AccessModel model) {
    this.model = model;
    this.facts = model.facts();
  }

  /**
   * Who may sign in at a host, as far as the accounts themselves say.
   *
   * @param named accounts that name it among their hosts
   * @param free how many accounts are not limited to hosts
   * @param elsewhere how many are limited to other hosts
   * @param exists whether a host of that name has an entry, or an application names it
   */
  public record At(List<Integer> named, int free, int elsewhere, boolean exists) {}

  /** Asks about one host. O(accounts). */
  public At at(String host) {
    List<Integer> named = new ArrayList<>();
    int free = 0;
    int elsewhere = 0;
    for (int account = 0; account < facts.accounts(); account++) {
      List<String> allowed = HostLimits.of(facts, account);
      if (allowed.isEmpty() || allowed.contains("*")) {
        free++;
      } else if (HostLimits.allows(allowed, List.of(host)) == Truth.TRUE) {
        named.add(account);
      } else {
        elsewhere++;
      }
    }
    return new At(List.copyOf(named), free, elsewhere, exists(host));
  }

  /** Whether a host of that name has an entry, or an application says that it is used from it. */
  public boolean exists(String host) {
    return host.equals("*")
        || facts.arrays().hosts().stream().anyMatch(known -> HostLimits.same(known, host))
        || model.systems().stream()
            .flatMap(view -> view.admission().terms().hosts().stream())
            .anyMatch(known -> HostLimits.same(known, host));
  }

  /** All hosts that accounts name, with the accounts. O(accounts). */
  public Map<String, List<Integer>> named() {
    Map<String, List<Integer>> named = new TreeMap<>();
    for (int account = 0; account < facts.accounts(); account++) {
      for (String host : HostLimits.of(facts, account)) {
        named.computeIfAbsent(host, h -> new ArrayList<>()).add(account);
      }
    }
    return named;
  }

  /** Hosts that accounts name and that are not there; none where no host has an entry at all. */
  List<Problem> problems() {
    List<Problem> problems = new ArrayList<>();
    if (facts.arrays().hosts().isEmpty()) {
      return problems;
    }
    named()
        .forEach(
            (host, accounts) -> {
              if (!exists(host)) {
                problems.add(
                    Problem.warning(
                        Place.of(facts.source(accounts.get(0))).entry(facts.dn(accounts.get(0))),
                        "it may sign in from "
                            + host
                            + ", which is no host there"
                            + (accounts.size() > 1
                                ? " (and " + (accounts.size() - 1) + " more name it)"
                                : ""),
                        "the name of a host that has an entry"));
              }
            });
    return problems;
  }
}
