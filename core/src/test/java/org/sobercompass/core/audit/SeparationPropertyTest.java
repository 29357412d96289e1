package org.sobercompass.core.audit;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.SeparationRule.Where;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.person.Link;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.reference.SmallWorld;
import org.sobercompass.core.removal.Goal;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.removal.Unpick;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Verdict;

/** Separation of duties on random organizations against asking one by one. */
class SeparationPropertyTest {
  private static final int MOST_REMOVALS = 11;

  private int conflicts;
  private int ended;
  private int proved;

  private static SeparationRule rule(SystemView view, int seed, Where where) {
    int one = seed % view.rights().size();
    int other = (seed * 7 + 3) % view.rights().size();
    return new SeparationRule(
        "r",
        "r",
        List.of(List.of(new Permission(view.id(), one)), List.of(new Permission(view.id(), other))),
        2,
        where,
        true,
        List.of(),
        Weight.HIGH,
        Place.of("test"));
  }

  @Test
  void conflictsAreThoseThatAskingOneByOneFindsAndAdviceEndsThem() {
    for (int seed = 0; seed < 300; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      SystemView view = model.systems().get(0);
      for (Where where : Where.values()) {
        SeparationRule rule = rule(view, seed, where);
        Assessment assessment = Assessment.of(model, List.of(rule));
        TreeSet<String> found = new TreeSet<>();
        for (Finding finding : Findings.of(assessment)) {
          if (finding.kind() == FindingKind.SEPARATION_OF_DUTIES) {
            finding.subjects().stream().map(Key::text).forEach(found::add);
            advised(assessment, finding);
          }
        }
        assertThat(found).as("seed %d %s", seed, where).isEqualTo(naive(model, rule));
        conflicts += found.size();
        int counted =
            Findings.conflicts(assessment).values().stream().mapToInt(Integer::intValue).sum();
        assertThat(counted).isEqualTo(found.size());
      }
    }
    assertThat(conflicts).isGreaterThan(300);
    assertThat(ended).isGreaterThan(100);
    assertThat(proved).isGreaterThan(20);
  }

  /** Three sides of which two are enough, linked accounts, somebody who is excepted. */
  @Test
  void linkedAccountsCountTogetherAndTheExceptedDoNotCount() {
    int broken = 0;
    for (int seed = 0; seed < 300; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      SystemView view = model.systems().get(0);
      int rights = view.rights().size();
      boolean perPerson = seed % 3 > 0;
      int excepted = seed % 5;
      List<List<Side>> sides = new ArrayList<>();
      for (int side = 0; side < 3; side++) {
        sides.add(List.of(new Permission(view.id(), (seed + side * 3) % rights)));
      }
      Persons persons =
          Persons.of(
              model.facts(),
              List.of(),
              List.of(new Link(0, 1, "test"), new Link(1, 4, "test")),
              List.of());
      for (Where where : Where.values()) {
        SeparationRule rule =
            new SeparationRule(
                "r",
                "r",
                sides,
                2,
                where,
                perPerson,
                List.of(excepted),
                Weight.HIGH,
                Place.of("test"));
        Assessment plain = Assessment.of(model, List.of(rule));
        Assessment assessment =
            new Assessment(
                model,
                plain.rules(),
                persons,
                plain.powers(),
                plain.owned(),
                plain.readers(),
                List.of());
        TreeSet<String> found = new TreeSet<>();
        for (Finding finding : Findings.of(assessment)) {
          if (finding.kind() == FindingKind.SEPARATION_OF_DUTIES) {
            finding.subjects().stream().map(Key::text).forEach(found::add);
          }
        }
        int counted = 0;
        for (int account = 0; account < model.facts().accounts(); account++) {
          List<Integer> person = perPerson ? persons.accounts(account) : List.of(account);
          boolean breaks = !person.contains(excepted) && breaks(model, rule, person);
          boolean first = account == person.get(0);
          counted += breaks && first ? 1 : 0;
          if (!breaks) {
            assertThat(found)
                .as("seed %d %s", seed, where)
                .doesNotContain(model.facts().key(account).text());
          } else if (first) {
            List<String> keys = person.stream().map(a -> model.facts().key(a).text()).toList();
            assertThat(found).as("seed %d %s", seed, where).containsAnyElementsOf(keys);
          }
        }
        assertThat(Findings.conflicts(assessment)).containsExactly(Map.entry("r", counted));
        broken += counted;
      }
    }
    assertThat(broken).isGreaterThan(300);
  }

