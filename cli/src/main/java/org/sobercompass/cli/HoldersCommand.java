package org.sobercompass.cli;

import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.organization.Names;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober holders}. */
@Command(
    name = "holders",
    mixinStandardHelpOptions = true,
    description = "Lists who holds a permission, or who can do something to an object.",
    footer = {
      "",
      "Examples, on the demo:",
      "  sober holders orders:payments:sign",
      "  sober holders seedbook:labels:print --at herbarium",
      "  sober holders doors:door:hold --below",
      "  sober holders fernstore:read+write --at /srv/fernhollow/minutes",
      "  sober holders set-password --on ilse.brandt"
    })
final class HoldersCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(
      index = "0",
      paramLabel = "PERMISSION",
      description = "application:area:level, or an admin action")
  private String permission = "";

  @Option(names = "--at", paramLabel = "NODE", description = "the node (default: the top)")
  private String at = "";

  @Option(names = "--below", description = "also who holds it only somewhere below the node")
  private boolean below;

  @Option(
      names = "--on",
      paramLabel = "OBJECT",
      description = "for an admin action: the account, group, unit or other object")
  private @Nullable String on;

  @Override
  public Integer call() {
    Names names = inputs.names();
    Asked asked = on == null ? names.at(names.rights(permission), at) : names.asked(permission, on);
    inputs.print(inputs.answers().holders(asked, below, inputs.isTable()));
    boolean known = on == null || inputs.organization().holders(asked).perhaps().isEmpty();
    return known ? Exit.OK : Exit.UNDECIDED;
  }
}
