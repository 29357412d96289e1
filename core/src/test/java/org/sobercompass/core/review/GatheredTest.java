package org.sobercompass.core.review;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.proposal.Step.Assignment;
import org.sobercompass.core.review.Gathered.State;
import org.sobercompass.core.review.Review.Line;
import org.sobercompass.core.review.ReviewItem.Capacity;
import org.sobercompass.core.review.ReviewItem.Recommendation;
import org.sobercompass.core.system.Change;

/** What comes of answers: agreed, contradicted, left to others, kept until a day. */
class GatheredTest {
  private static final ZoneId LISBON = ZoneId.of("Europe/Lisbon");
  private static final Instant TODAY = Instant.parse("2026-11-20T06:00:00Z");
  private static final Key ANN = new Key(KeyKind.ACCOUNT, "dir", "ann");
  private static final Key TEAM = new Key(KeyKind.GROUP, "dir", "team");
  private static final Assignment PAYER =
      new Assignment("orders", "payer", ANN, "trust", true, Optional.empty(), Optional.empty());

  private static ReviewItem item(String id, Step ends) {
    return new ReviewItem(
        id,
        List.of(new Change.AssignmentRemoved(0, 0)),
        List.of(ends),
        0,
        1,
        Set.of(),
        List.of(),
        Recommendation.KEEP,
        Optional.empty());
  }

  private static Review review() {
    List<Line> lines = new ArrayList<>();
    lines.add(new Line(Capacity.APPLICATION, "orders", item("a", new Step.Withdraw(PAYER)), false));
    lines.add(new Line(Capacity.GROUP, "team", item("m", new Step.Leave(ANN, TEAM)), false));
    return new Review(List.of(new Review.Sheet(0, lines)), List.of());
  }

  private static Decision decision(String item, Decision.Kind kind, String by) {
    return new Decision(item, kind, Optional.empty(), "", "", by, "sheet.csv:2");
  }

  private static Decision until(String item, String day) {
    return new Decision(
        item,
        Decision.Kind.KEEP_UNTIL,
        Optional.of(LocalDate.parse(day)),
        "",
        "needed",
        "Maren",
        "sheet.csv:2");
  }

  private static State state(String item, Decision... decisions) {
    Gathered.Outcome outcome = Gathered.of(review(), List.of(decisions)).outcomes().get(item);
    assertThat(outcome).isNotNull();
    return outcome.state();
  }

  @Test
  void anItemWithoutAnAnswerIsOpen() {
    assertThat(state("a", decision("m", Decision.Kind.KEEP, "Maren"))).isEqualTo(State.OPEN);
  }

  @Test
  void twoWhoAgreeDecideAndTwoWhoDoNotDecideNothing() {
    Decision keep = decision("a", Decision.Kind.KEEP, "Maren");
    Decision away = decision("a", Decision.Kind.TAKE_AWAY, "Edda");
    assertThat(state("a", away, decision("a", Decision.Kind.TAKE_AWAY, "Maren")))
        .isEqualTo(State.TAKEN_AWAY);
    assertThat(state("a", keep, away)).isEqualTo(State.CONTRADICTED);
    assertThat(Gathered.of(review(), List.of(keep, away)).proposal(TODAY, LISBON).steps())
        .isEmpty();
    assertThat(state("a", until("a", "2027-01-31"), until("a", "2027-02-28")))
        .isEqualTo(State.CONTRADICTED);
  }

  @Test
  void whoeverSaysThatItIsNotTheirsLeavesItToTheOthers() {
    Decision other = decision("a", Decision.Kind.NOT_MINE, "Maren");
    assertThat(state("a", other)).isEqualTo(State.NOT_MINE);
    assertThat(state("a", other, decision("a", Decision.Kind.TAKE_AWAY, "Edda")))
        .isEqualTo(State.TAKEN_AWAY);
  }

