package org.sobercompass.core.review;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Assessment.Owned;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.findings.Owners;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.reference.SmallWorld;
import org.sobercompass.core.review.Review.Line;
import org.sobercompass.core.review.ReviewItem.Capacity;
import org.sobercompass.core.review.ReviewItem.Recommendation;
import org.sobercompass.core.review.ReviewItem.Trait;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;

/** What there is to confirm in random organizations, against what taking it away does. */
class ReviewPlanTest {
  private static final int SEEDS = 200;

  private static Review review(AccessModel model) {
    return review(Assessment.of(model, List.of()), Set.of());
  }

  private static Review review(Assessment assessment, Set<String> earlier) {
    Owners owners = new Owners(assessment, name -> List.of());
    return new ReviewPlan(assessment, List.of(), owners, List.of("manager"), earlier).make();
  }

  private static Assessment owned(AccessModel model, Owned owned) {
    return new Assessment(
        model,
        FindingRules.of(List.of()),
        Persons.none(model.facts()),
        Powers.none(model),
        owned,
        List.of(),
        List.of());
  }

  @Test
  void withEveryItemTakenAwayNobodyHoldsAnythingThatIsGiven() {
    for (int seed = 0; seed < SEEDS; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      List<Change> all = new ArrayList<>();
      review(model).byId().values().forEach(item -> all.addAll(item.taken()));
      AccessModel bare = model.with(all);
      for (SystemView view : bare.systems()) {
        for (int account = 0; account < bare.facts().accounts(); account++) {
          for (Holding held : bare.asker().holdings(view, account)) {
            assertThat(declared(bare, view, account, held)).as("seed %s", seed).isTrue();
          }
        }
      }
    }
  }

  private static boolean declared(AccessModel model, SystemView view, int account, Holding held) {
    return new RouteFinder(model.asker(), Limits.USUAL)
        .find(view, account, held.right(), held.resource()).open().stream()
            .allMatch(route -> view.grants().get(route.grant()).declared());
  }

  @Test
  void anItemTakenAwayIsNoItemAnyMoreAndTheOthersStay() {
    for (int seed = 0; seed < SEEDS; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      Map<String, ReviewItem> items = review(model).byId();
      for (ReviewItem item : items.values()) {
        Set<String> left = review(model.with(item.taken())).byId().keySet();
        assertThat(left).as("seed %s", seed).doesNotContain(item.id());
        if (item.taken().get(0) instanceof Change.AssignmentRemoved) {
          Set<String> others = new HashSet<>(left);
          others.removeAll(items.keySet());
          assertThat(others).as("nothing new, seed %s", seed).isEmpty();
        }
      }
    }
  }

  @Test
  void whatEndsAnItemByKeysIsTheChangeItself() {
    int tried = 0;
    for (int seed = 0; seed < SEEDS; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      for (ReviewItem item : review(model).byId().values()) {
        var bound = new Proposal("", item.ends()).on(model);
        // The same assignment twice: keys say either.
        long same =
            review(model).byId().values().stream()
                .filter(other -> other.ends().equals(item.ends()))
                .count();
        if (bound.isSound() && same == 1) {
          tried++;
          assertThat(bound.changes()).as("seed %s", seed).isNotEmpty();
          Set<String> byKeys = review(model.with(bound.changes())).byId().keySet();
          assertThat(byKeys)
              .as("%s: %s against %s", seed, bound.changes(), item)
              .isEqualTo(review(model.with(item.taken())).byId().keySet());
        }
      }
    }
    assertThat(tried).isGreaterThan(500);
  }

  @Test
  void theOwnerOfANodeGoesBeforeThatOfTheApplication() {
    int places = 0;
    for (int seed = 0; seed < SEEDS; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      SystemView view = model.systems().get(0);
      int last = view.resources().size() - 1;
      Owned owned =
          new Owned(
              Map.of(view.id(), 0),
              Map.of(),
              Map.of(view.id(), Map.of(view.resources().id(last), 1)));
      Review review = review(owned(model, owned), Set.of());
      for (Review.Sheet sheet : review.sheets()) {
        for (Line line : sheet.lines()) {
          if (line.item().taken().get(0) instanceof Change.AssignmentRemoved gone) {
            Grant grant = view.grants().get(gone.grant());
            boolean ofNode = view.resources().covers(last, grant.resource());
            places += ofNode ? 1 : 0;
            assertThat(sheet.responsible()).isEqualTo(ofNode ? 1 : 0);
            assertThat(line.capacity()).isEqualTo(ofNode ? Capacity.PLACE : Capacity.APPLICATION);
            assertThat(line.own()).isEqualTo(grant.subject() == sheet.responsible());
          }
        }
      }
      assertThat(review.nobody())
          .allMatch(line -> line.item().taken().get(0) instanceof Change.MembershipRemoved);
    }
    assertThat(places).isGreaterThan(20);
  }

  @Test
  void whatWasNotThereAtTheEarlierSurveyIsNew() {
    AccessModel model = new SmallWorld(3).model();
    Map<String, ReviewItem> items = review(model).byId();
    String first = items.keySet().iterator().next();
    Set<String> earlier = new HashSet<>(items.keySet());
    earlier.remove(first);
    review(Assessment.of(model, List.of()), earlier)
        .byId()
        .forEach(
            (id, item) ->
                assertThat(item.traits().contains(Trait.NEW)).isEqualTo(id.equals(first)));
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 5, 6, 7, 8})
  void takingAwayIsRecommendedOnlyWhereItEndsAFinding(int seed) {
    AccessModel model = new SmallWorld(seed).model();
    Assessment assessment = Assessment.of(model, List.of());
    var findings = Findings.of(assessment);
    Owners owners = new Owners(assessment, name -> List.of());
    Review review = new ReviewPlan(assessment, findings, owners, List.of(), Set.of()).make();
    Map<String, Long> before =
        findings.stream().collect(Collectors.groupingBy(f -> f.id(), Collectors.counting()));
    for (ReviewItem item : review.byId().values()) {
      if (item.advice() == Recommendation.TAKE_AWAY) {
        AccessModel without = model.with(item.taken());
        Map<String, Long> after = new HashMap<>();
        Findings.of(Assessment.of(without, List.of()))
            .forEach(f -> after.merge(f.id(), 1L, Long::sum));
        assertThat(item.findings()).isNotEmpty();
        assertThat(item.findings().stream().anyMatch(id -> !after.containsKey(id)))
            .as("a finding of %s ends", item.findings())
            .isTrue();
        assertThat(before.keySet()).containsAll(item.findings());
      }
    }
  }
}
