package org.sobercompass.core.expect;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.expect.Expectation.Kind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.person.Link;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.reference.SmallWorld;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Verdict;

/** Expectations on random organizations against asking one account about one node at a time. */
class ExpectationsPropertyTest {
  private final Map<Verdict, Integer> counted = new EnumMap<>(Verdict.class);

  @Test
  void eachFormSaysWhatAskingOneByOneSays() {
    for (int seed = 0; seed < 400; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      SystemView view = model.systems().get(0);
      Assessment assessment = linked(model);
      for (Kind kind : Kind.values()) {
        Expectation expectation = expectation(view, seed, kind);
        Outcome outcome = new Expectations(assessment).check(expectation);
        Naive naive = new Naive(assessment, expectation);
        assertThat(outcome.verdict())
            .as("seed %d %s %s", seed, kind, naive)
            .isEqualTo(naive.verdict());
        assertThat(new TreeSet<>(outcome.against()))
            .as("seed %d %s", seed, kind)
            .isEqualTo(naive.told());
        counted.merge(outcome.verdict(), 1, Integer::sum);
      }
    }
    assertThat(counted.get(Verdict.YES)).isGreaterThan(200);
    assertThat(counted.get(Verdict.NO)).isGreaterThan(200);
    assertThat(counted.get(Verdict.UNDECIDED)).isGreaterThan(5);
  }

  private static Assessment linked(AccessModel model) {
    Assessment plain = Assessment.of(model, List.of());
    Persons persons =
        Persons.of(model.facts(), List.of(), List.of(new Link(0, 2, "test")), List.of());
    return new Assessment(
        model,
        plain.rules(),
        persons,
        plain.powers(),
        plain.owned(),
        plain.readers(),
        plain.accepted());
  }

  private static Expectation expectation(SystemView view, int seed, Kind kind) {
    int rights = view.rights().size();
    List<Side> what = new ArrayList<>();
    what.add(new Side.Permission(view.id(), seed % rights));
    if (kind == Kind.NOBODY_HOLDS) {
      what.add(new Side.Permission(view.id(), (seed * 7 + 5) % rights));
    }
    int groups = seed % 3 == 0 ? 5 : 6;
    List<Integer> who = kind == Kind.NOBODY_HOLDS ? List.of() : List.of(seed % 5, groups);
    int node = seed % 4 == 0 ? -1 : seed % view.resources().size();
    return new Expectation("e", "e", kind, who, what, node, seed % 5 == 0, Place.of("test"));
  }

  /** The same, account by account. */
  private static final class Naive {
    private final Assessment assessment;
    private final Expectation of;
    private final Set<Integer> against = new TreeSet<>();
    private final Set<Integer> unknown = new TreeSet<>();

    Naive(Assessment assessment, Expectation of) {
      this.assessment = assessment;
      this.of = of;
      Set<Integer> named = new TreeSet<>();
      for (int subject : of.who()) {
        IntList found = new IntList();
        assessment.model().widest().walker().accounts(subject, found);
        for (int i = 0; i < found.size(); i++) {
          named.add(found.get(i));
        }
      }
      for (int account = 0; account < assessment.model().facts().accounts(); account++) {
        note(account, named.contains(account));
      }
    }

    private void note(int account, boolean named) {
      if (of.kind() == Kind.NOBODY_HOLDS) {
        Verdict all = Verdict.YES;
        for (Side side : of.what()) {
          Verdict best = Verdict.NO;
          for (int own : assessment.persons().accounts(account)) {
            Verdict one = can(own, side);
            best = one.ordinal() > best.ordinal() ? one : best;
          }
          all = all.and(best);
        }
        // Each person is told once, by whichever account holds the first side.
        boolean first = can(account, of.what().get(0)) != Verdict.NO;
        tell(account, first ? all : Verdict.NO);
        return;
      }
      Verdict can = can(account, of.what().get(0));
      boolean must = named && (of.kind() == Kind.CAN || of.kind() == Kind.ONLY);
      boolean mustNot =
          of.kind() == Kind.CANNOT
              ? named
              : !named && (of.kind() == Kind.ONLY || of.kind() == Kind.NOBODY_OUTSIDE);
      if (must) {
        tell(account, can == Verdict.YES ? Verdict.NO : can == Verdict.NO ? Verdict.YES : can);
      } else if (mustNot) {
        tell(account, can);
      }
    }

    private void tell(int account, Verdict isAgainst) {
      if (isAgainst == Verdict.YES) {
        against.add(account);
      } else if (isAgainst == Verdict.UNDECIDED) {
        unknown.add(account);
      }
    }

    private Verdict can(int account, Side side) {
      SystemView view = assessment.model().systems().get(0);
      Asker asker = assessment.model().asker();
      int right = ((Side.Permission) side).right();
      Verdict best = Verdict.NO;
      for (int node = 0; node < view.resources().size(); node++) {
        if (of.node() < 0 || node == of.node()) {
          Can can = asker.can(view, account, right, node);
          Verdict one = of.held() ? can.held() : can.verdict();
          best = one.ordinal() > best.ordinal() ? one : best;
        }
      }
      return best;
    }

    Verdict verdict() {
      return !against.isEmpty() ? Verdict.NO : unknown.isEmpty() ? Verdict.YES : Verdict.UNDECIDED;
    }

    Set<Integer> told() {
      return against.isEmpty() ? unknown : against;
    }

    @Override
    public String toString() {
      return of + " against " + against + " unknown " + unknown;
    }
  }
}
