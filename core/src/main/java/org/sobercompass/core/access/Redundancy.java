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
 * times are tried. Two grants that cover each other are both redundant; one of which it is not
 * known whether it reaches somebody is not.
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

  /**
   * The same for all systems at once, but for those of lists, whose entries nobody gives one by
   * one: one walk over all accounts, on all processors. What one chunk finds needed the others need
   * not ask about; they may miss it for a moment, which costs time only.
   */
  public static List<BitSet> everywhere(AccessModel model) {
    boolean[][] needed =
        model.systems().stream()
            .map(view -> new boolean[view.assigned().size()])
            .toArray(boolean[][]::new);
    List<BitSet> reached = sets(model);
    Bulk bulk = model.bulk();
    bulk.inOrder(
        (asker, range) -> chunk(asker, range, needed),
        part -> {
          for (int s = 0; s < part.size(); s++) {
            reached.get(s).or(part.get(s));
          }
        });
    for (int s = 0; s < needed.length; s++) {
      for (int grant = 0; grant < needed[s].length; grant++) {
        if (needed[s][grant]) {
          reached.get(s).clear(grant);
        }
      }
    }
    return reached;
  }

  /** Marks what the accounts of a chunk need; returns which grants reach any of them. */
  private static List<BitSet> chunk(Asker asker, Bulk.Range range, boolean[][] needed) {
    List<BitSet> reached = sets(asker.model());
    Redundancy redundancy = new Redundancy(asker);
    Bulk.route(
        asker,
        range,
        (account, view, subjects) -> {
          if (view.assigned().isEmpty()) {
            return;
          }
          boolean[] need = needed[view.number()];
          IntList grants = view.decider().grantsOf(new Token(account, subjects, redundancy.asOf));
          for (int i = 0; i < grants.size(); i++) {
            int grant = grants.get(i);
            reached.get(view.number()).set(grant);
            if (!need[grant] && !redundancy.isRedundant(view, subjects, account, grant, grants)) {
              need[grant] = true;
            }
          }
          open(view, account, subjects, redundancy.asOf, need);
        });
    return reached;
  }

  /** Of whom it is not known whether a grant reaches him, it may be all he has. */
  private static void open(
      SystemView view, int account, SubjectSet subjects, long asOf, boolean[] need) {
    if (!subjects.perhaps().isEmpty()) {
      SubjectSet perhaps = new SubjectSet();
      for (int i = 0; i < subjects.perhaps().size(); i++) {
        perhaps.sure().add(subjects.perhaps().get(i));
      }
      IntList grants = view.decider().grantsOf(new Token(account, perhaps, asOf));
      for (int i = 0; i < grants.size(); i++) {
        need[grants.get(i)] = true;
      }
    }
  }

  private static List<BitSet> sets(AccessModel model) {
    List<BitSet> sets = new ArrayList<>();
    model.systems().forEach(view -> sets.add(new BitSet()));
    return sets;
  }
}
