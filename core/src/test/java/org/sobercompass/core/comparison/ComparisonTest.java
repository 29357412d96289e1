package org.sobercompass.core.comparison;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Routine;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.reference.RandomSteps;
import org.sobercompass.core.reference.SmallWorld;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Verdict;

/** What differs between two random organizations, and by what, against asking for everything. */
class ComparisonTest {
  private static final int SEEDS = 250;

  private static Comparison compare(AccessModel before, AccessModel now) {
    return Comparison.of(Assessment.of(before, List.of()), Assessment.of(now, List.of()));
  }

  private static int rank(Can can) {
    return can.held() == Verdict.NO
        ? 0
        : can.verdict() == Verdict.NO ? 1 : can.verdict() == Verdict.UNDECIDED ? 2 : 3;
  }

  /** How each account stands to each permission at each node; nothing where it is not held. */
  private static Map<List<String>, Integer> ranks(AccessModel model) {
    Map<List<String>, Integer> all = new TreeMap<>(ComparisonTest::order);
    model.systems().forEach(view -> all.putAll(ranks(model, view)));
    return all;
  }

  private static Map<List<String>, Integer> ranks(AccessModel model, SystemView view) {
    Map<List<String>, Integer> all = new TreeMap<>(ComparisonTest::order);
    for (int account = 0; account < model.facts().accounts(); account++) {
      for (int right = 0; right < view.rights().size(); right++) {
        for (int node = 0; node < view.resources().size(); node++) {
          int rank = rank(model.asker().can(view, account, right, node));
          if (rank > 0) {
            all.put(
                List.of(
                    model.facts().key(account).text(),
                    view.rights().text(right),
                    view.resources().id(node)),
                rank);
          }
        }
      }
    }
    return all;
  }

  private static int order(List<String> a, List<String> b) {
    return String.join("\n", a).compareTo(String.join("\n", b));
  }

  private static List<Shift> shifts(Comparison comparison) {
    List<Shift> all = new ArrayList<>();
    comparison.causes().forEach(cause -> all.addAll(cause.shifts()));
    return all;
  }

  /** Each shift is one that there is, and each difference is a shift or lies below one. */
  private static void assertComplete(AccessModel before, AccessModel now, List<Shift> shifts) {
    Map<List<String>, Integer> was = ranks(before);
    Map<List<String>, Integer> is = ranks(now);
    Set<List<String>> tops = new HashSet<>();
    for (Shift shift : shifts) {
      List<String> cell = List.of(shift.account().text(), shift.right(), shift.where());
      int then = was.getOrDefault(cell, 0);
      int rank = is.getOrDefault(cell, 0);
      assertThat(rank).as(shift.toString()).isNotEqualTo(then);
      assertThat(shift.gained()).as(shift.toString()).isEqualTo(rank > then);
      assertThat(shift.unsure()).as(shift.toString()).isEqualTo(rank == 2);
      assertThat(tops.add(cell)).as("told once: " + shift).isTrue();
    }
    Set<List<String>> all = new HashSet<>(was.keySet());
    all.addAll(is.keySet());
    for (List<String> cell : all) {
      // What lies in a node that is new is told with what lies above it.
      boolean inBoth =
          before.systems().get(0).resources().find(cell.get(2)).isPresent()
              && now.systems().get(0).resources().find(cell.get(2)).isPresent();
      if (inBoth && !was.getOrDefault(cell, 0).equals(is.getOrDefault(cell, 0))) {
        assertThat(isBelow(cell, tops, now) || isBelow(cell, tops, before))
            .as("told: " + cell)
            .isTrue();
      }
    }
  }

  private static boolean isBelow(List<String> cell, Set<List<String>> tops, AccessModel model) {
    SystemView view = model.systems().get(0);
    Optional<Integer> node = view.resources().find(cell.get(2));
    for (int at = node.orElse(-1); at >= 0; at = view.resources().parent(at)) {
      if (tops.contains(List.of(cell.get(0), cell.get(1), view.resources().id(at)))) {
        return true;
      }
    }
    return false;
  }

