package org.sobercompass.cli;

import java.util.concurrent.Callable;
import org.sobercompass.report.answers.RightAnswers;
import org.sobercompass.report.data.AnswerTable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code sober drift}. */
@Command(
    name = "drift",
    mixinStandardHelpOptions = true,
    description = "Compares the intended assignments with the actual ones.",
    footer = {"", "Examples, on the demo:", "  sober drift", "  sober drift permits"})
final class DriftCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(
      index = "0",
      paramLabel = "APPLICATION",
      arity = "0..1",
      description = "only this application")
  private String application = "";

  @Override
  public Integer call() {
    AnswerTable sheet = new RightAnswers(inputs.ask()).drift(inputs.applications(application));
    inputs.print(sheet);
    return sheet.rows().isEmpty() ? Exit.OK : Exit.NO;
  }
}
