package org.sobercompass.core.findings;

import java.util.HashMap;
import java.util.Map;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.store.IntList;

/** How many of those whom a system sees are in a group. Not thread-safe. */
public final class Breadth {
  /** Among fewer accounts no group is broad. */
  public static final int FEW = 10;

  private final FindingContext context;
  private final Map<Integer, IntList> seen = new HashMap<>();
  private final Map<Integer, Memberships.Walker> walkers = new HashMap<>();

  public Breadth(FindingContext context) {
    this.context = context;
  }

  /** Whether it is proved that no account is in a group or unit. */
  public boolean isSurelyEmpty(SystemView view, int group) {
    return !walker(view).hasAccount(group);
  }

  /** How many accounts are surely in a group or unit. O(members below). */
  public int members(SystemView view, int group) {
    return accounts(view, group).size();
  }

  /**
   * Whether at least so many percent of those whom a system sees are in a group or unit, and they
   * are not few. Members are counted only of a group that lists enough with those below it.
   */
  public boolean holdsPercent(SystemView view, int group, int percent) {
    long enough = (long) percent * seen(view);
    boolean isUnit = context.facts.kind(group) == SubjectKind.UNIT;
    return seen(view) >= FEW
        && (isUnit || 100 * listed(view, group) >= enough)
        && 100L * members(view, group) >= enough;
  }

  /** How many memberships a group and all below it list: no fewer than it has members. */
  private long listed(SystemView view, int group) {
    IntList below = new IntList();
    walker(view).groups(group, below);
    long listed = 0;
    for (int i = 0; i < below.size(); i++) {
      listed += context.model.graph().downCount(below.get(i));
    }
    return listed;
  }

  /** How many accounts the system sees. */
  public int seen(SystemView view) {
    return all(view).size();
  }

  /** Whether all people whom the system sees are surely in a group, and they are not few. */
  public boolean holdsAll(SystemView view, int group) {
    int people = people(all(view));
    return people >= FEW && people(accounts(view, group)) == people;
  }

  private int people(IntList accounts) {
    int count = 0;
    for (int i = 0; i < accounts.size(); i++) {
      int account = accounts.get(i);
      boolean other =
          context.facts.is(account, Facts.SERVICE) || context.facts.is(account, Facts.HOST);
      count += other ? 0 : 1;
    }
    return count;
  }

  private IntList accounts(SystemView view, int group) {
    IntList found = new IntList();
    walker(view).accounts(group, found);
    return found;
  }

  private IntList all(SystemView view) {
    return seen.computeIfAbsent(
        view.context(),
        c -> {
          IntList found = new IntList();
          for (int account = 0; account < context.facts.accounts(); account++) {
            if (view.memberships().visibility().sees(account)) {
              found.add(account);
            }
          }
          return found;
        });
  }

  private Memberships.Walker walker(SystemView view) {
    return walkers.computeIfAbsent(view.context(), c -> view.memberships().walker());
  }
}
