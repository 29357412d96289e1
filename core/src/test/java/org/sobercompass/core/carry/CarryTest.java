package org.sobercompass.core.carry;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Cells;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.carry.CarryPlan.How;
import org.sobercompass.core.carry.LossAndGain.Outcome;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.reference.RandomSteps;
import org.sobercompass.core.reference.SmallWorld;
import org.sobercompass.core.system.Change;

/** Rights carried over in random organizations, against asking for everything. */
class CarryTest {
  private static final int SEEDS = 400;
  private static final LocalDate TODAY = LocalDate.of(2026, 11, 30);

  private static Map<Integer, Integer> counterparts(AccessModel model, Random random) {
    Map<Integer, Integer> all = new LinkedHashMap<>();
    int accounts = model.facts().accounts();
    int from = random.nextInt(accounts);
    int to = (from + 1 + random.nextInt(accounts - 1)) % accounts;
    all.put(from, to);
    int next = (Math.max(from, to) + 1) % accounts;
    if (random.nextBoolean() && next != from && next != to) {
      all.put(next, to);
    }
    return all;
  }

  /** How an account stands to each permission at each node. */
  private static Map<Long, Integer> ranks(AccessModel model, int account) {
    Map<Long, Integer> ranks = new TreeMap<>();
    SystemView view = model.systems().get(0);
    for (int right = 0; right < view.rights().size(); right++) {
      for (int node = 0; node < view.resources().size(); node++) {
        ranks.put(Cells.of(right, node), Cells.rank(model.asker().can(view, account, right, node)));
      }
    }
    return ranks;
  }

  private static List<Map<Long, Integer>> everything(AccessModel model) {
    List<Map<Long, Integer>> all = new ArrayList<>();
    for (int account = 0; account < model.facts().accounts(); account++) {
      all.add(ranks(model, account));
    }
    return all;
  }

