package org.sobercompass.core.removal;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.system.Change;

/** The cheapest set that satisfies clauses, against trying all sets. */
class LeastSetTest {
  private static Action action(int number, int cost) {
    return new Action(new Change.AssignmentRemoved(0, number), cost, "k" + number);
  }

  private static Set<String> keys(List<Action> actions) {
    return actions.stream().map(Action::key).collect(Collectors.toCollection(TreeSet::new));
  }

  @Test
  void nothingIsAskedAndNothingIsDone() {
    assertThat(new LeastSet().solve()).isEmpty();
  }

  @Test
  void aSearchThatReachesItsBoundProvesNothing() {
    LeastSet least = new LeastSet(5);
    for (int i = 0; i < 40; i++) {
      least.add(List.of(action(i, 2), action(i + 1, 2), action(i + 2, 3)), Set.of());
    }
    least.solve();
    assertThat(least.isProved()).isFalse();
  }

  /** Apart, 60 clauses of two are 60 small questions; together they would be one of 2 to the 60. */
  @Test
  void clausesThatShareNothingAreSolvedApart() {
    LeastSet least = new LeastSet(1_000);
    for (int i = 0; i < 60; i++) {
      least.add(List.of(action(2 * i, 2), action(2 * i + 1, 2)), Set.of());
    }
    assertThat(keys(least.solve())).hasSize(60);
    assertThat(least.isProved()).isTrue();
  }

  @Test
  void theCheaperOfTwoIsChosen() {
    LeastSet least = new LeastSet();
    least.add(List.of(action(1, 3), action(2, 2)), Set.of());
    assertThat(keys(least.solve())).containsExactly("k2");
    assertThat(least.isProved()).isTrue();
  }

  @Test
  void oneThatServesTwoIsChosenBeforeTwoThatCostAsMuch() {
    LeastSet least = new LeastSet();
    Action both = action(9, 4);
    least.add(List.of(action(1, 2), both), Set.of());
    least.add(List.of(action(2, 2), both), Set.of());
    assertThat(keys(least.solve())).containsExactly("k9");
  }

  @Test
  void ofEqualSetsTheOneWithTheLeastKeysIsChosen() {
    LeastSet least = new LeastSet();
    least.add(List.of(action(2, 1), action(1, 1)), Set.of());
    assertThat(keys(least.solve())).containsExactly("k1");
  }

  @Test
  void whatMustBeLeftUndoneIsAWayToSatisfyAClause() {
    LeastSet least = new LeastSet();
    Action one = action(1, 1);
    Action two = action(2, 5);
    least.add(List.of(one, two), Set.of());
    least.add(List.of(), Set.of("k1"));
    assertThat(keys(least.solve())).containsExactly("k2");
  }

  @Test
  void aClauseThatNothingSatisfiesHasNoAnswer() {
    LeastSet least = new LeastSet();
    least.add(List.of(), Set.of());
    assertThat(least.solve()).isNull();
    LeastSet against = new LeastSet();
    against.add(List.of(action(1, 1)), Set.of());
    against.add(List.of(), Set.of("k1"));
    assertThat(against.solve()).isNull();
  }

  @Test
  void clausesAddedLaterCountAsThoseBefore() {
    LeastSet least = new LeastSet();
    least.add(List.of(action(1, 1), action(2, 2)), Set.of());
    assertThat(keys(least.solve())).containsExactly("k1");
    least.add(List.of(action(2, 2), action(3, 2)), Set.of());
    assertThat(keys(least.solve())).containsExactly("k2");
  }

  /** A clause of random actions done or undone. */
  private record Clause(List<Action> any, Set<String> not) {
    boolean holds(Set<String> done) {
      return any.stream().anyMatch(a -> done.contains(a.key()))
          || not.stream().anyMatch(key -> !done.contains(key));
    }
  }

  @Test
  void onRandomClausesNothingIsCheaperThanWhatIsFound() {
    int none = 0;
    for (int seed = 0; seed < 2_000; seed++) {
      Random random = new Random(seed);
      List<Action> all = new ArrayList<>();
      for (int i = 0; i < 7; i++) {
        all.add(action(i, 1 + random.nextInt(5)));
      }
      LeastSet least = new LeastSet();
      List<Clause> clauses = new ArrayList<>();
      for (int c = 0; c < 1 + random.nextInt(6); c++) {
        List<Action> any = all.stream().filter(a -> random.nextInt(3) == 0).toList();
        Set<String> not =
            all.stream()
                .filter(a -> random.nextInt(8) == 0)
                .map(Action::key)
                .collect(Collectors.toSet());
        clauses.add(new Clause(any, not));
        least.add(any, not);
      }
      List<Action> found = least.solve();
      String best = best(all, clauses);
      if (found == null) {
        none++;
        assertThat(best).as("seed %d", seed).isEmpty();
      } else {
        assertThat(order(found)).as("seed %d", seed).isEqualTo(best);
        assertThat(least.isProved()).isTrue();
      }
    }
    assertThat(none).isGreaterThan(20);
  }

  /** Cost, number and keys, so that the least text is the best set. */
  private static String order(List<Action> set) {
    int cost = set.stream().mapToInt(Action::cost).sum();
    return "%04d %02d %s".formatted(cost, set.size(), String.join(" ", keys(set)));
  }

  private static String best(List<Action> all, List<Clause> clauses) {
    String best = "";
    for (int set = 0; set < 1 << all.size(); set++) {
      List<Action> some = new ArrayList<>();
      for (int i = 0; i < all.size(); i++) {
        if ((set >> i & 1) != 0) {
          some.add(all.get(i));
        }
      }
      Set<String> done = keys(some);
      if (clauses.stream().allMatch(clause -> clause.holds(done))) {
        String order = order(some);
        best = best.isEmpty() || order.compareTo(best) < 0 ? order : best;
      }
    }
    return best;
  }
}
