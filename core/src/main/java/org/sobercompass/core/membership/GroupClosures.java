package org.sobercompass.core.membership;

import java.util.Arrays;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.Stamps;

/**
 * For each group the groups above it, itself included, as far as they fit a bound. Groups that are
 * in each other share one row (strongly connected components by Tarjan's algorithm, SIAM J. Comput.
 * 1 (1972), with a list in place of recursion; components come out parents first, so each row is
 * the union of finished rows). A row that would be longer than {@link #LONGEST}, or that no longer
 * fits the bound on all rows together, is left out and walked when asked for: a chain of n groups
 * would otherwise need n²/2 numbers, and an attacker could ask for it. Frozen and thread-safe.
 */
final class GroupClosures {
  /** The longest row that is kept. */
  static final int LONGEST = 4096;

  private static final int ALL_ROWS_PER_GROUP = 256;

  /** All rows stand in one array. */
  private static final long ALL_ROWS = 1L << 30;

  private final int firstGroup;
  private final int[] component;
  private final int[] ends;
  private final int[] groups;
  private static final int[] NOT_KEPT = new int[0];

  /** All rows in one array, and for each group where its own begins and ends, side by side. */
  private GroupClosures(int firstGroup, int[] component, int[][] rows, int components) {
    this.firstGroup = firstGroup;
    this.component = component;
    int[] first = new int[components + 1];
    for (int c = 0; c < components; c++) {
      first[c + 1] = first[c] + rows[c].length;
    }
    groups = new int[first[components]];
    for (int c = 0; c < components; c++) {
      System.arraycopy(rows[c], 0, groups, first[c], rows[c].length);
    }
    ends = new int[component.length * 2];
    for (int g = 0; g < component.length; g++) {
      ends[2 * g] = first[component[g]];
      ends[2 * g + 1] = first[component[g] + 1];
    }
  }

  /**
   * Where the row of a group begins in {@link #groups()}: the groups above it and itself. A row
   * that was not kept is empty.
   */
  int start(int group) {
    return ends[2 * (group - firstGroup)];
  }

  /** Where the row of a group ends (exclusive). */
  int end(int group) {
    return ends[2 * (group - firstGroup) + 1];
  }

  /** All rows. */
  int[] groups() {
    return groups;
  }

  /** The component of a group: equal for groups that are in one another. */
  int component(int group) {
    return component[group - firstGroup];
  }

  /** O(groups + nestings + numbers kept). */
  static GroupClosures of(MembershipGraph graph, EdgeTest edges) {
    return new Maker(graph, edges).make();
  }

  /** Whether an edge from a member to a group counts. */
  interface EdgeTest {
    boolean counts(int member, int index, int group);
  }

  private static final class Maker {
    private final MembershipGraph graph;
    private final EdgeTest edges;
    private final int first;
    private final int groups;
    private final int[] index;
    private final int[] low;
    private final int[] component;
    private final IntList open = new IntList();
    private final IntList path = new IntList();
    private final IntList nextEdge = new IntList();
    private final Stamps seen;
    private int[][] rows = new int[64][];
    private int components;
    private int counter = 1;
    private long kept;
    private final long most;

    Maker(MembershipGraph graph, EdgeTest edges) {
      Facts facts = graph.facts();
      this.graph = graph;
      this.edges = edges;
      first = facts.firstGroup();
      groups = facts.groups();
      index = new int[groups];
      low = new int[groups];
      component = new int[groups];
      most = Math.min(ALL_ROWS, (long) ALL_ROWS_PER_GROUP * groups + (1 << 20));
      Arrays.fill(component, -1);
      seen = new Stamps(groups);
    }

    GroupClosures make() {
      for (int g = 0; g < groups; g++) {
        if (index[g] == 0) {
          walk(g);
        }
      }
      return new GroupClosures(first, component, rows, components);
    }

    private void walk(int root) {
      enter(root);
      while (!path.isEmpty()) {
        int top = path.size() - 1;
        int group = path.get(top);
        int edge = nextEdge.get(top);
        if (edge < graph.upCount(group + first)) {
          nextEdge.set(top, edge + 1);
          follow(group, edge);
        } else {
          path.removeLast();
          nextEdge.removeLast();
          leave(group);
        }
      }
    }

    private void enter(int group) {
      index[group] = counter;
      low[group] = counter++;
      open.add(group);
      path.add(group);
      nextEdge.add(0);
    }

    private void follow(int group, int edge) {
      int above = graph.upGroup(group + first, edge);
      if (!edges.counts(group + first, edge, above)) {
        return;
      }
      int parent = above - first;
      if (index[parent] == 0) {
        enter(parent);
      } else if (component[parent] < 0) {
        low[group] = Math.min(low[group], index[parent]);
      }
    }

    private void leave(int group) {
      if (!path.isEmpty()) {
        int below = path.get(path.size() - 1);
        low[below] = Math.min(low[below], low[group]);
      }
      if (low[group] == index[group]) {
        close(group);
      }
    }

    private void close(int root) {
      int start = open.size();
      do {
        start--;
        component[open.get(start)] = components;
      } while (open.get(start) != root);
      if (components == rows.length) {
        rows = Arrays.copyOf(rows, components * 2);
      }
      rows[components++] = union(start);
      while (open.size() > start) {
        open.removeLast();
      }
    }

    /** The row of the component that stands in {@code open} from {@code start} on. */
    private int[] union(int start) {
      seen.clear();
      IntList row = new IntList();
      for (int i = start; i < open.size(); i++) {
        seen.add(open.get(i));
        row.add(open.get(i) + first);
      }
      for (int i = start; i < open.size(); i++) {
        if (!addParents(open.get(i), row) || row.size() > LONGEST) {
          return NOT_KEPT;
        }
      }
      kept += row.size();
      return kept > most ? NOT_KEPT : row.toArray();
    }

    private boolean addParents(int group, IntList row) {
      for (int e = 0; e < graph.upCount(group + first); e++) {
        int above = graph.upGroup(group + first, e);
        if (!edges.counts(group + first, e, above) || seen.contains(above - first)) {
          continue;
        }
        int[] parent = rows[component[above - first]];
        if (parent == NOT_KEPT) {
          return false;
        }
        for (int g : parent) {
          if (seen.add(g - first)) {
            row.add(g);
          }
        }
      }
      return true;
    }
  }
}
