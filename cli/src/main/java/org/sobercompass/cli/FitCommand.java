package org.sobercompass.cli;

import java.util.List;
import java.util.concurrent.Callable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.RoleFit;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.report.answers.FitAnswers;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code sober fit}. */
@Command(
    name = "fit",
    mixinStandardHelpOptions = true,
    description =
        "Tells which roles fit badly: little used, better given to a group, always held together.",
    footer = {"", "Examples, on the demo:", "  sober fit permits", "  sober fit"})
final class FitCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(
      index = "0",
      paramLabel = "APPLICATION",
      arity = "0..1",
      description = "only this application")
  private String application = "";

  @Override
  public Integer call() {
    List<SystemView> views = inputs.applications(application);
    Assessment assessment = inputs.assessment();
    List<String> used = List.copyOf(assessment.rules().usage().records().keySet());
    inputs.print(new FitAnswers(inputs.ask()).sheet(views, new RoleFit(assessment), used));
    return Exit.OK;
  }
}
