package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.SeparationTests.OfAct;
import org.sobercompass.core.findings.SeparationTests.OfRights;
import org.sobercompass.core.findings.SeparationTests.OfRoles;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Standing;

/**
 * Which sides of which rules each account holds: one sweep over all accounts, on all processors.
 * For each system the rights held anywhere are one set of bits, tested against the sides. Kept are
 * only accounts that hold enough sides, or one side where the others may come from elsewhere: from
 * another account of the person, from an act, from what is within reach.
 */
final class SeparationSweep {
  private final SeparationTests tests;
  private final AccessModel model;
  private final Persons persons;
  private final boolean keepAll;

  /**
   * The sides that one account holds of one rule.
   *
   * @param usable those that it can use
   * @param held those that it holds, usable or not, or perhaps
   */
  record Hold(int account, int rule, long usable, long held) {}

  /**
   * @param keepAll whether accounts with one side are kept too
   */
  SeparationSweep(SeparationTests tests, Judged judged, boolean keepAll) {
    this.tests = tests;
    this.model = judged.model();
    this.persons = judged.persons();
    this.keepAll = keepAll;
  }

  /** All that is kept, by account and rule. */
  List<Hold> run() {
    List<Hold> all = new ArrayList<>();
    Bulk bulk = model.bulk();
    Bulk.TrusteeIndex index = bulk.trusteeIndex();
    bulk.inOrder((asker, range) -> new Worker(asker).run(range, index), all::addAll);
    return all;
  }

  /** The same for one account. */
  List<Hold> of(Asker asker, int account) {
    Worker worker = new Worker(asker);
    for (SystemView view : model.systems()) {
      if (worker.isAsked(view)) {
        Projected who = asker.projected(view, account);
        if (!who.isEmpty()) {
          worker.visit(account, view, who);
        }
      }
    }
    worker.close();
    return worker.holds;
  }

  /** Collects the holds of a run of accounts. Not thread-safe. */
  private final class Worker {
    final List<Hold> holds = new ArrayList<>();
    private final Asker asker;
    private final long[] usable = new long[tests.rules.size()];
    private final long[] held = new long[tests.rules.size()];
    private final BitSet touched = new BitSet();
    private long[] yes = new long[4];
    private long[] any = new long[4];
    private int current = -1;

    Worker(Asker asker) {
      this.asker = asker;
    }

    boolean isAsked(SystemView view) {
      return tests.rights[view.number()].length + tests.roles[view.number()].length > 0;
    }

    List<Hold> run(Bulk.Range range, Bulk.TrusteeIndex index) {
      Bulk.sweep(asker, range, index, this::visit);
      close();
      if (!tests.acts.isEmpty()) {
        missedByActs(range);
      }
      return holds;
    }

    void visit(int account, SystemView view, Projected who) {
      if (account != current) {
        close();
        current = account;
      }
      if (isAsked(view)) {
        rights(account, view, who);
        roles(account, view);
      }
    }

    private void rights(int account, SystemView view, Projected who) {
      OfRights[] of = tests.rights[view.number()];
      if (of.length == 0) {
        return;
      }
      int words = view.rights().words();
      if (yes.length < words) {
        yes = new long[words];
        any = new long[words];
      }
      Arrays.fill(yes, 0);
      Arrays.fill(any, 0);
      view.decider().sweep(who, this::add);
      boolean asked = false;
      boolean free = false;
      for (OfRights test : of) {
        if (meets(any, test.bits())) {
          free = asked ? free : isUsable(view, account);
          asked = true;
          note(test.rule(), test.side(), free && meets(yes, test.bits()));
        }
      }
    }

    private void add(int node, boolean below, int count, long[] sure, long[] perhaps) {
      for (int w = 0; w < sure.length; w++) {
        yes[w] |= sure[w];
        any[w] |= sure[w] | perhaps[w];
      }
    }

    private void roles(int account, SystemView view) {
      OfRoles[] of = tests.roles[view.number()];
      if (of.length == 0) {
        return;
      }
      long asOf = model.asOf().getEpochSecond();
      IntList grants = view.decider().grantsOf(asker.token(view, account));
      for (int i = 0; i < grants.size(); i++) {
        Grant grant = view.grants().get(grants.get(i));
        for (OfRoles test : of) {
          if (grant.activeAt(asOf) && test.roles().get(grant.role())) {
            note(test.rule(), test.side(), isUsable(view, account));
          }
        }
      }
    }

    private boolean isUsable(SystemView view, int account) {
      return asker.standing(view, account).state() == Standing.State.USABLE;
    }

    private void note(int rule, int side, boolean free) {
      usable[rule] |= free ? 1L << side : 0;
      held[rule] |= 1L << side;
      touched.set(rule);
    }

    void close() {
      if (current < 0) {
        return;
      }
      acts(current);
      boolean all = keepAll || persons.accounts(current).size() > 1;
      for (int rule = touched.nextSetBit(0); rule >= 0; rule = touched.nextSetBit(rule + 1)) {
        if (all || tests.enough(rule, held[rule])) {
          holds.add(new Hold(current, rule, usable[rule], held[rule]));
        }
        usable[rule] = 0;
        held[rule] = 0;
      }
      touched.clear();
      current = -1;
    }

    private void acts(int account) {
      for (OfAct act : tests.acts) {
        if (act.accounts().get(account)) {
          note(act.rule(), act.side(), true);
        }
      }
    }

    /** Accounts that can act, and that no system of a rule names. */
    private void missedByActs(Bulk.Range range) {
      BitSet seen = new BitSet();
      holds.forEach(hold -> seen.set(hold.account()));
      for (int account = range.from(); account < range.to(); account++) {
        int asked = account;
        if (!seen.get(account) && tests.acts.stream().anyMatch(a -> a.accounts().get(asked))) {
          current = account;
          close();
        }
      }
      holds.sort(java.util.Comparator.comparingInt(Hold::account).thenComparingInt(Hold::rule));
    }
  }

  private static boolean meets(long[] a, long[] b) {
    for (int w = 0; w < b.length; w++) {
      if ((a[w] & b[w]) != 0) {
        return true;
      }
    }
    return false;
  }

  /** The nodes at which one side is held and can be used, with what hangs on how near they are. */
  Optional<SeparationPlaces> places(Asker asker, int rule) {
    return tests.rules.get(rule).where() == SeparationRule.Where.ANYWHERE
        ? Optional.empty()
        : Optional.of(new SeparationPlaces(tests, asker, rule));
  }
}