  @Test
  void whatIsTakenAwayBecomesAProposal() {
    Gathered gathered =
        Gathered.of(
            review(),
            List.of(
                decision("a", Decision.Kind.TAKE_AWAY, "Maren"),
                decision("m", Decision.Kind.KEEP, "Maren")));
    assertThat(gathered.proposal(TODAY, LISBON).steps()).containsExactly(new Step.Withdraw(PAYER));
  }

  @Test
  void aDayToComeIsWrittenIntoTheAssignmentAndWaitsForAMembership() {
    Gathered gathered =
        Gathered.of(review(), List.of(until("a", "2027-01-31"), until("m", "2027-01-31")));
    Instant end = Instant.parse("2027-02-01T00:00:00Z");
    assertThat(gathered.proposal(TODAY, LISBON).steps())
        .containsExactly(
            new Step.Withdraw(PAYER),
            new Step.Assign(
                new Assignment(
                    "orders", "payer", ANN, "trust", true, Optional.empty(), Optional.of(end))));
    assertThat(gathered.byHand(TODAY, LISBON))
        .extracting(one -> one.item().id())
        .containsExactly("m");
    assertThat(gathered.proposal(end, LISBON).steps())
        .as("when the day is over both end")
        .containsExactly(new Step.Withdraw(PAYER), new Step.Leave(ANN, TEAM));
    assertThat(gathered.byHand(end, LISBON)).isEmpty();
  }

  @Test
  void anAssignmentThatEndsBeforeTheDayIsLeftAsItIs() {
    Assignment short1 =
        new Assignment(
            "orders",
            "payer",
            ANN,
            "trust",
            true,
            Optional.empty(),
            Optional.of(TODAY.plusSeconds(60)));
    Review review =
        new Review(
            List.of(),
            List.of(
                new Line(
                    Capacity.APPLICATION, "orders", item("a", new Step.Withdraw(short1)), false)));
    assertThat(
            Gathered.of(review, List.of(until("a", "2027-01-31"))).proposal(TODAY, LISBON).steps())
        .isEmpty();
  }

  @Test
  void whatIsLeftIsAskedAgainAndWhatIsSomebodyElsesIsAskedThere() {
    Decision other =
        new Decision("a", Decision.Kind.NOT_MINE, Optional.empty(), "Edda", "", "Maren", "x:2");
    Gathered gathered = Gathered.of(review(), List.of(other));
    Review left = gathered.left(review(), name -> name.equals("Edda") ? List.of(5) : List.of());
    assertThat(left.sheets()).extracting(Review.Sheet::responsible).containsExactly(0, 5);
    assertThat(left.sheets().get(0).lines()).extracting(l -> l.item().id()).containsExactly("m");
    assertThat(left.sheets().get(1).lines()).extracting(l -> l.item().id()).containsExactly("a");
    assertThat(gathered.left(review(), name -> List.of(3, 4)).nobody())
        .as("a name that fits two is nobody's")
        .extracting(l -> l.item().id())
        .containsExactly("a");
    Gathered done =
        Gathered.of(
            review(),
            List.of(
                decision("a", Decision.Kind.KEEP, "Maren"),
                decision("m", Decision.Kind.TAKE_AWAY, "Maren")));
    assertThat(done.left(review(), name -> List.of()).sheets()).isEmpty();
  }

  @Test
  void aDecisionOnWhatIsGoneIsToldAndDoesNothing() {
    Gathered gathered =
        Gathered.of(review(), List.of(decision("gone", Decision.Kind.TAKE_AWAY, "Maren")));
    assertThat(gathered.unknown()).hasSize(1);
    assertThat(gathered.outcomes()).containsOnlyKeys("a", "m");
    assertThat(gathered.proposal(TODAY, LISBON).steps()).isEmpty();
    assertThat(Map.copyOf(gathered.outcomes()).values())
        .allMatch(outcome -> outcome.state() == State.OPEN);
  }
}
