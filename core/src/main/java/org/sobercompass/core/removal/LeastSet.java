package org.sobercompass.core.removal;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * The cheapest set of actions that satisfies clauses: in each, one of some actions is done, or one
 * of some others is not. Branch and bound; the first action of an unsatisfied clause is done, or
 * left undone and the next is, so that no set is met twice. Exponential at worst; it stops after
 * {@link #STEPS} steps with the best so far. Least cost, then fewest actions, then least keys.
 */
final class LeastSet {
  private static final int STEPS = 200_000;
  private static final Comparator<Action> CHEAPEST =
      Comparator.comparingInt((Action action) -> action.cost()).thenComparing(Action::key);

  private final List<Clause> clauses = new ArrayList<>();
  private final TreeSet<String> done = new TreeSet<>();
  private final TreeSet<String> undone = new TreeSet<>();
  private final List<Action> chosen = new ArrayList<>();
  private @Nullable List<Action> best;
  private int bestCost;
  private int steps;

  /** One of {@code any} is done, or one of {@code not} is not. */
  private record Clause(List<Action> any, Set<String> not) {}

  /** Adds a clause. */
  void add(Collection<Action> any, Set<String> not) {
    List<Action> sorted = new ArrayList<>(any);
    sorted.sort(CHEAPEST);
    clauses.add(new Clause(sorted, Set.copyOf(not)));
  }

  /** The cheapest set, or null when no set satisfies all clauses. */
  @Nullable List<Action> solve() {
    best = null;
    bestCost = Integer.MAX_VALUE;
    steps = 0;
    search(0);
    return best;
  }

  /** Whether the last answer was found by trying all that could be cheaper. */
  boolean isProved() {
    return steps <= STEPS;
  }

  private void search(int cost) {
    if (++steps > STEPS || cost > bestCost) {
      return;
    }
    Clause open = null;
    for (Clause clause : clauses) {
      if (!isSatisfied(clause) && (open == null || clause.any.size() < open.any.size())) {
        open = clause;
      }
    }
    if (open == null) {
      keep(cost);
      return;
    }
    List<String> left = new ArrayList<>();
    for (Action action : open.any) {
      if (!undone.contains(action.key())) {
        done.add(action.key());
        chosen.add(action);
        search((int) Math.min(Integer.MAX_VALUE - 1L, (long) cost + action.cost()));
        chosen.remove(chosen.size() - 1);
        done.remove(action.key());
        undone.add(action.key());
        left.add(action.key());
      }
    }
    left.forEach(undone::remove);
  }

  private boolean isSatisfied(Clause clause) {
    for (Action action : clause.any) {
      if (done.contains(action.key())) {
        return true;
      }
    }
    for (String key : clause.not) {
      if (!done.contains(key)) {
        return true;
      }
    }
    return false;
  }

  private void keep(int cost) {
    List<Action> found = new ArrayList<>(chosen);
    found.sort(Comparator.comparing(Action::key));
    List<Action> before = best;
    boolean better =
        before == null
            || cost < bestCost
            || found.size() < before.size()
            || (found.size() == before.size() && keys(found).compareTo(keys(before)) < 0);
    if (better) {
      best = found;
      bestCost = cost;
    }
  }

  private static String keys(List<Action> actions) {
    return String.join("\n", actions.stream().map(Action::key).toList());
  }
}
