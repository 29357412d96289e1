package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.report.answers.RightAnswers;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober compare}. */
@Command(
    name = "compare",
    mixinStandardHelpOptions = true,
    description = {
      "Compares two accounts, two roles of an application, or what was read then and now.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober compare accounts edda.voss joss.merrin",
      "  sober compare roles seedbook keeper lender",
      "  sober compare surveys",
      "  sober compare surveys before.survey.zip after.survey.zip",
      "  sober compare timeline                all surveys of the workspace in numbers",
      "What differs between two surveys is told by what did it. Without names: the latest survey"
          + " of",
      "the workspace and what it reads now; with one: that survey, or the folder of another"
          + " workspace,",
      "and what is read now. Exit code 1 when something differs."
    })
final class CompareCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(
      index = "0",
      paramLabel = "KIND",
      description = "accounts, roles, surveys or timeline")
  private String kind = "";

  @Parameters(
      index = "1..*",
      paramLabel = "NAME",
      arity = "0..3",
      description = "the two accounts; the application and its two roles; the two surveys")
  private List<String> names = new ArrayList<>();

  @Option(
      names = "--amendment",
      paramLabel = "FOLDER",
      description = "of surveys: an amendment that was carried out, to tell what came of it")
  private List<Path> amendments = new ArrayList<>();

  @Option(
      names = "--all",
      description = "of surveys: also what compass.yaml says is routine (findings: routine)")
  private boolean all;

  @Override
  public Integer call() {
    if (kind.equals("timeline") && names.isEmpty()) {
      return new SurveyComparison(inputs, amendments, all).timeline();
    }
    if (kind.equals("surveys") && names.size() <= 2) {
      return new SurveyComparison(inputs, amendments, all).run(names);
    }
    RightAnswers answers = new RightAnswers(inputs.ask());
    if (kind.equals("accounts") && names.size() == 2) {
      inputs.print(
          answers.accounts(
              inputs.names().account(names.get(0)), inputs.names().account(names.get(1))));
    } else if (kind.equals("roles") && names.size() == 3) {
      SystemView view = inputs.names().application(names.get(0));
      List<RoleInfo> roles = view.system().roles();
      inputs.print(
          answers.roles(
              view,
              roles.get(inputs.names().role(view, names.get(1))),
              roles.get(inputs.names().role(view, names.get(2)))));
    } else {
      throw new UsageException(
          "expected: sober compare accounts A B, sober compare roles APPLICATION A B,"
              + " sober compare surveys BEFORE NOW, or sober compare timeline");
    }
    return Exit.OK;
  }
}
