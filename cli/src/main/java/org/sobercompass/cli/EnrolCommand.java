package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.RegisterSteps;
import org.sobercompass.core.proposal.Step;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober enrol}. */
@Command(
    name = "enrol",
    mixinStandardHelpOptions = true,
    description = {
      "Shows what enrolling somebody in an application's own register would do, or striking off.",
      "A line that is not active gives way to an active one. With --write it is also done.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober enrol rounds gil.wick --second-factor",
      "  sober enrol seedbook --off \"group volunteers\""
    })
final class EnrolCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();
  @Mixin private Proposing proposing = new Proposing();

  @Parameters(index = "0", paramLabel = "APP", description = "the application")
  private String application = "";

  @Parameters(
      index = "1..*",
      arity = "1..*",
      paramLabel = "WHO",
      description = "accounts by name; \"group NAME\"")
  private List<String> whom = new ArrayList<>();

  @Option(names = "--off", description = "strike them off the register")
  private boolean off;

  @Option(names = "--not-active", description = "enrol them, without the right to use it yet")
  private boolean notActive;

  @Option(names = "--second-factor", description = "a second factor is registered")
  private boolean secondFactor;

  @Option(
      names = "--sign-in",
      paramLabel = "KIND",
      description = "the kind of sign-in (default: ${DEFAULT-VALUE})")
  private String signIn = "directory";

  @Option(names = "--place", paramLabel = "PLACE", description = "where in the application")
  private String place = "";

  @Override
  public Integer call() {
    SystemView view = inputs.names().application(application);
    RegisterSteps making = new RegisterSteps(inputs.model(), view);
    List<Step> steps = new ArrayList<>();
    for (String who : whom) {
      int subject = inputs.names().subject(who);
      List<Step> own =
          off
              ? making.strike(subject)
              : making.enrol(subject, signIn, !notActive, secondFactor, place);
      if (own.isEmpty()) {
        throw new UsageException(
            who + " is not in the register of " + view.system().name() + " itself");
      }
      steps.addAll(own);
    }
    return proposing.run(new Proposal("", steps), inputs);
  }
}
