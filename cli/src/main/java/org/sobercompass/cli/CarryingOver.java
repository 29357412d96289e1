package org.sobercompass.cli;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.carry.Carried;
import org.sobercompass.core.carry.CarryPlan;
import org.sobercompass.core.carry.InStep;
import org.sobercompass.core.carry.LossAndGain;
import org.sobercompass.core.crosswalk.CrosswalkLine;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.report.answers.CarryAnswers;
import org.sobercompass.report.answers.CarryNotes;
import org.sobercompass.report.answers.CrosswalkAnswers;
import org.sobercompass.report.data.AnswerTable;

/**
 * Rights carried over by a crosswalk, held against what was carried before, and what comes of it.
 */
final class CarryingOver {
  private final Carried carried;
  private final InStep step;
  private final Proposal proposal;
  private final Bound bound;
  private final LossAndGain result;
  private final CarryAnswers answers;
  private final CarryNotes notes;

  /**
   * Works it out.
   *
   * @param onlyAdd whether what was withdrawn from the old side is left to the new one
   * @param again whether what the new side lost since is given again
   */
  CarryingOver(Inputs inputs, Matching matching, CarryPlan plan, boolean onlyAdd, boolean again) {
    if (matching.crosswalks().decided().lines().stream().noneMatch(CrosswalkLine::isAccepted)) {
      throw new UsageException(
          "nobody has an accepted counterpart yet; sober match finds them, and --accept accepts");
    }
    carried = matching.crosswalks().carry(plan);
    LocalDate today = LocalDate.now(inputs.workspace().zone());
    step = matching.crosswalks().inStep(carried, matching.memory().read(), plan, today);
    proposal = step.proposal(matching.name(), onlyAdd, again);
    AccessModel model = inputs.assessment().model();
    bound = proposal.on(model);
    result = matching.crosswalks().lossAndGain(proposal);
    notes = new CarryNotes(inputs.ask(), model);
    answers = new CarryAnswers(inputs.ask(), model, model.with(bound.changes()));
  }

  /** Whether nothing differs, and nothing is left that could still be carried. */
  boolean isDone() {
    return step.isDone() && !carried.leavesAny();
  }

  InStep step() {
    return step;
  }

  Proposal proposal() {
    return proposal;
  }

  Bound bound() {
    return bound;
  }

  /** Each right of both sides. */
  AnswerTable rights() {
    return answers.rights(result, true);
  }

  /** In short, the answer first; parts without rows are left out. */
  List<AnswerTable> brief() {
    List<AnswerTable> parts = new ArrayList<>();
    parts.add(answers.persons(carried, step, result));
    for (AnswerTable part :
        List.of(notes.moved(step), answers.differences(result), notes.left(carried))) {
      if (!part.rows().isEmpty()) {
        parts.add(part);
      }
    }
    return parts;
  }

  /** For a page: in short, who is who, and each right of both sides. */
  List<AnswerTable> whole(Inputs inputs, Matching matching) {
    List<AnswerTable> parts = new ArrayList<>(brief());
    var matched = matching.crosswalks().match();
    AnswerTable who =
        new CrosswalkAnswers(inputs.judgedAsk()).table(matching.table(matched), matched);
    for (String column : CrosswalkAnswers.BESIDE) {
      who = who.without(column);
    }
    parts.add(who.without("kind"));
    parts.add(rights());
    return parts;
  }
}