  /** What the evaluation says of each right is so, and what it does not name comes out equal. */
  @Test
  void lossAndGainIsWhatComesOut() {
    int more = 0;
    int less = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      AccessModel before = new SmallWorld(seed).model();
      Random random = new Random(seed);
      Map<Integer, Integer> pairs = counterparts(before, random);
      How how = How.values()[random.nextInt(2)];
      Proposal proposal =
          new Carry(before, pairs, CarryPlan.USUAL.by(how)).make().proposal("carried");
      List<Change> changes = proposal.on(before).changes();
      AccessModel after = before.with(changes);
      LossAndGain result = LossAndGain.of(Assessment.of(before, List.of()), pairs, changes);
      for (LossAndGain.Person person : result.persons()) {
        Map<Long, Integer> old = new HashMap<>();
        person.from().forEach(f -> ranks(before, f).forEach((c, r) -> old.merge(c, r, Math::max)));
        Map<Long, Integer> own = ranks(before, person.to());
        Map<Long, Integer> is = ranks(after, person.to());
        for (LossAndGain.Cell cell : person.cells()) {
          long at = Cells.of(cell.right(), cell.resource());
          assertThat(List.of(cell.old(), cell.before(), cell.after()))
              .as("seed " + seed)
              .isEqualTo(List.of(old.get(at), own.get(at), is.get(at)));
        }
        boolean anyLess =
            is.keySet().stream().anyMatch(c -> is.get(c) < Math.max(old.get(c), own.get(c)));
        boolean anyMore =
            is.keySet().stream().anyMatch(c -> is.get(c) > Math.max(old.get(c), own.get(c)));
        assertThat(person.count(Outcome.LESS) > 0).as("less, seed " + seed).isEqualTo(anyLess);
        assertThat(person.count(Outcome.MORE) > 0).as("more, seed " + seed).isEqualTo(anyMore);
        less += anyLess ? 1 : 0;
        more += anyMore ? 1 : 0;
      }
      others(before, after, pairs, result, seed);
    }
    // Denials and nearest assignments make both happen.
    assertThat(less).isGreaterThan(5);
    assertThat(more).isGreaterThan(5);
  }

  private static void others(
      AccessModel before,
      AccessModel after,
      Map<Integer, Integer> pairs,
      LossAndGain result,
      long seed) {
    for (int account = 0; account < before.facts().accounts(); account++) {
      if (!pairs.containsKey(account) && !pairs.containsValue(account)) {
        int who = account;
        boolean differs = !ranks(before, who).equals(ranks(after, who));
        boolean told =
            result.others().ends().stream().anyMatch(e -> e.account() == who)
                || result.others().gives().stream().anyMatch(e -> e.account() == who);
        assertThat(told).as("others, seed " + seed).isEqualTo(differs);
      }
    }
  }

  @Test
  void carriedTwiceIsCarriedOnce() {
    int carried = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      AccessModel before = new SmallWorld(seed).model();
      Map<Integer, Integer> pairs = counterparts(before, new Random(seed));
      Carried first = new Carry(before, pairs, CarryPlan.USUAL).make();
      carried += first.open();
      AccessModel after = before.with(first.proposal("").on(before).changes());
      Carried second = new Carry(after, pairs, CarryPlan.USUAL).make();
      assertThat(second.open()).as("seed " + seed + ": " + second.rights()).isZero();
      assertThat(second.proposal("").steps()).isEmpty();
    }
    assertThat(carried).isGreaterThan(SEEDS);
  }

  @Test
  void carriedAndUndoneIsNothing() {
    int kept = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      AccessModel before = new SmallWorld(seed).model();
      Random random = new Random(seed);
      Map<Integer, Integer> pairs = counterparts(before, random);
      How how = How.values()[random.nextInt(How.values().length)];
      Proposal proposal = new Carry(before, pairs, CarryPlan.USUAL.by(how)).make().proposal("");
      Bound bound = proposal.on(before);
      // What is given twice, or listed by an attribute that comes back as another, is left out.
      boolean plain =
          bound.made().size() == proposal.steps().size()
              && bound.changes().stream()
                  .noneMatch(
                      c -> c instanceof Change.MembershipRemoved gone && gone.via() != Via.MEMBER);
      kept += plain ? 1 : 0;
      AccessModel after = before.with(bound.changes());
      AccessModel undone = after.with(proposal.inverse().on(after).changes());
      if (plain) {
        assertThat(everything(undone)).as("seed " + seed).isEqualTo(everything(before));
      }
    }
    assertThat(kept).isGreaterThan(SEEDS / 2);
  }

  /** Where less: nothing is added that gives nothing, and the outcome is the same. */
  @Test
  void whereLessAddsOnlyWhatGivesSomething() {
    for (long seed = 0; seed < SEEDS / 2; seed++) {
      AccessModel before = new SmallWorld(seed).model();
      Map<Integer, Integer> pairs = counterparts(before, new Random(seed));
      Proposal all = new Carry(before, pairs, CarryPlan.USUAL).make().proposal("");
      Proposal needed =
          new Carry(before, pairs, CarryPlan.USUAL.by(How.WHERE_LESS)).make().proposal("");
      assertThat(all.steps()).containsAll(needed.steps());
      for (Step step : needed.steps()) {
        List<Change> one = new Proposal("", List.of(step)).on(before).changes();
        assertThat(everything(before.with(one)))
            .as("seed " + seed)
            .isNotEqualTo(everything(before));
      }
    }
  }

  private static InStep step(
      AccessModel model, Map<Integer, Integer> pairs, List<Remembered> memory) {
    Carried carried = new Carry(model, pairs, CarryPlan.USUAL).make();
    return InStep.of(model, carried, memory, CarryPlan.USUAL, TODAY);
  }

  private static AccessModel done(AccessModel model, Proposal proposal) {
    return model.with(proposal.on(model).changes());
  }

  /** After random changes on both sides: what moved is carried, and then nothing differs. */
  @Test
  void bothSidesStayInStep() {
    int withdrawn = 0;
    int lost = 0;
    for (long seed = 0; seed < 2 * SEEDS; seed++) {
      AccessModel before = new SmallWorld(seed).model();
      Random random = new Random(seed);
      Map<Integer, Integer> pairs = counterparts(before, random);
      InStep first = step(before, pairs, List.of());
      AccessModel carried = done(before, first.proposal("", false, false));
      List<Remembered> seen = step(carried, pairs, first.known()).known();
      assertThat(seen).allMatch(Remembered::seen);

      AccessModel moved = done(carried, RandomSteps.of(carried, random));
      InStep second = step(moved, pairs, seen);
      withdrawn += second.withdrawn().size();
      lost += second.lost().size();
      AccessModel again = done(moved, second.proposal("", false, true));
      InStep third = step(again, pairs, second.known());
      assertThat(third.open()).as("seed " + seed).isZero();
      assertThat(third.lost()).as("seed " + seed).isEmpty();
      assertThat(third.withdrawn()).as("seed " + seed + third.withdrawn()).isEmpty();
    }
    assertThat(withdrawn).isGreaterThan(10);
    assertThat(lost).isGreaterThan(10);
  }

  /** What was taken from the new side by somebody else is told, and not given again by itself. */
  @Test
  void whatTheNewSideLostIsNotGivenAgainWithoutAWord() {
    int met = 0;
    for (long seed = 0; seed < SEEDS && met < 20; seed++) {
      AccessModel before = new SmallWorld(seed).model();
      Map<Integer, Integer> pairs = counterparts(before, new Random(seed));
      InStep first = step(before, pairs, List.of());
      List<Step> steps = first.proposal("", false, false).steps();
      if (steps.isEmpty() || !(steps.get(0) instanceof Step.Assign given)) {
        continue;
      }
      AccessModel carried = done(before, new Proposal("", steps));
      List<Remembered> seen = step(carried, pairs, first.known()).known();
      AccessModel lost = done(carried, new Proposal("", List.of(new Step.Withdraw(given.what()))));
      InStep second = step(lost, pairs, seen);
      assertThat(second.lost()).hasSize(1);
      assertThat(second.proposal("", false, false).steps()).doesNotContain(given);
      assertThat(second.proposal("", false, true).steps()).contains(given);
      met++;
    }
    assertThat(met).isEqualTo(20);
  }

  @Test
  void textsOfStepsAreEqualForEqualStepsOnly() {
    Map<String, Step> met = new HashMap<>();
    for (long seed = 0; seed < SEEDS; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      Facts facts = model.facts();
      Key account = facts.key(0);
      List<Step> steps = new ArrayList<>(RandomSteps.of(model, new Random(seed)).steps());
      steps.add(new Step.Disable(account, false));
      for (Step step : steps) {
        Step before = met.putIfAbsent(StepText.of(step), step);
        assertThat(before == null || before.equals(step)).as(StepText.of(step)).isTrue();
      }
    }
    assertThat(met).hasSizeGreaterThan(100);
  }
}
