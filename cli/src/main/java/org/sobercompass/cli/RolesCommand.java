package org.sobercompass.cli;

import java.util.concurrent.Callable;
import org.sobercompass.report.answers.SubjectAnswers;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code sober roles}. */
@Command(
    name = "roles",
    mixinStandardHelpOptions = true,
    description = "Lists the roles of one application or of all applications.",
    footer = {
      "",
      "Examples, on the demo:",
      "  sober roles",
      "  sober roles orders",
      "One role: sober show role orders clerk. Two: sober compare roles orders clerk payer."
    })
final class RolesCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(
      index = "0",
      paramLabel = "APPLICATION",
      arity = "0..1",
      description = "only this application")
  private String application = "";

  @Override
  public Integer call() {
    inputs.print(new SubjectAnswers(inputs.ask()).roles(inputs.applications(application)));
    return Exit.OK;
  }
}