  @Test
  void allThatDiffersIsToldOnceAndOnlyThat() {
    int differing = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      AccessModel before = new SmallWorld(seed).model();
      AccessModel now = new SmallWorld(seed + (seed % 3 == 0 ? 1000 : 0)).model();
      Bound bound = RandomSteps.of(now, new Random(seed)).on(now);
      AccessModel after = now.with(bound.changes());
      List<Shift> shifts = shifts(compare(before, after));
      assertComplete(before, after, shifts);
      differing += shifts.isEmpty() ? 0 : 1;
    }
    assertThat(differing).isGreaterThan(SEEDS / 3);
  }

  @Test
  void ofSeveralApplicationsEachIsTold() {
    int differing = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      AccessModel before = new SmallWorld(seed).modelOf(3);
      AccessModel after = new SmallWorld(seed).modelOf(3);
      if (seed % 2 == 0) {
        after = after.with(RandomSteps.of(after, new Random(seed)).on(after).changes());
      } else {
        after = emptied(new SmallWorld(seed).modelOf(3));
      }
      Set<List<String>> told = new HashSet<>();
      shifts(compare(before, after))
          .forEach(s -> told.add(List.of(s.account().text(), s.system())));
      Set<List<String>> differs = new HashSet<>();
      for (int system = 0; system < 3; system++) {
        Map<List<String>, Integer> was = ranks(before, before.systems().get(system));
        Map<List<String>, Integer> is = ranks(after, after.systems().get(system));
        String id = before.systems().get(system).id();
        was.forEach((cell, rank) -> note(is, cell, rank, id, differs));
        is.forEach((cell, rank) -> note(was, cell, rank, id, differs));
      }
      assertThat(told).as("seed " + seed).isEqualTo(differs);
      differing += differs.size();
    }
    assertThat(differing).isGreaterThan(SEEDS);
  }

  private static void note(
      Map<List<String>, Integer> others,
      List<String> cell,
      int rank,
      String system,
      Set<List<String>> differs) {
    if (others.getOrDefault(cell, 0) != rank) {
      differs.add(List.of(cell.get(0), system));
    }
  }

  /** The same where the first two applications give nothing any more. */
  private static AccessModel emptied(AccessModel model) {
    List<Change> changes = new ArrayList<>();
    for (int system = 0; system < 2; system++) {
      SystemView view = model.systems().get(system);
      for (int grant = 0; grant < view.grants().size(); grant++) {
        if (view.system().isRemovable(grant, view.basis())) {
          changes.add(new Change.AssignmentRemoved(system, grant));
        }
      }
    }
    return model.with(changes);
  }

  @Test
  void ofOneChangeAllIsItsOwn() {
    int one = 0;
    for (long seed = 0; seed < 2 * SEEDS; seed++) {
      AccessModel before = new SmallWorld(seed).model();
      Bound bound = RandomSteps.of(before, new Random(seed)).on(before);
      if (bound.changes().size() == 1) {
        Comparison comparison = compare(before, before.with(bound.changes()));
        // Who is listed in two ways is a member before and after.
        boolean twice = isListed(before.with(bound.changes()), bound.changes().get(0));
        if (!shifts(comparison).isEmpty() && !twice) {
          one++;
          assertThat(comparison.causes())
              .as("seed " + seed)
              .filteredOn(cause -> cause.size() > 0)
              .extracting(Cause::kind)
              .containsExactly(Cause.Kind.CHANGE);
          assertThat(comparison.causes().get(0).change()).contains(bound.changes().get(0));
        }
      }
    }
    assertThat(one).isGreaterThan(20);
  }

  /** Whether a member that was removed is still one, listed in another way. */
  private static boolean isListed(AccessModel model, Change change) {
    return change.fold(
        moved ->
            moved.byKind(
                added -> false,
                removed ->
                    IntStream.range(0, model.graph().upCount(removed.member()))
                        .anyMatch(
                            i -> model.graph().upGroup(removed.member(), i) == removed.group())),
        own -> false,
        account -> false);
  }

  @Test
  void nothingDiffersFromItselfAndTimeIsACauseOfItsOwn() {
    int byTime = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      assertThat(compare(model, new SmallWorld(seed).model()).isNone()).isTrue();
      AccessModel later = model.at(model.asOf().plusSeconds(5), Optional.empty());
      List<Cause> causes =
          compare(model, later).causes().stream().filter(cause -> cause.size() > 0).toList();
      assertThat(causes).as("seed " + seed).allMatch(cause -> cause.kind() == Cause.Kind.TIME);
      byTime += causes.size();
    }
    assertThat(byTime).isGreaterThan(10);
  }

  @Test
  void whatIsRoutineIsLeftOut() {
    int left = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      AccessModel before = new SmallWorld(seed).model();
      AccessModel after =
          before.with(RandomSteps.of(before, new Random(seed)).on(before).changes());
      Comparison all = compare(before, after);
      Set<Key> groups = new HashSet<>();
      all.causes().forEach(cause -> cause.group().ifPresent(groups::add));
      Comparison some = all.without(new Routine(groups, Set.of(), Set.of()));
      assertThat(some.causes()).allMatch(cause -> cause.group().isEmpty());
      Comparison none =
          all.without(
              new Routine(Set.of(), Set.of(before.systems().get(0).id()), Routine.OF_ACCOUNTS));
      assertThat(none.causes()).allMatch(cause -> cause.shifts().isEmpty());
      assertThat(none.begun()).isEqualTo(all.begun());
      left += groups.size();
    }
    assertThat(left).isGreaterThan(10);
  }
}
