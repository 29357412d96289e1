package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.organization.Mapping;
import org.sobercompass.organization.Names;
import org.sobercompass.sources.text.Window;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** {@code sober assign}. */
@Command(
    name = "assign",
    mixinStandardHelpOptions = true,
    description = {
      "Shows what giving a role, or rights by a list, would do: who gains what, which findings"
          + " begin.",
      "With --write the assignment is also written into the workspace; entries of lists are"
          + " written",
      "by sober amend and sober carry-out.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober assign permits clerk tova.quill --at vault",
      "  sober assign orders payer joss.merrin --everywhere",
      "  sober assign rounds foreman \"group vault-leads\" --at arboretum --until 2026-12-31",
      "  sober assign seedbook vault-lender nell.dunmore --at vault --derive lender --with"
          + " exports=view",
      "  sober assign desks set-password+unlock \"group glass-coordinators\" --at \"Seed Vault\"",
      "  sober assign fernstore read hpine --at /srv/fernhollow/treasury --here-only",
      "  sober assign fieldbook select \"group observers\" --at /fieldbook/obs"
    })
final class AssignCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();
  @Mixin private Proposing proposing = new Proposing();

  @Mixin private RoleAndWhom role = new RoleAndWhom();

  @Option(names = "--at", paramLabel = "NODE", description = "the node; can be repeated")
  private List<String> at = new ArrayList<>();

  @Option(names = "--everywhere", description = "at the top of the application, and below")
  private boolean everywhere;

  @Option(names = "--here-only", description = "not below the node")
  private boolean hereOnly;

  @Option(names = "--from", paramLabel = "DAY", description = "the first day (default: at once)")
  private @Nullable String from;

  @Option(names = "--until", paramLabel = "DAY", description = "the last day (default: no end)")
  private @Nullable String until;

  @Option(
      names = "--switched-off",
      description = "kept, but not counted; the same without it switches it on again")
  private boolean off;

  @Option(
      names = "--derive",
      paramLabel = "ROLE",
      description = "the role is a new one, which starts as a copy of this one")
  private @Nullable String derive;

  @Option(
      names = "--with",
      paramLabel = "AREA=LEVEL",
      description = "what the new role allows otherwise; can be repeated")
  private List<String> with = new ArrayList<>();

  @Override
  public Integer call() {
    Window window = window();
    List<Step> steps = new ArrayList<>();
    if (derive == null && !with.isEmpty()) {
      throw new UsageException("--with says what a new role allows; expected --derive ROLE too");
    }
    if (derive != null) {
      Step creates =
          inputs
              .names()
              .settings()
              .deriving(role.application, role.role, derive, AreaWords.all(with));
      steps.add(creates);
      inputs.expecting(new Proposal("", steps));
    }
    Mapping mapping = inputs.names().mapping();
    for (String node : nodes(mapping)) {
      for (String who : role.whom) {
        steps.addAll(giving(mapping, who, node, window));
      }
    }
    return proposing.run(new Proposal("", steps).switching(inputs.assessment().model()), inputs);
  }

  private List<Step> giving(Mapping mapping, String who, String node, Window window) {
    if (!off) {
      return mapping.giving(role.application, role.role, who, node, !hereOnly, window);
    }
    if (mapping.lists(role.application).isPresent()) {
      throw new UsageException("entries of lists cannot be switched off; expected sober withdraw");
    }
    return List.of(
        new Step.Assign(
            inputs
                .names()
                .assignment(role.application, role.role, who, node, !hereOnly, window)
                .switched(false)));
  }

  private Window window() {
    Problems problems = new Problems();
    Window window =
        Window.read(
            from == null ? "" : from,
            until == null ? "" : until,
            inputs.workspace().zone(),
            Place.of("assign"),
            problems);
    for (Problem problem : problems.list()) {
      throw new UsageException(problem.toString());
    }
    return window;
  }

  /** Where the application has a tree, "everywhere" is said in words. */
  private List<String> nodes(Mapping mapping) {
    Optional<SystemView> lists = mapping.lists(role.application);
    if (lists.isPresent() && at.isEmpty()) {
      throw new UsageException(
          "it is not said in whose list; expected --at and a node of "
              + lists.get().system().name());
    }
    if (lists.isPresent()) {
      return at;
    }
    SystemView view = inputs.names().withRoles(role.application);
    if (everywhere && !at.isEmpty()) {
      throw new UsageException("--everywhere and --at exclude each other; expected one of them");
    }
    if (!everywhere && at.isEmpty() && Names.isOfScopes(view)) {
      throw new UsageException(
          "an admin role is given over a scope; expected --at SCOPE, or --everywhere");
    }
    if (!everywhere && at.isEmpty() && view.resources().size() > 1) {
      throw new UsageException(
          view.system().name()
              + " has "
              + view.resources().size()
              + " nodes; expected --at NODE, or --everywhere");
    }
    return at.isEmpty() ? List.of("everywhere") : at;
  }
}
