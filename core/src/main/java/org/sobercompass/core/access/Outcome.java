package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.Standing;

/**
 * What one projection gives over the whole tree of a system, as cells: a node and what lies below
 * it without another cell. Two trees are equal in outcome exactly when their holdings are equal.
 */
final class Outcome {
  private static final int NO = 0;
  private static final int PERHAPS = 1;
  private static final int YES = 2;

  private record Cell(int node, long[] yes, long[] perhaps) {
    int state(int right) {
      if ((yes[right >> 6] >>> right & 1) != 0) {
        return YES;
      }
      return (perhaps[right >> 6] >>> right & 1) != 0 ? PERHAPS : NO;
    }
  }

  private final SystemView view;
  private final Resources tree;
  private final List<Cell> cells = new ArrayList<>();
  private final long[] any;
  private int[] above = new int[0];

  Outcome(SystemView view, Projected who) {
    this.view = view;
    this.tree = view.resources();
    this.any = new long[view.rights().words()];
    view.decider().sweep(who, this::take);
    arrange();
  }

  private void take(int node, boolean below, int count, long[] yes, long[] perhaps) {
    for (int w = 0; w < any.length; w++) {
      any[w] |= yes[w] | perhaps[w];
    }
    if (!below) {
      cells.add(new Cell(node, yes.clone(), perhaps.clone()));
      return;
    }
    Cell self = cells.get(cells.size() - 1);
    if (!Arrays.equals(self.yes, yes) || !Arrays.equals(self.perhaps, perhaps)) {
      long[] yesBelow = yes.clone();
      long[] perhapsBelow = perhaps.clone();
      for (int child = node + 1; child < tree.end(node); child = tree.end(child)) {
        cells.add(new Cell(child, yesBelow, perhapsBelow));
      }
    }
  }

  /** Puts cells in preorder, drops made-up cells where a real one stands, finds the cell above. */
  private void arrange() {
    List<Cell> sorted = new ArrayList<>(cells);
    sorted.sort(Comparator.comparingInt(Cell::node));
    cells.clear();
    for (Cell cell : sorted) {
      int last = cells.size() - 1;
      if (last >= 0 && cells.get(last).node == cell.node) {
        cells.set(last, cell);
      } else {
        cells.add(cell);
      }
    }
    above = new int[cells.size()];
    int[] open = new int[cells.size()];
    int depth = 0;
    for (int i = 0; i < cells.size(); i++) {
      while (depth > 0 && cells.get(i).node >= tree.end(cells.get(open[depth - 1]).node)) {
        depth--;
      }
      above[i] = depth == 0 ? -1 : open[depth - 1];
      open[depth++] = i;
    }
  }

  /** The holdings, by the text of the right and the id of the resource. */
  List<Holding> holdings(int account, Standing standing) {
    List<Holding> all = new ArrayList<>();
    for (int right : view.rights().byText()) {
      if ((any[right >> 6] >>> right & 1) != 0) {
        regions(account, right, standing, all);
      }
    }
    return all;
  }

  private void regions(int account, int right, Standing standing, List<Holding> all) {
    int[] region = new int[cells.size()];
    List<Integer> tops = new ArrayList<>();
    List<List<Integer>> excluded = new ArrayList<>();
    boolean settled = standing.state() != Standing.State.USABLE;
    for (int i = 0; i < cells.size(); i++) {
      int state = state(i, right, settled);
      int before = above[i] < 0 ? NO : state(above[i], right, settled);
      if (above[i] >= 0 && state == before) {
        region[i] = region[above[i]];
        continue;
      }
      if (above[i] >= 0 && region[above[i]] >= 0) {
        excluded.get(region[above[i]]).add(cells.get(i).node);
      }
      region[i] = state == NO ? -1 : tops.size();
      if (state != NO) {
        tops.add(i);
        excluded.add(new ArrayList<>());
      }
    }
    List<Holding> found = new ArrayList<>();
    for (int r = 0; r < tops.size(); r++) {
      int state = state(tops.get(r), right, settled);
      found.add(
          holding(account, right, cells.get(tops.get(r)).node, excluded.get(r), state, standing));
    }
    found.sort((a, b) -> Key.compareUtf8(tree.id(a.resource()), tree.id(b.resource())));
    all.addAll(found);
  }

  /**
   * Where the account's standing settles the state, it is the same whether the right is sure or
   * not.
   */
  private int state(int cell, int right, boolean settled) {
    int state = cells.get(cell).state(right);
    return settled && state == PERHAPS ? YES : state;
  }

  private Holding holding(
      int account, int right, int node, List<Integer> excluded, int state, Standing standing) {
    int children = 0;
    int ended = 0;
    for (int child = node + 1; child < tree.end(node); child = tree.end(child)) {
      children++;
      ended += excluded.contains(child) ? 1 : 0;
    }
    boolean alone = children > 0 && ended == children;
    boolean unsure = state == PERHAPS && standing.state() == Standing.State.USABLE;
    return new Holding(
        account,
        view.number(),
        right,
        node,
        alone ? Holding.Reach.RESOURCE : Holding.Reach.SUBTREE,
        alone ? List.of() : List.copyOf(excluded),
        unsure ? Standing.State.UNDECIDED : standing.state(),
        unsure ? List.of("it is not known whether a group on the way counts") : standing.reasons());
  }
}
