package org.sobercompass.cli;

import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.report.answers.ReachAnswers;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober reach}. */
@Command(
    name = "reach",
    mixinStandardHelpOptions = true,
    description = {
      "Tells who could gain control of a directory or an application by rights that lead to"
          + " rights:",
      "setting a password, editing a group, changing permissions.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober reach                 all powers, held and within reach",
      "  sober reach desks           who could gain it, and by which steps",
      "  sober reach --sides         power in directories and in applications, side by side"
    })
final class ReachCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(
      index = "0",
      arity = "0..1",
      paramLabel = "POWER",
      description = "one power, as listed")
  private @Nullable String power;

  @Option(
      names = "--sides",
      description = "show power in directories and in applications side by side")
  private boolean sides;

  @Override
  public Integer call() {
    Administering all = new Administering(inputs, null);
    ReachAnswers answers = all.reach();
    if (sides) {
      inputs.print(answers.sides(inputs.workspace().persons()));
    } else if (power == null) {
      inputs.print(answers.all());
    } else if (answers.ids().contains(power)) {
      inputs.printBrief(answers.one(power));
    } else {
      throw new UsageException(
          "there is no power "
              + Problem.quote(power)
              + "\nthere are: "
              + String.join(", ", answers.ids()));
    }
    return answers.isKnown(power == null ? "" : power) ? Exit.OK : Exit.UNDECIDED;
  }
}
