package org.sobercompass.cli;

import java.util.List;
import java.util.concurrent.Callable;
import org.sobercompass.core.expect.Expectation;
import org.sobercompass.core.expect.Expectations;
import org.sobercompass.core.expect.Outcome;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.report.answers.ExpectAnswers;
import org.sobercompass.report.pipeline.Check;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

/** {@code sober expect}. */
@Command(
    name = "expect",
    mixinStandardHelpOptions = true,
    description =
        "Checks the expectations of the workspace: who can, who cannot, what nobody may hold"
            + " together.",
    footer = {
      "",
      "Examples, on the demo:",
      "  sober expect",
      "  sober expect --junit expectations.xml --sarif expectations.sarif",
      "Exit code 0 when all hold, 1 when one does not, 6 when one is not known."
    })
final class ExpectCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();
  @Mixin private Pipeline pipeline = new Pipeline();

  @Override
  public Integer call() {
    List<Expectation> all = inputs.workspace().expectations();
    Expectations checker = new Expectations(inputs.assessment());
    Problems problems = new Problems();
    checker.contradictions(all, problems);
    problems.throwIfErrors();
    List<Outcome> outcomes = all.stream().map(checker::check).toList();
    ExpectAnswers answers = new ExpectAnswers(inputs.ask());
    inputs.print(inputs.isTable() ? answers.brief(outcomes) : answers.sheet(outcomes));
    pipeline.write("expectations", () -> Check.of(outcomes), inputs);
    if (outcomes.stream().anyMatch(o -> o.verdict() == Verdict.NO)) {
      return Exit.NO;
    }
    return outcomes.stream().anyMatch(o -> o.verdict() == Verdict.UNDECIDED)
        ? Exit.UNDECIDED
        : Exit.OK;
  }
}
