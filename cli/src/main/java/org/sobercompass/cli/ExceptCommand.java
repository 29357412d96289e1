package org.sobercompass.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

/** {@code sober except}. */
@Command(
    name = "except",
    mixinStandardHelpOptions = true,
    description = {
      "Shows what keeping somebody out of an admin scope would do: whom its administrators lose.",
      "With --write the scope is also changed in the workspace.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober except joiners jmerrin",
      "  sober except glasshouses \"group glass-coordinators\" --groups both"
    })
final class ExceptCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();
  @Mixin private Proposing proposing = new Proposing();
  @Mixin private ScopeAndWhom scope = new ScopeAndWhom();

  @Override
  public Integer call() {
    return proposing.run(scope.proposal(inputs, false), inputs);
  }
}
