package org.sobercompass.core.removal;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * The cheapest set of actions that satisfies clauses: in each, one of some actions is done, or one
 * of some others is not. Clauses that share no action are solved apart. In each part branch and
 * bound: the first action of an unsatisfied clause is done, or left undone and the next is, so that
 * no set is met twice; what clauses that share nothing still cost at least cuts the search short.
 * Exponential at worst; it stops after so many steps in all with the best so far. Least cost, then
 * fewest actions, then least keys.
 */
final class LeastSet {
  private static final int STEPS = 2_000_000;
  private static final Comparator<Action> CHEAPEST =
      Comparator.comparingInt((Action action) -> action.cost()).thenComparing(Action::key);

  private final List<Clause> clauses = new ArrayList<>();
  private final Set<Clause> known = new HashSet<>();
  private final Map<List<Clause>, Optional<List<Action>>> solved = new HashMap<>();
  private final int most;
  private int steps;

  /** One of {@code any} is done, or one of {@code not} is not. */
  private record Clause(List<Action> any, Set<String> not) {}

  /** With the usual bound. */
  LeastSet() {
    this(STEPS);
  }

  /** With a bound on all steps together. */
  LeastSet(int most) {
    this.most = most;
  }

  /** Adds a clause. */
  void add(Collection<Action> any, Set<String> not) {
    List<Action> sorted = new ArrayList<>(any);
    sorted.sort(CHEAPEST);
    Clause clause = new Clause(List.copyOf(sorted), Set.copyOf(not));
    if (known.add(clause)) {
      clauses.add(clause);
    }
  }

  /**
   * The cheapest set, or null when none satisfies all clauses, or none was found within the bound.
   */
  @Nullable List<Action> solve() {
    List<Action> all = new ArrayList<>();
    for (List<Clause> part : parts()) {
      Optional<List<Action>> best = solved.get(part);
      if (best == null) {
        best = Optional.ofNullable(new Search(part).run());
        solved.put(part, best);
      }
      if (best.isEmpty()) {
        return null;
      }
      all.addAll(best.get());
    }
    all.sort(Comparator.comparing(Action::key));
    return all;
  }

  /** Whether the answers were found by trying all that could be cheaper. */
  boolean isProved() {
    return steps <= most;
  }

  /** The clauses in groups that share no action, each in the order they were added. */
  private List<List<Clause>> parts() {
    Map<String, Integer> partOf = new HashMap<>();
    List<List<Clause>> parts = new ArrayList<>();
    for (Clause clause : clauses) {
      Set<String> keys = new HashSet<>(clause.not);
      clause.any.forEach(action -> keys.add(action.key()));
      List<Clause> joined = new ArrayList<>();
      Set<Integer> touched = new TreeSet<>();
      keys.forEach(key -> Optional.ofNullable(partOf.get(key)).ifPresent(touched::add));
      int into = touched.isEmpty() ? parts.size() : touched.iterator().next();
      for (int part : touched) {
        joined.addAll(parts.get(part));
        parts.set(part, List.of());
      }
      joined.add(clause);
      if (into == parts.size()) {
        parts.add(joined);
      } else {
        parts.set(into, joined);
      }
      partOf.replaceAll((key, part) -> touched.contains(part) ? into : part);
      keys.forEach(key -> partOf.put(key, into));
    }
    parts.removeIf(List::isEmpty);
    return parts;
  }

  /** The search over clauses that hang together. */
  private final class Search {
    private final List<Clause> part;
    private final TreeSet<String> done = new TreeSet<>();
    private final TreeSet<String> undone = new TreeSet<>();
    private final List<Action> chosen = new ArrayList<>();
    private @Nullable List<Action> best;
    private long bestCost = Long.MAX_VALUE;

    Search(List<Clause> part) {
      this.part = part;
    }

    @Nullable List<Action> run() {
      search(0);
      return best;
    }

    private void search(long cost) {
      if (++steps > most || cost + least() > bestCost) {
        return;
      }
      Clause open = null;
      for (Clause clause : part) {
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
          search(cost + action.cost());
          chosen.remove(chosen.size() - 1);
          done.remove(action.key());
          undone.add(action.key());
          left.add(action.key());
        }
      }
      left.forEach(undone::remove);
    }

    /** What open clauses that share no action with one another cost at least. */
    private long least() {
      long sum = 0;
      Set<String> counted = new HashSet<>();
      for (Clause clause : part) {
        if (isSatisfied(clause)) {
          continue;
        }
        int cheapest = -1;
        boolean apart = true;
        for (Action action : clause.any) {
          if (!undone.contains(action.key())) {
            cheapest = cheapest < 0 ? action.cost() : cheapest;
            apart &= !counted.contains(action.key());
          }
        }
        if (cheapest >= 0 && apart) {
          sum += cheapest;
          clause.any.forEach(action -> counted.add(action.key()));
        }
      }
      return sum;
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

    private void keep(long cost) {
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
  }

  private static String keys(List<Action> actions) {
    return String.join("\n", actions.stream().map(Action::key).toList());
  }
}
