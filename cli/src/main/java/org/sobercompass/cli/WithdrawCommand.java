package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.organization.Mapping;
import org.sobercompass.organization.Names;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** {@code sober withdraw}. */
@Command(
    name = "withdraw",
    mixinStandardHelpOptions = true,
    description = {
      "Shows what withdrawing a role, or rights by a list, would do: who loses what.",
      "With --write the assignment is also taken out of the workspace; entries of lists are taken",
      "out by sober amend and sober carry-out.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober withdraw doors holder maren.holt",
      "  sober withdraw orders clerk \"group orders-raisers\"",
      "  sober withdraw desks set-password \"group desk-helpers\" --at Herbarium"
    })
final class WithdrawCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();
  @Mixin private Proposing proposing = new Proposing();

  @Mixin private RoleAndWhom role = new RoleAndWhom();

  @Option(
      names = "--at",
      paramLabel = "NODE",
      description = "the node, where the role is given at several")
  private String at = "";

  @Override
  public Integer call() {
    Mapping mapping = inputs.names().mapping();
    Optional<SystemView> lists = mapping.lists(role.application);
    if (lists.isPresent()) {
      List<Step> steps = new ArrayList<>();
      role.whom.forEach(who -> steps.addAll(mapping.taking(lists.get(), role.role, who, at)));
      return proposing.run(new Proposal("", steps), inputs);
    }
    SystemView view = inputs.names().withRoles(role.application);
    int number = inputs.names().role(view, role.role);
    String node = at.isEmpty() ? "" : where(view);
    List<Change> changes = new ArrayList<>();
    for (String who : role.whom) {
      changes.addAll(withdrawn(view, number, node, who));
    }
    return proposing.run(Proposal.of("", inputs.assessment().model(), changes), inputs);
  }

  private String where(SystemView view) {
    return Names.isOfScopes(view)
        ? at.equals("everything") ? at : inputs.names().scope(at).id()
        : view.resources().id(inputs.names().node(view, at));
  }

  /** The one assignment that is meant. */
  private List<Change> withdrawn(SystemView view, int number, String node, String who) {
    int subject = inputs.names().subject(who);
    List<Change> found = new ArrayList<>();
    for (int g = 0; g < view.grants().size(); g++) {
      Grant grant = view.grants().get(g);
      boolean meant =
          grant.role() == number
              && grant.subject() == subject
              && !grant.declared()
              && (node.isEmpty() || Names.where(view, g).equals(node));
      if (meant) {
        found.add(new Change.AssignmentRemoved(view.number(), g));
      }
    }
    String given = "given the role " + role.role + " of " + view.system().name();
    if (found.isEmpty()) {
      throw new UsageException(
          who
              + " is not "
              + given
              + (at.isEmpty() ? " itself" : " itself at " + at)
              + "; sober routes tells by what it comes");
    }
    if (found.size() > 1) {
      throw new UsageException(
          who
              + " is "
              + given
              + " "
              + found.size()
              + " times, at different nodes or times; expected --at NODE, or a table for preview");
    }
    return found;
  }
}
