package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.RoleSteps;
import org.sobercompass.core.proposal.Step;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober redefine}. */
@Command(
    name = "redefine",
    mixinStandardHelpOptions = true,
    description = {
      "Shows what writing a role otherwise would do for everybody who has it.",
      "With --write the role is also changed in the application's file.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober redefine orders clerk payments=view      a level for an area",
      "  sober redefine orders payer orders=            no entry of its own for an area",
      "  sober redefine orders clerk --include auditor",
      "  sober redefine orders standin-buyer --drop payer"
    })
final class RedefineCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();
  @Mixin private Proposing proposing = new Proposing();

  @Parameters(index = "0", paramLabel = "APP", description = "the application")
  private String application = "";

  @Parameters(index = "1", paramLabel = "ROLE", description = "the role")
  private String role = "";

  @Parameters(
      index = "2..*",
      arity = "0..*",
      paramLabel = "AREA=LEVEL",
      description = "what it allows in an area: a level and actions, joined by commas, or nothing")
  private List<String> entries = new ArrayList<>();

  @Option(names = "--include", paramLabel = "ROLE", description = "a role it is to include")
  private List<String> include = new ArrayList<>();

  @Option(names = "--drop", paramLabel = "ROLE", description = "a role it is not to include")
  private List<String> drop = new ArrayList<>();

  @Override
  public Integer call() {
    SystemView view = inputs.names().application(application);
    int number = inputs.names().role(view, role);
    RoleSteps making =
        RoleSteps.of(view, number)
            .orElseThrow(
                () -> new UsageException(view.system().name() + " has no roles of its own"));
    List<Step> steps = new ArrayList<>();
    for (String entry : entries) {
      int equals = entry.indexOf('=');
      if (equals < 0) {
        throw new UsageException(entry + ": expected AREA=LEVEL, or AREA= for no entry");
      }
      String words = entry.substring(equals + 1);
      steps.add(
          making.allowing(
              entry.substring(0, equals), words.isEmpty() ? List.of() : List.of(words.split(","))));
    }
    for (String gone : drop) {
      if (!making.includes().contains(gone)) {
        throw new UsageException(role + " does not include " + gone);
      }
    }
    if (!include.isEmpty() || !drop.isEmpty()) {
      steps.add(making.including(include, drop));
    }
    if (steps.isEmpty()) {
      throw new UsageException("expected AREA=LEVEL, --include or --drop");
    }
    return proposing.run(new Proposal("", steps), inputs);
  }
}
