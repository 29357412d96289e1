package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.carry.CarryPlan;
import org.sobercompass.core.carry.CarryPlan.Groups;
import org.sobercompass.core.carry.CarryPlan.How;
import org.sobercompass.core.carry.End;
import org.sobercompass.core.findings.PowerfulGrants;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.report.answers.CarryNotes;
import org.sobercompass.report.answers.CrosswalkAnswers;
import org.sobercompass.report.data.AnswerTable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober carry}. */
@Command(
    name = "carry",
    mixinStandardHelpOptions = true,
    description = {
      "Carries the rights of accounts and groups over to their counterparts, as sober match found"
          + " them and somebody accepted them, and shows what each person gains and loses by it.",
      "With --keep the proposal is kept; sober preview shows it whole, sober amend makes records"
          + " for live systems.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober carry fernhollow alderfen",
      "  sober carry fernhollow alderfen --how instead --keep merge.yaml",
      "  sober carry fernhollow alderfen --in fernstore:/srv/fernhollow/walks",
      "  sober carry fernhollow alderfen -f csv          each right of both sides, side by side",
      "  sober carry fernhollow alderfen --end",
      "What was carried is remembered with --keep, beside the crosswalk: carried again, only what"
          + " moved since",
      "on either side is proposed, and what moved on both is told."
    })
final class CarryCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(
      index = "0",
      arity = "0..1",
      paramLabel = "FROM",
      description = "the directory whose accounts have the rights")
  private @Nullable String from;

  @Parameters(
      index = "1",
      arity = "0..1",
      paramLabel = "TO",
      description = "the directory of their counterparts")
  private @Nullable String to;

  @Option(
      names = "--how",
      paramLabel = "HOW",
      description =
          "beside what the old accounts have (default); instead of it; or where-less, what the new"
              + " ones cannot do yet")
  private String how = How.BESIDE.word();

  @Option(
      names = "--in",
      paramLabel = "SYSTEM[:NODE]",
      description = "only in this application, or at and below this node or folder of it")
  private List<String> within = new ArrayList<>();

  @Option(
      names = "--leave-groups",
      description =
          "leave the rights of groups and units without a counterpart, in place of giving them to"
              + " their members' counterparts")
  private boolean leaveGroups;

  @Option(
      names = "--powerful",
      description = "carry powerful rights too, which are left for a decision otherwise")
  private boolean powerful;

  @Option(
      names = "--waste-bin",
      description = "carry what lies in a waste bin too, which is left otherwise")
  private boolean wasteBin;

  @Option(
      names = "--only-add",
      description = "leave to the new side what was withdrawn from the old one since")
  private boolean onlyAdd;

  @Option(
      names = "--again",
      description = "give again what was carried and then taken from the new side")
  private boolean again;

  @Option(
      names = "--end",
      description = "what ends the old side when nothing differs any more, and what would break")
  private boolean end;

  @Option(
      names = "--keep",
      paramLabel = "FILE",
      description = "keep the proposal in this .yaml file, for sober preview")
  private @Nullable Path keep;

  @Override
  public Integer call() {
    Matching matching = new Matching(inputs, from, to, List.of());
    CrosswalkAnswers.doubts(matching.crosswalks().match()).forEach(inputs.err()::println);
    return end ? ending(matching) : carrying(matching);
  }

  private int carrying(Matching matching) {
    CarryingOver over = new CarryingOver(inputs, matching, plan(), onlyAdd, again);
    if (inputs.isTable()) {
      String gap = "";
      for (AnswerTable part : over.brief()) {
        inputs.out().print(gap);
        inputs.print(part);
        gap = "\n";
      }
    } else {
      inputs.print(over.rights());
    }
    Proposal proposal = over.proposal();
    int code = told(over.bound());
    if (keep != null && code == Exit.OK) {
      Proposing.keep(proposal, keep, inputs);
      matching.memory().write(over.step().known());
      inputs
          .err()
          .println(
              "Remembered: "
                  + matching.memory().shown()
                  + ", what was carried; run it again later.");
    } else if (!proposal.steps().isEmpty()) {
      inputs
          .err()
          .println(
              "Nothing is changed yet: --keep keeps "
                  + (proposal.steps().size() == 1
                      ? "this step"
                      : "these " + proposal.steps().size() + " steps")
                  + " for sober preview and sober amend.");
    } else if (over.isDone()) {
      inputs.err().println("--end shows what ends the old side, and what would break.");
    }
    return code;
  }

  private int ending(Matching matching) {
    End ends = matching.crosswalks().end();
    AccessModel model = inputs.assessment().model();
    CarryNotes notes = new CarryNotes(inputs.ask(), model);
    inputs.print(notes.end(ends, matching.crosswalks().decided().from()));
    ends.left().forEach(line -> inputs.err().println("Not in it: " + line + "."));
    Proposing.keep(ends.proposal(), keep, inputs);
    return told(ends.proposal().on(model));
  }

  private int told(Bound bound) {
    bound.notes().stream()
        .filter(Bound.Note::isWrong)
        .forEach(note -> inputs.err().println("Cannot be made: " + note.what() + "."));
    return bound.isSound() ? Exit.OK : Exit.INPUT;
  }

  private CarryPlan plan() {
    Optional<How> way = How.of(how);
    if (way.isEmpty()) {
      List<String> words = Arrays.stream(How.values()).map(How::word).toList();
      throw new UsageException(
          "--how " + how + "; expected " + String.join(", ", words) + Spelling.hint(how, words));
    }
    List<CarryPlan.Part> parts = new ArrayList<>();
    for (String one : within) {
      int at = one.indexOf(':');
      SystemView view = inputs.names().withRoles(at < 0 ? one : one.substring(0, at));
      parts.add(
          new CarryPlan.Part(
              view.id(), inputs.names().node(view, at < 0 ? "" : one.substring(at + 1))));
    }
    PowerfulGrants power = new PowerfulGrants(inputs.assessment());
    return new CarryPlan(
        way.get(),
        parts,
        leaveGroups ? Groups.LEAVE : Groups.MEMBERS,
        powerful ? (view, grant) -> false : power,
        wasteBin);
  }
}
