package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.key.RowCheck;
import org.sobercompass.core.review.Decision;
import org.sobercompass.core.review.Gathered;
import org.sobercompass.core.review.Gathered.Outcome;
import org.sobercompass.core.review.Gathered.State;
import org.sobercompass.core.review.Review;
import org.sobercompass.core.review.ReviewItem.Recommendation;
import org.sobercompass.report.data.AnswerTable;

/** Sheets of a review, and what came back. Not thread-safe. */
public final class ReviewAnswers {
  /** The columns that say what is to be confirmed; a row's check is made over them. */
  public static final List<String> SAID =
      List.of("row", "as", "who", "has", "where", "because", "unusual", "recommended");

  /** The columns to fill in. */
  public static final List<String> ASKED =
      List.of("decision", "until", "whose", "comment", "answered by");

  private final AnswerContext ask;
  private final Facts facts;
  private final ReviewWords words;

  /**
   * Answers about a review.
   *
   * @param model with the systems of admin scopes
   */
  public ReviewAnswers(AnswerContext ask, AccessModel model, List<Finding> findings) {
    this.ask = ask;
    this.facts = model.facts();
    this.words = new ReviewWords(ask, model, findings);
  }

  /** What one person is to confirm, a row a line; the columns to fill in are empty. */
  public AnswerTable sheet(Review.Sheet sheet) {
    List<String> columns = new ArrayList<>(SAID);
    columns.add("check");
    columns.addAll(ASKED);
    AnswerTable.Builder rows = ask.begin("review/1", columns.toArray(String[]::new));
    int look = 0;
    int away = 0;
    for (Review.Line line : sheet.lines()) {
      look += line.item().advice() == Recommendation.LOOK ? 1 : 0;
      away += line.item().advice() == Recommendation.TAKE_AWAY ? 1 : 0;
      List<Object> values = new ArrayList<>(said(line));
      values.add(check(said(line)));
      ASKED.forEach(asked -> values.add(""));
      rows.row(values.toArray());
    }
    return rows.heading(
            Words.subject(facts, sheet.responsible())
                + ": "
                + AnswerContext.count(sheet.lines().size(), "line", "lines")
                + " to confirm, "
                + look
                + " to look at closely, "
                + away
                + " to take away if nothing speaks for it.")
        .note(
            "Decision: keep; take away; keep until (with a day, as in 2027-01-31); not mine (with"
                + " whose). A comment says why.")
        .build();
  }

  /** What a line says, in the order of {@link #SAID}. */
  public List<String> said(Review.Line line) {
    return List.of(
        line.item().id(),
        words.as(line),
        words.who(line.item()),
        words.has(line.item()),
        words.where(line.item()),
        words.because(line.item()),
        words.unusual(line),
        ReviewWords.advice(line.item()));
  }

  /** A digest of what a row says: another one tells that somebody changed the row. */
  public static String check(List<String> said) {
    return RowCheck.of(said);
  }

  /** Who is to confirm how much. */
  public AnswerTable sheets(Review review) {
    AnswerTable.Builder rows =
        ask.begin("review-sheets/1", "who", "login", "lines", "look closely", "take away");
    for (Review.Sheet sheet : review.sheets()) {
      rows.row(
          Words.subject(facts, sheet.responsible()),
          facts.login(sheet.responsible()),
          sheet.lines().size(),
          count(sheet.lines(), Recommendation.LOOK),
          count(sheet.lines(), Recommendation.TAKE_AWAY));
    }
    rows.heading(
        AnswerContext.count(review.sheets().size(), "person answers", "persons answer")
            + " for "
            + (review.byId().size() - review.nobody().size())
            + " of "
            + AnswerContext.count(review.byId().size(), "item", "items")
            + "; for "
            + review.nobody().size()
            + " nobody does.");
    Map<String, Integer> missing = new java.util.TreeMap<>();
    review.nobody().forEach(line -> missing.merge(words.as(line), 1, Integer::sum));
    if (review.sheets().isEmpty()) {
      rows.note(
          "Name who answers: owner: in the file of an application, owners: for its nodes and"
              + " folders, owner or managedBy of groups and manager of people in the directory.");
    }
    if (!missing.isEmpty()) {
      List<String> all = new ArrayList<>();
      missing.forEach((as, count) -> all.add(as + " (" + count + ")"));
      rows.note("Nobody is named, so that items are on no sheet: " + String.join(", ", all) + ".");
    }
    return ask.whole().finish(rows);
  }

