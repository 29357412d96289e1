package org.sobercompass.core.membership;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.sobercompass.core.store.IntList;

/** Circles of groups: for each set of groups that are in one another, one shortest circle. */
public final class Circles {
  private Circles() {}

  /**
   * One circle for each knot, each from its lowest group on, every group a member of the next and
   * the last a member of the first. A group that lists itself is a circle of one. O(groups +
   * nestings) beside the closures.
   */
  public static List<int[]> of(MembershipGraph graph) {
    int first = graph.facts().firstGroup();
    int groups = graph.facts().groups();
    GroupClosures closures =
        GroupClosures.of(graph, (member, index, group) -> graph.upVia(member, index).isSure());
    int[] lowest = new int[groups];
    Arrays.fill(lowest, -1);
    List<int[]> circles = new ArrayList<>();
    for (int g = 0; g < groups; g++) {
      int knot = closures.component(first + g);
      if (lowest[knot] < 0 && onCircle(graph, closures, first + g)) {
        lowest[knot] = g;
        circles.add(shortest(graph, closures, first + g));
      }
    }
    return circles;
  }

  private static boolean onCircle(MembershipGraph graph, GroupClosures closures, int group) {
    for (int i = 0; i < graph.upCount(group); i++) {
      if (graph.upVia(group, i).isSure()
          && closures.component(graph.upGroup(group, i)) == closures.component(group)) {
        return true;
      }
    }
    return false;
  }

  private static int[] shortest(MembershipGraph graph, GroupClosures closures, int start) {
    IntList queue = IntList.of(start);
    IntList from = IntList.of(-1);
    java.util.BitSet seen = new java.util.BitSet();
    for (int at = 0; at < queue.size(); at++) {
      int group = queue.get(at);
      for (int i = 0; i < graph.upCount(group); i++) {
        int above = graph.upGroup(group, i);
        if (!graph.upVia(group, i).isSure()) {
          continue;
        }
        if (above == start) {
          return back(queue, from, at);
        }
        if (closures.component(above) == closures.component(start) && !seen.get(above)) {
          seen.set(above);
          queue.add(above);
          from.add(at);
        }
      }
    }
    throw new IllegalStateException("no circle through " + start);
  }

  private static int[] back(IntList queue, IntList from, int end) {
    List<Integer> circle = new ArrayList<>();
    for (int at = end; at >= 0; at = from.get(at)) {
      circle.add(queue.get(at));
    }
    java.util.Collections.reverse(circle);
    return circle.stream().mapToInt(Integer::intValue).toArray();
  }
}
