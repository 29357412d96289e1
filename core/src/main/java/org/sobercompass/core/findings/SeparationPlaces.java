package org.sobercompass.core.findings;

import java.util.BitSet;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.SeparationTests.OfRights;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.RightBits;
import org.sobercompass.core.system.Standing;

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
      IntList grants = view.decider().grantsOf(asker.token(view, account));
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
    int wanted = tests.rules.get(rule).atLeast() - Long.bitCount(everywhere);
    if (wanted <= 0) {
      return true;
    }
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
    return together[wanted - 1].intersects(exactly);
  }
}
