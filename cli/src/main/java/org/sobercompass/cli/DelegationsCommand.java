package org.sobercompass.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.Delegation;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.delegation.TrusteeKind;
import org.sobercompass.report.answers.DelegationAnswers;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** {@code sober delegations}. */
@Command(
    name = "delegations",
    mixinStandardHelpOptions = true,
    description = {
      "Lists the delegations in the directories' access control lists: who, what, over what.",
      "Defaults and inherited entries are left out unless --origin asks for them.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober delegations",
      "  sober delegations --at Herbarium",
      "  sober delegations --to person",
      "  sober delegations --action set-password",
      "  sober delegations --by holder --proof",
      "  sober delegations --tree"
    })
final class DelegationsCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Option(
      names = "--at",
      paramLabel = "OBJECT",
      description = "only delegations on this object and below")
  private @Nullable String at;

  @Option(
      names = "--holder",
      paramLabel = "NAME",
      description = "only delegations to this account or group")
  private @Nullable String holder;

  @Option(
      names = "--to",
      paramLabel = "KIND",
      description = "only to trustees of this kind: person, group, broad, nobody or system")
  private @Nullable TrusteeKind to;

  @Option(
      names = "--action",
      paramLabel = "ACTION",
      description = "only delegations that allow this admin action")
  private @Nullable String action;

  @Option(
      names = "--origin",
      paramLabel = "ORIGIN",
      split = ",",
      description =
          "added, claimed, provisioned, guarded, default, inherited (default: the first two)")
  private List<Origin> origins = new ArrayList<>();

  @Option(
      names = "--accepted",
      paramLabel = "SURVEY",
      description = "entries that are in this survey count as provisioned")
  private @Nullable Path accepted;

  @Option(
      names = "--by",
      paramLabel = "ORDER",
      description = "sort by object (default), holder or action")
  private DelegationAnswers.Order by = DelegationAnswers.Order.OBJECT;

  @Option(names = "--proof", description = "also each entry as it stands (SDDL)")
  private boolean proof;

  @Option(names = "--tree", description = "show the tree of organizational units with marks")
  private boolean tree;

  @Override
  public Integer call() {
    Administering all = new Administering(inputs, accepted);
    Optional<DirectoryTrees.Spot> spot = Optional.ofNullable(at).map(inputs.names().acts()::spot);
    if (tree) {
      tree(all, spot);
      return Exit.OK;
    }
    Set<Origin> wanted =
        origins.isEmpty() ? EnumSet.of(Origin.ADDED, Origin.CLAIMED) : EnumSet.copyOf(origins);
    var choice =
        new DelegationAnswers.Choice(
            spot, wanted, also(all), to != null || action != null || holder != null);
    inputs.print(
        inputs.isTable()
            ? all.delegations().brief(choice, by, proof)
            : all.delegations().list(choice, by));
    boolean known = spot.map(s -> s.tree().unreadable() == 0).orElse(all.powers().gaps().isEmpty());
    return known ? Exit.OK : Exit.UNDECIDED;
  }

  private Predicate<Delegation> also(Administering all) {
    Predicate<Delegation> also = d -> true;
    if (to != null) {
      TrusteeKind kind = to;
      also = also.and(d -> all.delegations().kind(d.trustee()) == kind);
    }
    if (action != null) {
      AdminAction wanted = inputs.names().acts().action(action);
      also = also.and(d -> d.actions().contains(wanted) || isAll(d));
    }
    if (holder != null) {
      int subject = inputs.names().acts().thing(holder).subject();
      String sid = all.powers().trees().sid(subject);
      also = also.and(d -> d.trustee().equals(sid));
    }
    return also;
  }

  private static boolean isAll(Delegation d) {
    return d.actions().stream().anyMatch(a -> a.id().equals("full-control"));
  }

  private void tree(Administering all, Optional<DirectoryTrees.Spot> spot) {
    inputs.noWorkbook();
    PrintWriter out = inputs.out();
    for (DirectoryTree one : all.powers().trees().all()) {
      if (spot.map(s -> s.tree() == one).orElse(one.size() > 0)) {
        for (int root = 0;
            root < one.size();
            root = spot.isPresent() ? one.size() : one.end(root)) {
          DirectoryTrees.Spot from = spot.orElse(new DirectoryTrees.Spot(one, root));
          out.println(all.delegations().tree().heading(from) + "\n");
          all.delegations().tree().text(from).forEach(out::println);
          out.println("\n" + DelegationAnswers.LEGEND);
        }
      }
    }
  }
}
