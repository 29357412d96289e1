package org.sobercompass.cli;

import java.util.concurrent.Callable;
import org.sobercompass.report.answers.RightAnswers;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober holders}. */
@Command(
    name = "holders",
    mixinStandardHelpOptions = true,
    description = "Who holds a permission, at a node or also below it.",
    footer = {
      "",
      "Examples, on the demo:",
      "  sober holders orders:payments:sign",
      "  sober holders seedbook:labels:print --at herbarium",
      "  sober holders doors:door:hold --below"
    })
final class HoldersCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "PERMISSION", description = "application:area:level")
  private String permission = "";

  @Option(names = "--at", paramLabel = "NODE", description = "the node (default: the top)")
  private String at = "";

  @Option(names = "--below", description = "also who holds it only somewhere below")
  private boolean below;

  @Override
  public Integer call() {
    Names names = inputs.names();
    Names.Permission asked = names.permission(permission);
    int node = names.node(asked.view(), at);
    RightAnswers answers = new RightAnswers(inputs.ask());
    inputs.print(
        inputs.isTable()
            ? answers.holdersBrief(asked.view(), asked.right(), node, below)
            : answers.holders(asked.view(), asked.right(), node, below));
    return Exit.OK;
  }
}
