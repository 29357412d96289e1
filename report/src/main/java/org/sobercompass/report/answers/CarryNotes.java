package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.carry.Carried;
import org.sobercompass.core.carry.CarriedRight;
import org.sobercompass.core.carry.End;
import org.sobercompass.core.carry.InStep;
import org.sobercompass.core.carry.Left;
import org.sobercompass.core.carry.Remembered;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.system.Grant;
import org.sobercompass.report.data.AnswerTable;

/** What is not carried, what moved since, and what would break at the end. Not thread-safe. */
public final class CarryNotes {
  private final AnswerContext ask;
  private final AccessModel before;
  private final Facts facts;

  /** Answers on a model, with its delegated administration. */
  public CarryNotes(AnswerContext ask, AccessModel before) {
    this.ask = ask;
    this.before = before;
    this.facts = before.facts();
  }

  /** What is not carried, or otherwise than it was given; each kind of case once. */
  public AnswerTable left(Carried carried) {
    AnswerTable.Builder rows = ask.begin("carry-left/1", "what", "whose", "why", "what to do");
    Map<List<String>, List<String>> whose = new LinkedHashMap<>();
    for (Left left : carried.left()) {
      whose
          .computeIfAbsent(List.of(what(left), why(left), todo(left)), k -> new ArrayList<>())
          .add(Words.subject(facts, left.from()));
    }
    whose.forEach(
        (said, who) ->
            rows.row(
                said.get(0),
                CarryAnswers.names(who.stream().distinct().toList()),
                said.get(1),
                said.get(2)));
    return rows.heading(
            rows.size() == 0
                ? "Everything was carried as it was given."
                : AnswerContext.count(rows.size(), "thing was", "things were")
                    + " not carried, or otherwise than it was given.")
        .build();
  }

  /** What moved since it was carried, one row each. */
  public AnswerTable moved(InStep step) {
    AnswerTable.Builder rows =
        ask.begin("carry-moved/1", "what", "account", "right", "what follows");
    for (InStep.Ended ended : step.withdrawn()) {
      moved(rows, "withdrawn from the old side", ended.what(), "it is withdrawn from the new side");
    }
    for (Remembered one : step.bothChanged()) {
      moved(rows, "changed on both sides", one, "nothing; decide by hand");
    }
    for (CarriedRight right : step.lost()) {
      rows.row(
          "taken from the new side",
          Words.subject(facts, right.to()),
          String.join(", ", right.texts()),
          "nothing; --again gives it again");
    }
    return rows.heading("What moved since it was carried.").build();
  }

  private void moved(AnswerTable.Builder rows, String what, Remembered one, String follows) {
    String who = facts.find(one.to()).map(s -> Words.subject(facts, s)).orElse(one.to().text());
    rows.row(what, who, String.join(", ", one.target()), follows);
  }

  /** What would break when the old directory ends. */
  public AnswerTable end(End end, String directory) {
    AnswerTable.Builder rows = ask.begin("carry-end/1", "what", "breaks", "what to do first");
    end.blind()
        .forEach(
            system ->
                rows.row(
                    before.view(system).system().name(),
                    "it looks at " + directory + " only, so nobody could use it",
                    "let it look at the other directory"));
    end.without()
        .forEach(
            (account, counts) -> {
              List<String> parts = new ArrayList<>();
              counts.forEach(
                  (system, count) ->
                      parts.add(count + " in " + before.view(system).system().name()));
              rows.row(
                  Words.subject(facts, account),
                  "no counterpart, and rights: " + String.join(", ", parts),
                  "match it, or decide that they end");
            });
    return rows.heading(
            AnswerContext.count(end.proposal().steps().size(), "step ends ", "steps end ")
                + directory
                + "; "
                + (rows.size() == 0
                    ? "nothing breaks by it."
                    : AnswerContext.count(rows.size(), "thing would", "things would") + " break."))
        .build();
  }

  private String what(Left left) {
    if (left.why() == Left.Why.WASTE_BIN || left.why() == Left.Why.BY_HAND) {
      return left.said() + " of " + before.view(left.system().getAsInt()).system().name();
    }
    if (left.grant().isPresent()) {
      SystemView view = before.view(left.system().getAsInt());
      Grant grant = view.grants().get(left.grant().getAsInt());
      return view.system().roles().get(grant.role()).name()
          + " in "
          + view.system().name()
          + (view.resources().size() > 1 ? " at " + view.resources().id(grant.resource()) : "");
    }
    return left.group().isPresent()
        ? facts.kind(left.group().getAsInt()).words()
            + " "
            + Words.subject(facts, left.group().getAsInt())
        : "all of " + before.view(left.system().getAsInt()).system().name();
  }

  private String why(Left left) {
    return switch (left.why()) {
      case NOT_SEEN ->
          isLookedAt(left)
              ? "its sight leaves " + Words.subject(facts, left.to()) + " out"
              : "it does not look at " + facts.source(left.to());
      case NO_COUNTERPART ->
          "it has no counterpart in "
              + facts.source(left.to())
              + ": its members' counterparts get its rights themselves";
      case OVER -> "it is over, or switched off";
      case POWERFUL -> "it is powerful";
      case BY_RULE -> "its members are made by a rule";
      case NO_NAME -> left.said();
      case SIGNS_IN -> "the old account signs in as this role by its name";
      case PRIMARY -> "a primary group cannot be left";
      case WASTE_BIN -> "it lies in a waste bin";
      case BY_HAND -> "the old account owns the database itself";
    };
  }

  private boolean isLookedAt(Left left) {
    return before
        .view(left.system().orElseThrow())
        .system()
        .sight()
        .covers(facts.source(left.to()));
  }

  private String todo(Left left) {
    return switch (left.why()) {
      case NOT_SEEN ->
          isLookedAt(left)
              ? "let its sight take it in (account-filter:, account-bases:)"
              : "put "
                  + facts.source(left.to())
                  + " into its sight (also:), where it can sign people in";
      case NO_COUNTERPART -> "name its counterpart in the crosswalk, or make one";
      case OVER -> "nothing";
      case POWERFUL -> "decide, and carry it with --powerful";
      case BY_RULE -> "let the rule take them in";
      case NO_NAME -> "give the account a number or SID that the system knows";
      case SIGNS_IN -> "let the new account sign in as that role, or as one of its own";
      case PRIMARY -> "change the primary group, or end the account";
      case WASTE_BIN -> "empty the bin, or carry it with --waste-bin";
      case BY_HAND -> "give it another owner by hand (alter database ... owner to ...)";
    };
  }
}
