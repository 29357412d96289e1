package org.sobercompass.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

/** {@code sober include}. */
@Command(
    name = "include",
    mixinStandardHelpOptions = true,
    description = {
      "Shows what bringing somebody into an admin scope would do: whom its administrators gain.",
      "With --write the scope is also changed in the workspace.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober include glasshouses nlarkin",
      "  sober include joiners \"group desk-helpers\" --groups members"
    })
final class IncludeCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();
  @Mixin private Proposing proposing = new Proposing();
  @Mixin private ScopeAndWhom scope = new ScopeAndWhom();

  @Override
  public Integer call() {
    return proposing.run(scope.proposal(inputs, true), inputs);
  }
}