  /** Two different sides held by any of the accounts near enough to each other. */
  private static boolean breaks(AccessModel model, SeparationRule rule, List<Integer> person) {
    for (int side = 0; side < rule.sides().size(); side++) {
      for (int other = 0; other < side; other++) {
        if (meet(model, rule, right(rule, side), right(rule, other), person)) {
          return true;
        }
      }
    }
    return false;
  }

  private static int right(SeparationRule rule, int side) {
    return ((Permission) rule.sides().get(side).get(0)).right();
  }

  private static boolean meet(
      AccessModel model, SeparationRule rule, int one, int other, List<Integer> person) {
    SystemView view = model.systems().get(0);
    int nodes = view.resources().size();
    for (int a = 0; a < nodes; a++) {
      for (int b = 0; b < nodes; b++) {
        if (isNear(view, rule, a, b)
            && isHeld(model, person, one, a)
            && isHeld(model, person, other, b)) {
          return true;
        }
      }
    }
    return false;
  }

  private static boolean isHeld(AccessModel model, List<Integer> person, int right, int node) {
    Asker asker = model.asker();
    return person.stream()
        .anyMatch(a -> asker.can(model.systems().get(0), a, right, node).verdict() == Verdict.YES);
  }

  private static boolean isNear(SystemView view, SeparationRule rule, int a, int b) {
    return switch (rule.where()) {
      case ANYWHERE -> true;
      case SAME_NODE -> a == b;
      case OVERLAPPING -> view.resources().covers(a, b) || view.resources().covers(b, a);
    };
  }

  private void advised(Assessment assessment, Finding finding) {
    Advice advice = Advice.of(assessment, finding);
    // Its goal is shown by facts, at the nodes where sides meet too: so it is never merely the
    // best.
    assertThat(advice.result().orElseThrow()).isNotEqualTo(Removal.Result.BEST_FOUND);
    least(assessment, finding, advice);
    if (advice.result().orElseThrow() == Removal.Result.NONE_ENDS_IT) {
      return;
    }
    ended++;
    Assessment after = assessment.with(advice.changes());
    assertThat(Findings.of(after)).noneMatch(f -> f.key().equals(finding.key()));
  }

  /** No cheaper set of removals ends it, or none at all. */
  private void least(Assessment assessment, Finding finding, Advice advice) {
    Unpick unpick = new Unpick(assessment.model());
    List<Change> all = removals(assessment.model(), unpick);
    if (all.size() > MOST_REMOVALS) {
      return;
    }
    proved++;
    Goal goal = Goals.of(assessment, finding.aim());
    long limit = advice.changes().isEmpty() ? Long.MAX_VALUE : unpick.cost(advice.changes());
    for (int set = 1; set < 1 << all.size(); set++) {
      List<Change> some = new ArrayList<>();
      for (int i = 0; i < all.size(); i++) {
        if ((set >> i & 1) != 0) {
          some.add(all.get(i));
        }
      }
      if (unpick.cost(some) < limit) {
        assertThat(goal.still(assessment.model().with(some), some)).as("%s", some).isPresent();
      }
    }
  }

  private static List<Change> removals(AccessModel model, Unpick unpick) {
    List<Change> all = new ArrayList<>();
    for (int member = 0; member < model.facts().subjects(); member++) {
      for (int i = 0; i < model.graph().upCount(member); i++) {
        all.add(
            new Change.MembershipRemoved(
                member, model.graph().upGroup(member, i), model.graph().upVia(member, i)));
      }
    }
    for (int grant = 0; grant < model.systems().get(0).grants().size(); grant++) {
      all.add(new Change.AssignmentRemoved(0, grant));
    }
    return all.stream().filter(change -> unpick.cost(List.of(change)) > 0).distinct().toList();
  }

  /** All accounts, all pairs of nodes, one question at a time. */
  private static TreeSet<String> naive(AccessModel model, SeparationRule rule) {
    TreeSet<String> found = new TreeSet<>();
    for (int account = 0; account < model.facts().accounts(); account++) {
      if (breaks(model, rule, List.of(account))) {
        found.add(model.facts().key(account).text());
      }
    }
    return found;
  }
}
