package org.sobercompass.core.findings.separation;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.SmallOffice;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.separation.SeparationSweep.Hold;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.problem.Place;

/** The holds of a person are found as a table of all of them would give them. */
class SeparationPersonsTest {
  private static final int ACCOUNTS = 30;
  private static final int RULES = 5;

  private static SeparationTests tests() {
    SmallOffice office = new SmallOffice().accounts("ann").given("x", "both", "ann", "top");
    List<SeparationRule> rules = new ArrayList<>();
    for (int r = 0; r < RULES; r++) {
      Permission one = new Permission("x", SmallOffice.right("a:own"));
      Permission other = new Permission("x", SmallOffice.right("b:own"));
      rules.add(
          new SeparationRule(
              "r" + r,
              "r" + r,
              List.of(List.of(one), List.of(other)),
              2,
              SeparationRule.Where.ANYWHERE,
              r != 3,
              List.of(),
              Weight.HIGH,
              Place.of("test")));
    }
    return new SeparationTests(office.assessment().by(FindingRules.of(rules)));
  }

  private static List<Hold> holds(Random random) {
    List<Hold> holds = new ArrayList<>();
    for (int account = 0; account < ACCOUNTS; account++) {
      for (int rule = 0; rule < RULES; rule++) {
        if (random.nextInt(3) == 0) {
          holds.add(new Hold(account, rule, 1, 3));
        }
      }
    }
    return holds;
  }

  @Test
  void eachPersonIsToldOnceWithAllTheirHolds() {
    SeparationTests tests = tests();
    for (int seed = 0; seed < 200; seed++) {
      Random random = new Random(seed);
      Persons persons = Persons.grouped(random.longs(ACCOUNTS, 0, 12).toArray());
      List<Hold> holds = holds(random);
      Map<String, List<Hold>> byPerson = new LinkedHashMap<>();
      for (Hold hold : holds) {
        String whose =
            hold.rule() == 3 ? "a" + hold.account() : "p" + persons.person(hold.account());
        byPerson.computeIfAbsent(whose + " " + hold.rule(), p -> new ArrayList<>()).add(hold);
      }
      SeparationPersons asked = new SeparationPersons(tests, persons, holds);
      List<List<Hold>> told = new ArrayList<>();
      for (Hold hold : holds) {
        List<Hold> person = asked.of(hold);
        if (!person.isEmpty()) {
          told.add(person);
        }
      }
      assertThat(told).as("seed " + seed).isEqualTo(List.copyOf(byPerson.values()));
    }
  }

  @Test
  void theHoldsOfSomeAccountsReplaceTheirs() {
    Random random = new Random(1);
    for (int seed = 0; seed < 100; seed++) {
      List<Hold> holds = holds(random);
      List<Hold> all = holds(random);
      BitSet some = new BitSet();
      random.ints(4, 0, ACCOUNTS).forEach(some::set);
      List<Hold> theirs = all.stream().filter(hold -> some.get(hold.account())).toList();
      List<Hold> expected = new ArrayList<>(theirs);
      holds.stream().filter(hold -> !some.get(hold.account())).forEach(expected::add);
      expected.sort((a, b) -> 100 * (a.account() - b.account()) + a.rule() - b.rule());
      assertThat(SeparationSweep.replacing(holds, some, theirs)).isEqualTo(expected);
    }
  }
}
