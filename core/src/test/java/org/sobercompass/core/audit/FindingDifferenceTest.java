package org.sobercompass.core.audit;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.SeparationRule.Where;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.person.Link;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.reference.RandomSteps;
import org.sobercompass.core.reference.SmallWorld;
import org.sobercompass.core.system.Change;

/** Findings looked for only where changes may concern them, against all findings twice. */
class FindingDifferenceTest {
  private static Assessment assessment(AccessModel model, int seed) {
    List<SeparationRule> rules = new ArrayList<>();
    for (SystemView view : model.systems()) {
      int rights = view.rights().size();
      for (int i = 0; i < 3; i++) {
        List<List<Side>> sides = new ArrayList<>();
        for (int side = 0; side < 2 + i % 2; side++) {
          SystemView of = model.systems().get((view.number() + side * i) % model.systems().size());
          sides.add(List.of(new Permission(of.id(), (seed + i + side * 3) % rights)));
        }
        rules.add(
            new SeparationRule(
                "r" + rules.size(),
                "r",
                sides,
                2,
                i == 2 ? Where.values()[seed % Where.values().length] : Where.ANYWHERE,
                seed % 2 == 0,
                seed % 4 == 0 ? List.of(model.facts().firstGroup()) : List.of(),
                Weight.HIGH,
                Place.of("test")));
      }
    }
    Assessment plain = Assessment.of(model, rules);
    Persons persons =
        Persons.of(
            model.facts(),
            List.of(),
            List.of(new Link(0, 1, "test"), new Link(1, 4, "test")),
            List.of());
    return new Assessment(
        model, plain.rules(), persons, plain.powers(), plain.owned(), plain.readers(), List.of());
  }

  @Test
  void whatIsLookedAtIsEnough() {
    int shared = 0;
    int differences = 0;
    int narrow = 0;
    Set<FindingKind> kinds = EnumSet.noneOf(FindingKind.class);
    for (int seed = 0; seed < 600; seed++) {
      AccessModel model = new SmallWorld(seed).modelOf(3);
      Assessment before = assessment(model, seed);
      Random random = new Random(seed);
      List<Change> changes = RandomSteps.of(model, random).on(model).changes();
      Assessment after = before.with(changes);
      FindingDifference whole = FindingDifference.whole(before, after);
      FindingDifference narrowed = FindingDifference.of(before, after, changes, 1);
      assertThat(narrowed.begin()).as("%d %s", seed, changes).isEqualTo(whole.begin());
      assertThat(narrowed.end()).as("%d %s", seed, changes).isEqualTo(whole.end());
      differences += whole.begin().size() + whole.end().size();
      narrow += Focusing.of(before, after.model(), changes, 1).isPresent() ? 1 : 0;
      whole.end().forEach(finding -> kinds.add(finding.kind()));
      for (Finding finding : whole.begin()) {
        boolean separates = finding.kind() == FindingKind.SEPARATION_OF_DUTIES;
        shared += separates && finding.subjects().size() > 2 ? 1 : 0;
      }
    }
    assertThat(differences).isGreaterThan(800);
    assertThat(kinds)
        .contains(FindingKind.REDUNDANT_ASSIGNMENT, FindingKind.ASSIGNMENT_REMOVES_RIGHTS);
    assertThat(shared).as("findings of several accounts that begin").isGreaterThan(20);
    assertThat(narrow).as("changes of which it is known whom they concern").isGreaterThan(120);
  }

  @Test
  void whereItMayBeAnybodyEverythingIsLookedAt() {
    AccessModel model = new SmallWorld(1).model();
    Assessment before = assessment(model, 1);
    Change many = new Change.AssignmentAdded(0, 0, 0, 0, true, Optional.empty(), Optional.empty());
    assertThat(Focusing.of(before, before.with(List.of(many)).model(), List.of(many), 1))
        .isPresent();
    int everyone = model.facts().implicit(Implicit.EVERYONE);
    Change all =
        new Change.AssignmentAdded(0, 0, everyone, 0, true, Optional.empty(), Optional.empty());
    assertThat(Focusing.of(before, before.with(List.of(all)).model(), List.of(all), 1)).isEmpty();
    Change gone = new Change.PresenceChanged(0, false);
    assertThat(Focusing.of(before, before.with(List.of(gone)).model(), List.of(gone), 1)).isEmpty();
  }
}
