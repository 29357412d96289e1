package org.sobercompass.core.system.roles;

import java.util.Arrays;
import java.util.stream.IntStream;

/**
 * Whether one grant of a projection changes anything. Outcomes with and without it are compared at
 * each key node it reaches and, where there is anything, below it. O(grants² x words) for one
 * grant; grants of one account in one application are few.
 */
final class RoleIdleness {
  private static final int NOBODY = -1;

  private final RoleDecider decider;
  private final GrantTable table;
  private final RoleProjection who;
  private final int[] keys;

  RoleIdleness(RoleDecider decider, RoleProjection who) {
    this.decider = decider;
    this.table = decider.table;
    this.who = who;
    keys =
        IntStream.concat(Arrays.stream(who.sure), Arrays.stream(who.perhaps))
            .map(grant -> table.node[grant])
            .sorted()
            .distinct()
            .toArray();
  }

  boolean isIdle(int grant) {
    for (int node : keys) {
      if (decider.covers(grant, node) && differs(node, false, grant)) {
        return false;
      }
      if (reachesBelow(grant, node) && hasOwnBelow(node) && differs(node, true, grant)) {
        return false;
      }
    }
    return true;
  }

  private boolean reachesBelow(int grant, int node) {
    int at = table.node[grant];
    return table.descends[grant] && at <= node && node < decider.nodes.end(at);
  }

  /** Whether some node below is at or below no other key node. */
  private boolean hasOwnBelow(int node) {
    int left = decider.nodes.end(node) - node - 1;
    int end = node;
    for (int key : keys) {
      if (key > node && key < decider.nodes.end(node) && key >= end) {
        left -= decider.nodes.end(key) - key;
        end = decider.nodes.end(key);
      }
    }
    return left > 0;
  }

  private boolean differs(int node, boolean below, int grant) {
    for (int w = 0; w < decider.words; w++) {
      long[] with = outcome(node, below, NOBODY, w);
      long[] without = outcome(node, below, grant, w);
      if (!Arrays.equals(with, without)) {
        return true;
      }
    }
    return false;
  }

  /** Sure and perhaps rights of one word, leaving one grant out. */
  private long[] outcome(int node, boolean below, int without, int w) {
    long top = -1;
    long given = 0;
    long denied = 0;
    for (int grant : who.sure) {
      if (grant != without && reaches(grant, node, below)) {
        long cls = decider.classOf(grant);
        given = cls > top ? 0 : given;
        top = Math.max(top, cls);
        given |= cls == top ? decider.allows[table.role[grant]][w] : 0;
        denied |= decider.denies[table.role[grant]][w];
      }
    }
    long mayGive = 0;
    long mayTake = 0;
    for (int grant : who.perhaps) {
      if (grant != without && reaches(grant, node, below)) {
        long gives = decider.allows[table.role[grant]][w];
        long takes = decider.denies[table.role[grant]][w];
        long cls = decider.classOf(grant);
        mayGive |= cls >= top ? gives & ~takes : 0;
        mayTake |= takes | (cls > top ? ~gives : 0);
      }
    }
    long yes = given & ~denied & ~mayTake;
    return new long[] {yes, (given | mayGive) & ~denied & ~yes};
  }

  private boolean reaches(int grant, int node, boolean below) {
    return below ? reachesBelow(grant, node) : decider.covers(grant, node);
  }
}
