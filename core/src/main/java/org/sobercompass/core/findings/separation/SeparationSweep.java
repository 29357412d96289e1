package org.sobercompass.core.findings.separation;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.separation.SeparationTests.OfAct;
import org.sobercompass.core.findings.separation.SeparationTests.OfRights;
import org.sobercompass.core.findings.separation.SeparationTests.OfRoles;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.RightBits;
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
  private final BitSet held = new BitSet();

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
  SeparationSweep(SeparationTests tests, Assessment assessment, boolean keepAll) {
    this.tests = tests;
    this.model = assessment.model();
    this.persons = assessment.persons();
    this.keepAll = keepAll;
  }

  /** All that is kept of some accounts, by account and rule. */
  List<Hold> of(Asker asker, BitSet accounts) {
    List<Hold> all = new ArrayList<>();
    accounts.stream().forEach(account -> all.addAll(of(asker, account)));
    return all;
  }

  /** The same on all processors. */
  List<Hold> each(BitSet accounts) {
    int[] some = accounts.stream().toArray();
    List<Hold> all = new ArrayList<>();
    model
        .bulk()
        .<List<Hold>>each(
            some.length,
            (asker, range) -> {
              List<Hold> part = new ArrayList<>();
              for (int i = range.from(); i < range.to(); i++) {
                part.addAll(of(asker, some[i]));
              }
              return part;
            },
            all::addAll);
    return all;
  }

  /** All that is kept, by account and rule. */
  List<Hold> run() {
    List<Hold> all = new ArrayList<>();
    Bulk bulk = model.bulk();
    bulk.<Worker>inOrder(
        (asker, range) -> {
          Worker worker = new Worker(asker, range.from());
          Bulk.cells(asker, range, tests.ofRights, worker);
          worker.upTo(range.to());
          return worker;
        },
        worker -> {
          all.addAll(worker.holds);
          held.or(worker.seen);
        });
    return all;
  }

  /** The rules of which somebody was seen to hold a side, kept or not. */
  BitSet held() {
    return held;
  }

  /** Holds, with those of some accounts in place of theirs; by account and rule. */
  static List<Hold> replacing(List<Hold> holds, BitSet accounts, List<Hold> theirs) {
    List<Hold> all = new ArrayList<>(holds.size() + theirs.size());
    int at = 0;
    for (Hold hold : holds) {
      while (at < theirs.size() && theirs.get(at).account() <= hold.account()) {
        all.add(theirs.get(at++));
      }
      if (!accounts.get(hold.account())) {
        all.add(hold);
      }
    }
    all.addAll(theirs.subList(at, theirs.size()));
    return all;
  }

  /** The same for one account. */
  List<Hold> of(Asker asker, int account) {
    Worker worker = new Worker(asker, account);
    for (SystemView view : model.systems()) {
      if (tests.rights[view.number()].length > 0) {
        Projected who = asker.projected(view, account);
        if (!who.isEmpty()) {
          worker.at(account, view);
          view.decider().held(who, worker.sure, worker.any);
        }
      }
    }
    worker.upTo(account + 1);
    return worker.holds;
  }

  /**
   * Collects the holds of a run of accounts: first what each holds, usable or not, which leaves
   * most rules out; then, for the rules that are left, what it can use. Not thread-safe.
   */
  private final class Worker implements Bulk.Cells {
    final List<Hold> holds = new ArrayList<>();
    final BitSet seen = new BitSet();
    private final Asker asker;
    private final long asOf = model.asOf().getEpochSecond();
    private final long[] usable = new long[tests.rules.size()];
    private final long[] held = new long[tests.rules.size()];
    private final BitSet touched = new BitSet();

    /** The tests passed by the account: system, rule, side, and whether surely. */
    private final IntList passed = new IntList();

    private int account;
    private int system = -1;
    private long[] sure = new long[1];
    private long[] any = new long[1];

    Worker(Asker asker, int account) {
      this.asker = asker;
      this.account = account;
    }

    @Override
    public void at(int next, SystemView view) {
      test();
      upTo(next);
      boolean asked = tests.rights[view.number()].length > 0;
      system = asked ? view.number() : -1;
      int words = view.rights().words();
      if (asked && sure.length != words) {
        sure = new long[words];
        any = new long[words];
      }
    }

    @Override
    public void cell(int resource, boolean below, int nodes, long[] yes, long[] perhaps) {
      if (system >= 0) {
        for (int w = 0; w < sure.length; w++) {
          sure[w] |= yes[w];
          any[w] |= yes[w] | perhaps[w];
        }
      }
    }

    /** What an account holds in a system is known. */
    private void test() {
      if (system < 0) {
        return;
      }
      for (OfRights test : tests.rights[system]) {
        if (RightBits.meet(any, test.bits())) {
          pass(test.rule(), test.side(), RightBits.meet(sure, test.bits()));
        }
      }
      Arrays.fill(sure, 0);
      Arrays.fill(any, 0);
      system = -1;
    }

    private void pass(int rule, int side, boolean surely) {
      passed.add(system);
      passed.add(rule);
      passed.add(side);
      passed.add(surely ? 1 : 0);
      held[rule] |= 1L << side;
      touched.set(rule);
    }

    /** All systems of the accounts before this one have been seen. */
    void upTo(int next) {
      test();
      for (; account < next; account++) {
        roles();
        for (OfAct act : tests.acts) {
          if (act.may(account)) {
            held[act.rule()] |= 1L << act.side();
            touched.set(act.rule());
          }
        }
        if (!touched.isEmpty()) {
          keep(keepAll || persons.accounts(account).size() > 1);
        }
        passed.clear();
      }
    }

    /** Which roles are given to the account, where rules ask for roles. */
    private void roles() {
      for (SystemView view : tests.ofRoles) {
        SubjectSet subjects = asker.token(view, account).subjects();
        IntList may = SeparationTests.grants(view, account, subjects, asOf, true);
        if (!may.isEmpty()) {
          IntList given = SeparationTests.grants(view, account, subjects, asOf, false);
          system = view.number();
          for (OfRoles test : tests.roles[system]) {
            if (isGiven(view, may, test.roles())) {
              pass(test.rule(), test.side(), isGiven(view, given, test.roles()));
            }
          }
        }
      }
      system = -1;
    }

    private boolean isGiven(SystemView view, IntList grants, BitSet roles) {
      for (int i = 0; i < grants.size(); i++) {
        Grant grant = view.grants().get(grants.get(i));
        if (grant.activeAt(asOf) && roles.get(grant.role())) {
          return true;
        }
      }
      return false;
    }

    private void keep(boolean all) {
      int asked = -1;
      boolean free = false;
      for (int i = 0; i < passed.size(); i += 4) {
        int rule = passed.get(i + 1);
        if (passed.get(i + 3) == 1 && (all || tests.enough(rule, held[rule]))) {
          if (passed.get(i) != asked) {
            asked = passed.get(i);
            free = isUsable(asked);
          }
          usable[rule] |= free ? 1L << passed.get(i + 2) : 0;
        }
      }
      for (OfAct act : tests.acts) {
        usable[act.rule()] |= act.can(account) ? 1L << act.side() : 0;
      }
      for (int rule = touched.nextSetBit(0); rule >= 0; rule = touched.nextSetBit(rule + 1)) {
        if (all || tests.enough(rule, held[rule])) {
          holds.add(new Hold(account, rule, usable[rule], held[rule]));
        }
        usable[rule] = 0;
        held[rule] = 0;
      }
      seen.or(touched);
      touched.clear();
    }

    private boolean isUsable(int number) {
      SystemView view = model.systems().get(number);
      return asker.standing(view, account).state() == Standing.State.USABLE;
    }
  }

  /**
   * Whether what a person holds lies near enough together, as the rule asks.
   *
   * @param usableOnly whether only what can be used counts
   */
  boolean isNear(Asker asker, int rule, List<Hold> person, boolean usableOnly) {
    if (tests.rules.get(rule).where() == SeparationRule.Where.ANYWHERE) {
      return true;
    }
    return places(asker, rule, person, usableOnly).isEnough();
  }

  /** Where a person holds the sides of a rule. */
  SeparationPlaces places(Asker asker, int rule, List<Hold> person, boolean usableOnly) {
    SeparationPlaces places = new SeparationPlaces(tests, asker, rule);
    person.forEach(hold -> places.add(hold.account(), usableOnly));
    return places;
  }
}
