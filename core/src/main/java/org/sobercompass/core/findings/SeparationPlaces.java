package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
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
 * the other. An act has no node and meets all. Not thread-safe, like its asker.
 */
final class SeparationPlaces {
  private final SeparationTests tests;
  private final Asker asker;
  private final int rule;
  private final List<Set<String>> nodes = new ArrayList<>();
  private final List<Set<String>> above = new ArrayList<>();
  private final boolean same;
  private long everywhere;

  SeparationPlaces(SeparationTests tests, Asker asker, int rule) {
    this.tests = tests;
    this.asker = asker;
    this.rule = rule;
    this.same = tests.rules.get(rule).where() == SeparationRule.Where.SAME_NODE;
    tests
        .rules
        .get(rule)
        .sides()
        .forEach(
            side -> {
              nodes.add(new HashSet<>());
              above.add(new HashSet<>());
            });
  }

  /**
   * Adds what an account holds.
   *
   * @param usableOnly whether only what it can use counts
   */
  void add(int account, boolean usableOnly) {
    for (SystemView view : asker.model().systems()) {
      boolean counts =
          !usableOnly || asker.standing(view, account).state() == Standing.State.USABLE;
      if (counts) {
        add(view, account, usableOnly);
      }
    }
    for (SeparationTests.OfAct act : tests.acts) {
      if (act.rule() == rule && act.accounts().get(account)) {
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
        Covered covered = new Covered(view.resources());
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
          Covered covered = new Covered(view.resources());
          covered.cell(grant.resource(), false, true);
          covered.cell(grant.resource(), true, grant.descends());
          covered.addTo(test.side());
        }
      }
    }
  }

  /** The nodes that cells cover: a later cell deeper down overrules an earlier one. */
  private final class Covered {
    private final Resources tree;
    private final java.util.BitSet held = new java.util.BitSet();

    Covered(Resources tree) {
      this.tree = tree;
    }

    void cell(int node, boolean below, boolean yes) {
      if (below) {
        held.set(node + 1, tree.end(node), yes);
      } else {
        held.set(node, yes);
      }
    }

    /** For overlapping the ancestors count too: then two overlap exactly when the sets meet. */
    void addTo(int side) {
      held.stream().forEach(node -> nodes.get(side).add(tree.id(node)));
      if (!same) {
        java.util.BitSet up = new java.util.BitSet();
        for (int node = held.nextSetBit(0); node >= 0; node = held.nextSetBit(node + 1)) {
          for (int at = tree.parent(node); at >= 0 && !up.get(at); at = tree.parent(at)) {
            up.set(at);
          }
        }
        up.stream().forEach(node -> above.get(side).add(tree.id(node)));
      }
    }
  }

  /** Whether enough sides are held near enough to each other. */
  boolean isEnough() {
    Set<String> all = new HashSet<>();
    nodes.forEach(all::addAll);
    if (nodes.stream().allMatch(Set::isEmpty)) {
      return tests.enough(rule, everywhere);
    }
    for (String node : all) {
      long sides = everywhere;
      for (int s = 0; s < nodes.size(); s++) {
        boolean meets = nodes.get(s).contains(node) || above.get(s).contains(node);
        sides |= meets ? 1L << s : 0;
      }
      if (tests.enough(rule, sides)) {
        return true;
      }
    }
    return false;
  }
}
