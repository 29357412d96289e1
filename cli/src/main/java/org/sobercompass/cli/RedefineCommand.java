package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.roles.RoleApplication;
import org.sobercompass.core.system.roles.RoleDefinition;
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
    if (!(view.system() instanceof RoleApplication roles)) {
      throw new UsageException(view.system().name() + " has no roles of its own");
    }
    RoleDefinition was = roles.written().get(number);
    List<Step> steps = new ArrayList<>();
    for (String entry : entries) {
      int equals = entry.indexOf('=');
      if (equals < 0) {
        throw new UsageException(entry + ": expected AREA=LEVEL, or AREA= for no entry");
      }
      String area = entry.substring(0, equals);
      String words = entry.substring(equals + 1);
      steps.add(
          new Step.Role(
              view.id(),
              was.id(),
              area,
              was.own(area),
              words.isEmpty() ? List.of() : List.of(words.split(","))));
    }
    if (!include.isEmpty() || !drop.isEmpty()) {
      List<String> includes = new ArrayList<>(was.includes());
      for (String gone : drop) {
        if (!includes.remove(gone)) {
          throw new UsageException(was.id() + " does not include " + gone);
        }
      }
      include.stream().filter(one -> !includes.contains(one)).forEach(includes::add);
      steps.add(new Step.Role(view.id(), was.id(), "", was.includes(), includes));
    }
    if (steps.isEmpty()) {
      throw new UsageException("expected AREA=LEVEL, --include or --drop");
    }
    return proposing.run(new Proposal("", steps), inputs);
  }
}
