package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.TreeSet;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Token;

/**
 * Which grants are redundant: taking the one away alone changes nothing at any time left in its
 * window. Outcomes change only where a window of the account's grants begins or ends, so those
 * times are tried. Two grants that cover each other are both redundant.
 */
public final class Redundancy {
  private final Asker asker;
  private final long asOf;

  /** Asks with this asker. */
  public Redundancy(Asker asker) {
    this.asker = asker;
    this.asOf = asker.model().asOf().getEpochSecond();
  }

  /** The grants that are redundant for one account in one system, ascending. */
  public List<Integer> of(SystemView view, int account) {
    List<Integer> redundant = new ArrayList<>();
    IntList grants = view.decider().grantsOf(asker.token(view, account));
    for (int i = 0; i < grants.size(); i++) {
      int grant = grants.get(i);
      if (isRedundant(view, asker.subjects(view, account), account, grant, grants)) {
        redundant.add(grant);
      }
    }
    return redundant;
  }

  private boolean isRedundant(
      SystemView view, SubjectSet subjects, int account, int number, IntList grants) {
    Grant grant = view.grants().get(number);
    if (!grant.on() || grant.until() <= asOf || grant.declared()) {
      return false;
    }
    for (long time : times(view, grant, grants)) {
      Projected who = view.decider().project(new Token(account, subjects, time));
      if (!view.decider().isIdle(who, number)) {
        return false;
      }
    }
    return true;
  }

  /** The moments from now on, inside the window of a grant, at which something begins or ends. */
  private TreeSet<Long> times(SystemView view, Grant grant, IntList grants) {
    TreeSet<Long> times = new TreeSet<>();
    times.add(Math.max(asOf, grant.from()));
    for (int i = 0; i < grants.size(); i++) {
      Grant other = view.grants().get(grants.get(i));
      times.add(other.from());
      times.add(other.until());
    }
    return new TreeSet<>(times.subSet(Math.max(asOf, grant.from()), true, grant.until(), false));
  }

  /**
   * The grants of a system that are redundant for every account they reach, and reach at least one.
   * A grant is dropped at the first account for which it matters, so most are asked about once.
   */
  public static BitSet everywhere(AccessModel model, SystemView view) {
    return everywhere(model).get(view.number());
  }

  /** The same for all systems at once; one walk over all accounts. */
  public static List<BitSet> everywhere(AccessModel model) {
    List<BitSet> reached = sets(model);
    List<BitSet> needed = sets(model);
    Asker asker = model.asker();
    model.systems().forEach(view -> view.memberships().prepare());
    Redundancy redundancy = new Redundancy(asker);
    for (int account = 0; account < model.facts().accounts(); account++) {
      for (SystemView view : model.systems()) {
        BitSet need = needed.get(view.number());
        IntList grants = view.decider().grantsOf(asker.token(view, account));
        for (int i = 0; i < grants.size(); i++) {
          int grant = grants.get(i);
          reached.get(view.number()).set(grant);
          if (!need.get(grant)
              && !redundancy.isRedundant(
                  view, asker.subjects(view, account), account, grant, grants)) {
            need.set(grant);
          }
        }
      }
    }
    for (int s = 0; s < reached.size(); s++) {
      reached.get(s).andNot(needed.get(s));
    }
    return reached;
  }

  private static List<BitSet> sets(AccessModel model) {
    List<BitSet> sets = new ArrayList<>();
    model.systems().forEach(view -> sets.add(new BitSet()));
    return sets;
  }
}
