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
import org.sobercompass.core.system.Token;

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
  SeparationSweep(SeparationTests tests, Assessment assessment, boolean keepAll) {
    this.tests = tests;
    this.model = assessment.model();
    this.persons = assessment.persons();
    this.keepAll = keepAll;
  }

  /** All that is kept, by account and rule. */
  List<Hold> run() {
    List<Hold> all = new ArrayList<>();
    Bulk bulk = model.bulk();
    bulk.inOrder(
        (asker, range) -> {
          Worker worker = new Worker(asker);
          Bulk.route(asker, range, worker);
          return worker.holds;
        },
        all::addAll);
    return all;
  }

  /** The same for one account. */
  List<Hold> of(Asker asker, int account) {
    Worker worker = new Worker(asker);
    for (SystemView view : model.systems()) {
      worker.visit(account, view, asker.subjects(view, account));
    }
    worker.done(account);
    return worker.holds;
  }

  /**
   * Collects the holds of a run of accounts, each in two steps: what its grants may give at most,
   * which costs little and leaves most rules out; then, for the rules that are left, what it really
   * holds. Not thread-safe.
   */
  private final class Worker implements Bulk.SubjectVisitor {
    final List<Hold> holds = new ArrayList<>();
    private final Asker asker;
    private final long asOf = model.asOf().getEpochSecond();
    private final long[] usable = new long[tests.rules.size()];
    private final long[] held = new long[tests.rules.size()];
    private final BitSet touched = new BitSet();
    private final IntList hitSystem = new IntList();
    private final IntList hitTest = new IntList();
    private final long[][] may = new long[model.systems().size()][];

    Worker(Asker asker) {
      this.asker = asker;
      for (SystemView view : model.systems()) {
        may[view.number()] = new long[view.rights().words()];
      }
    }

    @Override
    public void visit(int account, SystemView view, SubjectSet subjects) {
      OfRights[] ofRights = tests.rights[view.number()];
      if (ofRights.length > 0) {
        long[] any = may[view.number()];
        Arrays.fill(any, 0);
        view.decider().mayHold(new Token(account, subjects, asOf), any);
        for (int t = 0; t < ofRights.length; t++) {
          if (RightBits.meet(any, ofRights[t].bits())) {
            hit(view, t, ofRights[t].rule(), ofRights[t].side());
          }
        }
      }
      OfRoles[] ofRoles = tests.roles[view.number()];
      if (ofRoles.length > 0) {
        IntList grants = SeparationTests.grants(view, account, subjects, asOf, true);
        for (int t = 0; t < ofRoles.length; t++) {
          if (isGiven(view, grants, ofRoles[t].roles())) {
            hit(view, ~t, ofRoles[t].rule(), ofRoles[t].side());
          }
        }
      }
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

    /** A test that may be passed: of rights by its number, of roles by the complement of it. */
    private void hit(SystemView view, int test, int rule, int side) {
      hitSystem.add(view.number());
      hitTest.add(test);
      held[rule] |= 1L << side;
      touched.set(rule);
    }

    @Override
    public void done(int account) {
      for (OfAct act : tests.acts) {
        if (act.may(account)) {
          held[act.rule()] |= 1L << act.side();
          touched.set(act.rule());
        }
      }
      if (!touched.isEmpty()) {
        boolean all = keepAll || persons.accounts(account).size() > 1;
        for (int rule = touched.nextSetBit(0); rule >= 0; rule = touched.nextSetBit(rule + 1)) {
          touched.set(rule, all || tests.enough(rule, held[rule]));
          held[rule] = 0;
        }
        verify(account);
        keep(account, all);
      }
      hitSystem.clear();
      hitTest.clear();
    }

    /** What is really held of the rules that are left. */
    private void verify(int account) {
      for (OfAct act : tests.acts) {
        if (touched.get(act.rule()) && act.may(account)) {
          note(act.rule(), act.side(), act.can(account));
        }
      }
      InSystem last = null;
      for (int i = 0; i < hitTest.size(); i++) {
        int system = hitSystem.get(i);
        int test = hitTest.get(i);
        boolean ofRights = test >= 0;
        int rule = ofRights ? tests.rights[system][test].rule() : tests.roles[system][~test].rule();
        if (touched.get(rule)) {
          if (last == null || last.view.number() != system) {
            last = new InSystem(asker, model.systems().get(system), account);
          }
          if (ofRights) {
            last.right(tests.rights[system][test]);
          } else {
            OfRoles roles = tests.roles[system][~test];
            note(rule, roles.side(), last.isUsable() && last.isGiven(roles));
          }
        }
      }
    }

    private void note(int rule, int side, boolean free) {
      usable[rule] |= free ? 1L << side : 0;
      held[rule] |= 1L << side;
    }

    private void keep(int account, boolean all) {
      for (int rule = touched.nextSetBit(0); rule >= 0; rule = touched.nextSetBit(rule + 1)) {
        if (held[rule] != 0 && (all || tests.enough(rule, held[rule]))) {
          holds.add(new Hold(account, rule, usable[rule], held[rule]));
        }
        usable[rule] = 0;
        held[rule] = 0;
      }
      touched.clear();
    }

    /** What one account holds in one system, looked up when first asked. */
    private final class InSystem {
      final SystemView view;
      private final Asker asker;
      private final int account;
      private final long[] yes;
      private final long[] any;
      private final boolean free;

      InSystem(Asker asker, SystemView view, int account) {
        this.view = view;
        this.asker = asker;
        this.account = account;
        this.yes = new long[view.rights().words()];
        this.any = new long[view.rights().words()];
        Projected who = asker.projected(view, account);
        if (!who.isEmpty()) {
          view.decider().held(who, yes, any);
        }
        free = asker.standing(view, account).state() == Standing.State.USABLE;
      }

      boolean isUsable() {
        return free;
      }

      /** Whether a role is given to it for sure. */
      boolean isGiven(OfRoles test) {
        SubjectSet subjects = asker.subjects(view, account);
        IntList grants = SeparationTests.grants(view, account, subjects, asOf, false);
        return Worker.this.isGiven(view, grants, test.roles());
      }

      void right(OfRights test) {
        if (RightBits.meet(any, test.bits())) {
          note(test.rule(), test.side(), free && RightBits.meet(yes, test.bits()));
        }
      }
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
