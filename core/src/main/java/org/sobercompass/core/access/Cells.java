package org.sobercompass.core.access;

import java.util.List;
import java.util.Set;
import org.sobercompass.core.system.Verdict;

/**
 * Where what accounts hold in one system may begin or end to differ: a right at a resource, packed
 * into a number.
 */
public final class Cells {
  private static final int WIDTH = 32;

  private Cells() {}

  /** Adds where holdings begin and end. */
  public static void add(SystemView view, List<Holding> holdings, Set<Long> into) {
    for (Holding holding : holdings) {
      into.add(of(holding.right(), holding.resource()));
      holding.excluded().forEach(r -> into.add(of(holding.right(), r)));
      if (holding.reach() == Holding.Reach.RESOURCE) {
        int end = view.resources().end(holding.resource());
        for (int child = holding.resource() + 1; child < end; child = view.resources().end(child)) {
          into.add(of(holding.right(), child));
        }
      }
    }
  }

  /** A right at a resource. */
  public static long of(int right, int resource) {
    return (long) right << WIDTH | resource;
  }

  /** The right of a cell. */
  public static int right(long cell) {
    return (int) (cell >> WIDTH);
  }

  /** The resource of a cell. */
  public static int resource(long cell) {
    return (int) cell;
  }

  /** How much an answer is worth: 0 not held, 1 held and blocked, 2 undecided, 3 usable. */
  public static int rank(Can can) {
    if (can.held() == Verdict.NO) {
      return 0;
    }
    return can.verdict() == Verdict.NO ? 1 : can.verdict() == Verdict.UNDECIDED ? 2 : 3;
  }
}
