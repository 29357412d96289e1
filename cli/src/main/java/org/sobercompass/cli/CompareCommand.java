package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.report.answers.RightAnswers;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code sober compare}. */
@Command(
    name = "compare",
    mixinStandardHelpOptions = true,
    description = "Compares two accounts, or two roles of an application.",
    footer = {
      "",
      "Examples, on the demo:",
      "  sober compare accounts edda.voss joss.merrin",
      "  sober compare roles seedbook keeper lender"
    })
final class CompareCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "KIND", description = "accounts or roles")
  private String kind = "";

  @Parameters(
      index = "1..*",
      paramLabel = "NAME",
      arity = "2..3",
      description = "the two accounts; or the application and its two roles")
  private List<String> names = new ArrayList<>();

  @Override
  public Integer call() {
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
          "expected: sober compare accounts A B, or: sober compare roles APPLICATION A B");
    }
    return Exit.OK;
  }
}
