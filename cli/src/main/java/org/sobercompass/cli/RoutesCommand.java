package org.sobercompass.cli;

import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.organization.Organization;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober routes}. */
@Command(
    name = "routes",
    mixinStandardHelpOptions = true,
    description =
        "Tells why an account holds a permission: every route to it, and the routes that are"
            + " stopped.",
    footer = {
      "",
      "Examples, on the demo:",
      "  sober routes ilse.brandt orders:payments:sign",
      "  sober routes joss.merrin orders:orders:raise",
      "  sober routes nils.farrow seedbook:labels:print --at alpine-house",
      "  sober routes nlarkin set-password --on wmarsh"
    })
final class RoutesCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "ACCOUNT", description = "login, mail, name, DN or id")
  private String account = "";

  @Parameters(
      index = "1",
      paramLabel = "PERMISSION",
      description = "application:area:level, or an admin action")
  private String permission = "";

  @Option(names = "--at", paramLabel = "NODE", description = "the node (default: the top)")
  private String at = "";

  @Option(
      names = "--on",
      paramLabel = "OBJECT",
      description = "for an admin action: the account, group, unit or other object")
  private @Nullable String on;

  @Override
  public Integer call() {
    int who = inputs.names().account(account);
    Asked asked =
        on == null
            ? inputs.names().at(inputs.names().permission(permission), at)
            : inputs.names().asked(permission, on);
    inputs.print(inputs.answers().routes(who, asked));
    Organization organization = inputs.organization();
    Verdict verdict = organization.can(organization.account(who), asked).verdict();
    return verdict == Verdict.UNDECIDED ? Exit.UNDECIDED : Exit.OK;
  }
}
