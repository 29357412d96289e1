package org.sobercompass.core.findings.separation;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.separation.SeparationTests.OfRights;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.RightBits;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Verdict;

/**
 * Where the sides of a rule over nodes are held. At the same node: the sets of nodes meet, across
 * applications by the ids of nodes. Overlapping: a node of one side lies at, above or below one of
 * the other. An act has no node and meets all. O(nodes / 64) for each cell of what is held. Not
 * thread-safe, like its asker.
 */
final class SeparationPlaces {
  private final SeparationTests tests;
  private final Asker asker;
  private final int rule;
  private final BitSet[] nodes;
  private final BitSet exactly = new BitSet();
  private final boolean same;
  private long everywhere;

  SeparationPlaces(SeparationTests tests, Asker asker, int rule) {
    this.tests = tests;
    this.asker = asker;
    this.rule = rule;
    this.same = tests.rules.get(rule).where() == SeparationRule.Where.SAME_NODE;
    nodes = new BitSet[tests.rules.get(rule).sides().size()];
    for (int side = 0; side < nodes.length; side++) {
      nodes[side] = new BitSet();
    }
  }

  /**
   * Adds what an account holds.
   *
   * @param usableOnly whether only what it can use counts
   */
  void add(int account, boolean usableOnly) {
    for (SystemView view : tests.systems(rule)) {
      boolean counts =
          !usableOnly || asker.standing(view, account).state() == Standing.State.USABLE;
      if (counts) {
        add(view, account, usableOnly);
      }
    }
    for (SeparationTests.OfAct act : tests.acts) {
      if (act.rule() == rule && (usableOnly ? act.can(account) : act.may(account))) {
        everywhere |= 1L << act.side();
      }
    }
  }

  private void add(SystemView view, int account, boolean usableOnly) {
    Projected who = asker.projected(view, account);
    if (who.isEmpty()) {
      return;
    }
    for (OfRights test : tests.rights[view.number()]) {
      if (test.rule() == rule) {
        Covered covered = new Covered(view);
        view.decider()
            .sweep(
                who,
                (node, below, count, yes, perhaps) -> {
                  boolean held =
                      RightBits.meet(yes, test.bits())
                          || (!usableOnly && RightBits.meet(perhaps, test.bits()));
                  covered.cell(node, below, held);
                });
        covered.addTo(test.side());
      }
    }
    long asOf = asker.model().asOf().getEpochSecond();
    for (SeparationTests.OfRoles test : tests.roles[view.number()]) {
      IntList grants =
          SeparationTests.grants(view, account, asker.subjects(view, account), asOf, !usableOnly);
      for (int i = 0; i < grants.size(); i++) {
        Grant grant = view.grants().get(grants.get(i));
        if (test.rule() == rule && grant.activeAt(asOf) && test.roles().get(grant.role())) {
          Covered covered = new Covered(view);
          covered.cell(grant.resource(), false, true);
          covered.cell(grant.resource(), true, grant.descends());
          covered.addTo(test.side());
        }
      }
    }
  }

  /** The nodes that cells cover: a later cell deeper down overrules an earlier one. */
  private final class Covered {
    private final SystemView view;
    private final Resources tree;
    private final BitSet held = new BitSet();

    Covered(SystemView view) {
      this.view = view;
      this.tree = view.resources();
    }

    void cell(int node, boolean below, boolean yes) {
      if (below) {
        held.set(node + 1, tree.end(node), yes);
      } else {
        held.set(node, yes);
      }
    }

    /**
     * For overlapping the ancestors count too: then some of one side lies at or below a node of
     * another exactly when that node is among them.
     */
    void addTo(int side) {
      tests.nodes().add(view, held, exactly);
      if (!same) {
        for (int node = held.nextSetBit(0); node >= 0; node = held.nextSetBit(node + 1)) {
          for (int at = tree.parent(node); at >= 0 && !held.get(at); at = tree.parent(at)) {
            held.set(at);
          }
        }
      }
      tests.nodes().add(view, held, nodes[side]);
    }
  }

  /** Whether enough sides are held near enough to each other. */
  boolean isEnough() {
    return wanted() <= 0 || meeting() >= 0;
  }

