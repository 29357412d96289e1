package org.sobercompass.core.review;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Function;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.proposal.Step.Assignment;
import org.sobercompass.core.review.Review.Line;
import org.sobercompass.core.review.Review.Sheet;

/**
 * What came back from a review: for each item what was decided, by whom, and whether it is agreed.
 * Where two decide otherwise nothing follows. Immutable.
 *
 * @param outcomes by the id of the item, in the order of the review
 * @param unknown decisions on items that are not in the review, or not there any more
 */
public record Gathered(Map<String, Outcome> outcomes, List<Decision> unknown) {
  /** How far an item is decided. */
  public enum State {
    OPEN,
    KEPT,
    KEPT_UNTIL,
    TAKEN_AWAY,
    NOT_MINE,
    CONTRADICTED
  }

  /** What was decided on an item; the first decision stands for those that agree. */
  public record Outcome(ReviewItem item, State state, List<Decision> decisions) {
    /** Copies. */
    public Outcome {
      decisions = List.copyOf(decisions);
    }
  }

  /**
   * Puts decisions to the items of a review. Whoever says that an item is not his leaves it to the
   * others.
   */
  public static Gathered of(Review review, List<Decision> decisions) {
    Map<String, ReviewItem> items = review.byId();
    Map<String, List<Decision>> byItem = new LinkedHashMap<>();
    List<Decision> unknown = new ArrayList<>();
    for (Decision decision : decisions) {
      if (items.containsKey(decision.item())) {
        byItem.computeIfAbsent(decision.item(), k -> new ArrayList<>()).add(decision);
      } else {
        unknown.add(decision);
      }
    }
    Map<String, Outcome> outcomes = new LinkedHashMap<>();
    items.forEach((id, item) -> outcomes.put(id, of(item, byItem.getOrDefault(id, List.of()))));
    return new Gathered(outcomes, unknown);
  }

  private static Outcome of(ReviewItem item, List<Decision> all) {
    List<Decision> own = all.stream().filter(one -> one.kind() != Decision.Kind.NOT_MINE).toList();
    if (own.isEmpty()) {
      return new Outcome(item, all.isEmpty() ? State.OPEN : State.NOT_MINE, all);
    }
    boolean agreed = own.stream().allMatch(own.get(0)::agrees);
    return new Outcome(item, agreed ? state(own.get(0)) : State.CONTRADICTED, agreed ? own : all);
  }

  private static State state(Decision decision) {
    return switch (decision.kind()) {
      case KEEP -> State.KEPT;
      case KEEP_UNTIL -> State.KEPT_UNTIL;
      case TAKE_AWAY -> State.TAKEN_AWAY;
      case NOT_MINE -> State.NOT_MINE;
    };
  }

  /**
   * What is left to ask: what nobody answered, and what two contradict, of whom it was asked; what
   * is said to be somebody else's, of that person.
   *
   * @param whose the accounts and groups that a name fits; what fits none or several is nobody's
   */
  public Review left(Review review, Function<String, List<Integer>> whose) {
    Map<Integer, List<Line>> sheets = new TreeMap<>();
    Map<String, Line> nobody = new LinkedHashMap<>();
    review.nobody().forEach(line -> nobody.put(line.item().id(), line));
    for (Sheet sheet : review.sheets()) {
      for (Line line : sheet.lines()) {
        Outcome outcome = outcomes.get(line.item().id());
        State state = outcome == null ? State.OPEN : outcome.state();
        if (state == State.OPEN || state == State.CONTRADICTED) {
          sheets.computeIfAbsent(sheet.responsible(), k -> new ArrayList<>()).add(line);
        } else if (state == State.NOT_MINE && outcome != null) {
          moved(line, outcome, whose, sheets, nobody);
        }
      }
    }
    List<Sheet> all = new ArrayList<>();
    sheets.forEach((who, lines) -> all.add(new Sheet(who, lines)));
    return new Review(all, List.copyOf(nobody.values()));
  }

  private static void moved(
      Line line,
      Outcome outcome,
      Function<String, List<Integer>> whose,
      Map<Integer, List<Line>> sheets,
      Map<String, Line> nobody) {
    for (Decision decision : outcome.decisions()) {
      List<Integer> found = decision.whose().isEmpty() ? List.of() : whose.apply(decision.whose());
      if (found.size() == 1) {
        int who = found.get(0);
        List<Line> own = sheets.computeIfAbsent(who, k -> new ArrayList<>());
        if (own.stream().noneMatch(there -> there.item().id().equals(line.item().id()))) {
          boolean self = line.item().subject() == who;
          own.add(new Line(line.capacity(), line.of(), line.item(), self));
        }
        return;
      }
    }
    nobody.put(line.item().id(), line);
  }

  /** Those in a state. */
  public List<Outcome> in(State state) {
    return outcomes.values().stream().filter(one -> one.state() == state).toList();
  }

  /**
   * What follows: what was decided to be taken away, what was to be kept until a day that is over,
   * and, where an assignment can carry it, the day itself.
   *
   * @param asOf today
   * @param zone the zone in which days are meant
   */
  public Proposal proposal(Instant asOf, ZoneId zone) {
    List<Step> steps = new ArrayList<>();
    for (Outcome one : outcomes.values()) {
      if (one.state() == State.TAKEN_AWAY) {
        steps.addAll(one.item().ends());
      } else if (one.state() == State.KEPT_UNTIL) {
        Optional<LocalDate> until = one.decisions().get(0).until();
        until.ifPresent(day -> until(one.item().ends(), end(day, zone), asOf, steps));
      }
    }
    return new Proposal("what the review decided", steps);
  }

  /** The moment after a day. */
  private static Instant end(LocalDate day, ZoneId zone) {
    return day.plusDays(1).atStartOfDay(zone).toInstant();
  }

  private static void until(List<Step> ends, Instant end, Instant asOf, List<Step> steps) {
    if (!end.isAfter(asOf)) {
      steps.addAll(ends);
    } else if (ends.get(0) instanceof Step.Withdraw withdraw) {
      Assignment what = withdraw.what();
      if (what.until().isEmpty() || what.until().get().isAfter(end)) {
        steps.addAll(ends);
        steps.add(
            new Step.Assign(
                new Assignment(
                    what.application(),
                    what.role(),
                    what.subject(),
                    what.node(),
                    what.below(),
                    what.from(),
                    Optional.of(end))));
      }
    }
  }

  /** What is to be kept until a day that is to come, and can carry no day: it ends by hand then. */
  public List<Outcome> byHand(Instant asOf, ZoneId zone) {
    return in(State.KEPT_UNTIL).stream()
        .filter(one -> !(one.item().ends().get(0) instanceof Step.Withdraw))
        .filter(
            one ->
                one.decisions().get(0).until().map(d -> end(d, zone).isAfter(asOf)).orElse(false))
        .toList();
  }
}
