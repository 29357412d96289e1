package org.sobercompass.cli;

import java.util.concurrent.Callable;
import org.sobercompass.report.answers.RightAnswers;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober routes}. */
@Command(
    name = "routes",
    mixinStandardHelpOptions = true,
    description =
        "Why an account holds a permission: every route to it, and those that are stopped.",
    footer = {
      "",
      "Examples, on the demo:",
      "  sober routes ilse.brandt orders:payments:sign",
      "  sober routes joss.merrin orders:orders:raise",
      "  sober routes nils.farrow seedbook:labels:print --at alpine-house"
    })
final class RoutesCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "ACCOUNT", description = "login, mail, name, DN or id")
  private String account = "";

  @Parameters(index = "1", paramLabel = "PERMISSION", description = "application:area:level")
  private String permission = "";

  @Option(names = "--at", paramLabel = "NODE", description = "the node (default: the top)")
  private String at = "";

  @Override
  public Integer call() {
    Names names = inputs.names();
    int who = names.account(account);
    Names.Permission asked = names.permission(permission).alone();
    int node = names.node(asked.view(), at);
    inputs.print(new RightAnswers(inputs.ask()).routes(asked.view(), who, asked.right(), node));
    return Exit.OK;
  }
}