  /** How many sides have to meet at a node, besides those that meet all. */
  private int wanted() {
    return tests.rules.get(rule).atLeast() - Long.bitCount(everywhere);
  }

  /** The shared number of the first node at which enough sides meet, or -1. */
  private int meeting() {
    int wanted = wanted();
    BitSet[] together = new BitSet[wanted];
    for (int k = 0; k < wanted; k++) {
      together[k] = new BitSet();
    }
    for (int side = 0; side < nodes.length; side++) {
      if ((everywhere >>> side & 1) == 0) {
        for (int k = wanted - 1; k > 0; k--) {
          BitSet more = (BitSet) together[k - 1].clone();
          more.and(nodes[side]);
          together[k].or(more);
        }
        together[0].or(nodes[side]);
      }
    }
    together[wanted - 1].and(exactly);
    return together[wanted - 1].nextSetBit(0);
  }

  /**
   * Where one side is held.
   *
   * @param side the side
   * @param account who holds it
   * @param view in which system
   * @param node at which node; -1 for an act, which has none
   * @param right the right that is held there, or -1
   * @param grant the grant of the role that counts there, or -1
   */
  record Spot(int side, int account, SystemView view, int node, int right, int grant) {}

  /**
   * Where as many sides are held near each other as make a conflict: what is told, and taken away,
   * is what stands there. Acts are left out.
   */
  List<Spot> spots(List<Integer> person) {
    List<Spot> found = new ArrayList<>();
    int wanted = wanted();
    int at = wanted <= 0 ? -1 : meeting();
    for (int side = 0; side < nodes.length && found.size() < wanted && at >= 0; side++) {
      boolean meets = (everywhere >>> side & 1) == 0 && nodes[side].get(at);
      for (int i = 0; i < person.size() && meets; i++) {
        Optional<Spot> spot = spot(person.get(i), side, at);
        spot.ifPresent(found::add);
        meets = spot.isEmpty();
      }
    }
    return found;
  }

  /** The sides that are held by acts, wherever. */
  long everywhere() {
    return everywhere;
  }

  private Optional<Spot> spot(int account, int side, int at) {
    for (SystemView view : tests.systems(rule)) {
      Projected who = asker.projected(view, account);
      if (asker.standing(view, account).state() != Standing.State.USABLE || who.isEmpty()) {
        continue;
      }
      Resources tree = view.resources();
      for (int node = 0; node < tree.size(); node++) {
        if (isAt(view, node, at)) {
          Optional<Spot> spot = spot(account, side, view, node);
          if (spot.isPresent()) {
            return spot;
          }
        }
      }
    }
    return Optional.empty();
  }

  /** Whether a node is the one where sides meet or, where they may overlap, lies below it. */
  private boolean isAt(SystemView view, int node, int at) {
    for (int up = node; up >= 0; up = same ? -1 : view.resources().parent(up)) {
      if (tests.nodes().number(view, up) == at) {
        return true;
      }
    }
    return false;
  }

  private Optional<Spot> spot(int account, int side, SystemView view, int node) {
    for (OfRights test : tests.rights[view.number()]) {
      for (int right = 0; right < view.rights().size(); right++) {
        boolean asked =
            test.rule() == rule
                && test.side() == side
                && (test.bits()[right >> 6] >>> right & 1) != 0;
        if (asked && asker.decide(view, account, Question.of(node, right)) == Verdict.YES) {
          return Optional.of(new Spot(side, account, view, node, right, -1));
        }
      }
    }
    long asOf = asker.model().asOf().getEpochSecond();
    for (SeparationTests.OfRoles test : tests.roles[view.number()]) {
      IntList grants = view.decider().grantsOf(asker.token(view, account));
      for (int i = 0; i < grants.size() && test.rule() == rule && test.side() == side; i++) {
        Grant grant = view.grants().get(grants.get(i));
        boolean covers =
            grant.resource() == node
                || (grant.descends() && view.resources().covers(grant.resource(), node));
        if (grant.activeAt(asOf) && test.roles().get(grant.role()) && covers) {
          return Optional.of(new Spot(side, account, view, node, -1, grants.get(i)));
        }
      }
    }
    return Optional.empty();
  }
}