  private static int count(List<Review.Line> lines, Recommendation advice) {
    return (int) lines.stream().filter(line -> line.item().advice() == advice).count();
  }

  /** How far each person is, and what was decided. */
  public AnswerTable progress(Review review, Gathered gathered) {
    AnswerTable.Builder rows =
        ask.begin(
            "review-progress/1",
            "who",
            "login",
            "lines",
            "keep",
            "keep until",
            "take away",
            "not mine",
            "contradicted",
            "open");
    review.sheets().forEach(sheet -> row(sheet, gathered, rows));
    int all = gathered.outcomes().size();
    int open = gathered.in(State.OPEN).size();
    rows.heading(
        (all - open)
            + " of "
            + AnswerContext.count(all, "item is", "items are")
            + " answered: "
            + gathered.in(State.KEPT).size()
            + " kept, "
            + gathered.in(State.KEPT_UNTIL).size()
            + " kept until a day, "
            + gathered.in(State.TAKEN_AWAY).size()
            + " taken away, "
            + gathered.in(State.NOT_MINE).size()
            + " said to be somebody else's, "
            + gathered.in(State.CONTRADICTED).size()
            + " contradicted.");
    gathered.in(State.CONTRADICTED).forEach(one -> rows.note(contradiction(one)));
    gathered.in(State.NOT_MINE).forEach(one -> rows.note(elsewhere(one)));
    gathered.unknown().forEach(one -> rows.note(gone(one)));
    return ask.whole().finish(rows);
  }

  /** Each decision, by whom and why, one row each. */
  public AnswerTable decisions(Gathered gathered) {
    AnswerTable.Builder rows =
        ask.begin(
            "review-decisions/1",
            "row",
            "who",
            "has",
            "where",
            "state",
            "decision",
            "until",
            "by",
            "comment");
    for (Outcome one : gathered.outcomes().values()) {
      for (Decision decision : one.decisions()) {
        rows.row(
            one.item().id(),
            words.who(one.item()),
            words.has(one.item()),
            words.where(one.item()),
            ReviewWords.state(one.state()),
            decision.kind().word(),
            decision.until().map(Object::toString).orElse(""),
            decision.by(),
            decision.comment());
      }
    }
    return rows.heading(AnswerContext.count(rows.size(), "decision", "decisions") + ".").build();
  }

  private void row(Review.Sheet sheet, Gathered gathered, AnswerTable.Builder rows) {
    Map<State, Integer> states = new HashMap<>();
    for (Review.Line line : sheet.lines()) {
      Outcome outcome = gathered.outcomes().get(line.item().id());
      if (outcome != null) {
        states.merge(outcome.state(), 1, Integer::sum);
      }
    }
    rows.row(
        Words.subject(facts, sheet.responsible()),
        facts.login(sheet.responsible()),
        sheet.lines().size(),
        states.getOrDefault(State.KEPT, 0),
        states.getOrDefault(State.KEPT_UNTIL, 0),
        states.getOrDefault(State.TAKEN_AWAY, 0),
        states.getOrDefault(State.NOT_MINE, 0),
        states.getOrDefault(State.CONTRADICTED, 0),
        states.getOrDefault(State.OPEN, 0));
  }

  private static String gone(Decision one) {
    return one.place()
        + ": row "
        + one.item()
        + " is not in the organization any more; nothing follows from it.";
  }

  private String contradiction(Outcome one) {
    List<String> said = new ArrayList<>();
    for (Decision decision : one.decisions()) {
      said.add(decision.by() + " says " + says(decision));
    }
    return what(one) + ": " + String.join(", ", said) + "; nothing follows until they agree.";
  }

  private String elsewhere(Outcome one) {
    Decision decision = one.decisions().get(0);
    String whose = decision.whose().isEmpty() ? "not whose" : "it is " + decision.whose() + "'s";
    return what(one) + ": " + decision.by() + " says that " + whose + ".";
  }

  private String what(Outcome one) {
    return words.who(one.item()) + ", " + words.has(one.item());
  }

  private static String says(Decision decision) {
    return decision.kind().word() + decision.until().map(day -> " " + day).orElse("");
  }

  /** What ends by hand on a day to come, one line each. */
  public List<String> byHand(List<Outcome> outcomes) {
    return outcomes.stream()
        .map(
            one ->
                what(one)
                    + ": to be taken away after "
                    + one.decisions().get(0).until().orElseThrow()
                    + "; gather again then")
        .toList();
  }
}
