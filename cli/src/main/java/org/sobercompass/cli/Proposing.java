package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.report.answers.PreviewAnswers;
import org.sobercompass.report.data.AnswerTable;
import picocli.CommandLine.Option;

/** What commands that propose changes have in common: they show the effects, and may write. */
final class Proposing {
  private static final String NOT_YET =
      "Nothing is changed yet: --write changes the files of the workspace, sober amend makes"
          + " records for live systems.";

  @Option(names = "--write", description = "also write it into the files of the workspace")
  boolean write;

  @Option(names = "--by", paramLabel = "WHO", description = "who gives it, for the table")
  String by = "";

  @Option(names = "--reason", paramLabel = "WHY", description = "why, for the table")
  String reason = "";

  @Option(
      names = "--sum",
      paramLabel = "WHAT",
      description = "sum the effects up by account or by permission")
  Sum sum = Sum.none;

  /** What effects are summed up by. */
  enum Sum {
    none,
    account,
    permission
  }

  @Option(
      names = "--keep",
      paramLabel = "FILE",
      description = "also keep the proposal in this .yaml file, for sober preview")
  @Nullable Path keep;

  /** Prints what a proposal would do, and writes it where that was asked for. */
  int run(Proposal proposal, Inputs inputs) {
    if (write && inputs.survey != null) {
      throw new UsageException("a survey cannot be changed; expected a workspace");
    }
    inputs.expecting(proposal);
    Bound bound = proposal.on(inputs.assessment().model());
    PreviewAnswers answers = new PreviewAnswers(inputs.ask(), inputs.assessment());
    Preview preview = inputs.organization().preview(bound.changes());
    if (sum != Sum.none) {
      inputs.printBrief(
          sum == Sum.account
              ? answers.byAccount(bound, preview)
              : answers.byPermission(bound, preview));
    } else if (inputs.isTable()) {
      String gap = "";
      for (AnswerTable part : answers.brief(bound, preview)) {
        inputs.out().print(gap);
        inputs.print(part);
        gap = "\n";
      }
    } else {
      inputs.print(answers.preview(bound, preview));
    }
    if (!bound.isSound()) {
      return Exit.INPUT;
    }
    keep(proposal, keep, inputs);
    if (write) {
      Map<String, Integer> written = inputs.organization().write(proposal, by, reason);
      written.forEach(
          (file, rows) ->
              inputs
                  .err()
                  .println(
                      "Written: " + file + ", " + rows + (rows == 1 ? " change." : " changes.")));
    } else if (!bound.changes().isEmpty()) {
      inputs.err().println(NOT_YET);
    }
    return Exit.OK;
  }

  /** Keeps a proposal, where that was asked for. */
  static void keep(Proposal proposal, @Nullable Path file, Inputs inputs) {
    if (file == null) {
      return;
    }
    if (!file.toString().matches(".*[.]ya?ml")) {
      throw new UsageException("--keep " + file + "; expected a name that ends with .yaml");
    }
    inputs.organization().keep(proposal, file);
    inputs.err().println("Kept: " + file + "; sober preview " + file + " shows it again.");
  }
}
