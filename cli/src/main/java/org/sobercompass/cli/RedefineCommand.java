package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.RoleSteps;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.organization.SettingWords;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober redefine}. */
@Command(
    name = "redefine",
    mixinStandardHelpOptions = true,
    description = {
      "Shows what writing a role otherwise, or deleting it, would do for everybody who has it.",
      "With --write the role is also changed in the application's file.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober redefine orders clerk payments=view      a level for an area",
      "  sober redefine orders payer orders=            no entry of its own for an area",
      "  sober redefine orders clerk --include auditor",
      "  sober redefine orders standin-buyer --drop payer",
      "  sober redefine seedbook vault-lender --derive lender exports=view   a new role",
      "  sober redefine doors holder --delete"
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

  @Option(
      names = "--deny",
      paramLabel = "AREA=LEVEL",
      description = "what it takes away in an area, or nothing")
  private List<String> deny = new ArrayList<>();

  @Option(
      names = "--derive",
      paramLabel = "ROLE",
      description = "the role is a new one, which starts as a copy of this one")
  private @Nullable String derive;

  @Option(
      names = "--delete",
      description = "the role is withdrawn from all who have it, and deleted")
  private boolean delete;

  @Override
  public Integer call() {
    SettingWords settings = inputs.names().settings();
    if (delete || derive != null) {
      if (!include.isEmpty()
          || !drop.isEmpty()
          || !deny.isEmpty()
          || (delete && (derive != null || !entries.isEmpty()))) {
        throw new UsageException(
            delete
                ? "--delete is said alone"
                : "with --derive only AREA=LEVEL is said; expected the rest once the role is"
                    + " there");
      }
      List<Step> steps =
          derive == null
              ? settings.deleting(application, role)
              : List.of(settings.deriving(application, role, derive, AreaWords.all(entries)));
      return proposing.run(new Proposal("", steps), inputs);
    }
    return written(settings);
  }

  private Integer written(SettingWords settings) {
    SystemView view = inputs.names().application(application);
    int number = inputs.names().role(view, role);
    RoleSteps making =
        RoleSteps.of(view, number)
            .orElseThrow(
                () -> new UsageException(view.system().name() + " has no roles of its own"));
    List<Step> steps = new ArrayList<>();
    AreaWords.all(entries).forEach((area, words) -> steps.add(making.allowing(area, words)));
    AreaWords.all(deny)
        .forEach((area, words) -> steps.add(settings.denying(application, role, area, words)));
    for (String gone : drop) {
      if (!making.includes().contains(gone)) {
        throw new UsageException(role + " does not include " + gone);
      }
    }
    if (!include.isEmpty() || !drop.isEmpty()) {
      steps.add(making.including(include, drop));
    }
    if (steps.isEmpty()) {
      throw new UsageException(
          "expected AREA=LEVEL, --include, --drop, --deny, --derive or --delete");
    }
    return proposing.run(new Proposal("", steps), inputs);
  }
}
