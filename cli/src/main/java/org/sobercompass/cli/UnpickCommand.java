package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.organization.Account;
import org.sobercompass.organization.Organization;
import org.sobercompass.report.answers.UnpickAnswers;
import org.sobercompass.report.findings.FindingWords;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober unpick}. */
@Command(
    name = "unpick",
    mixinStandardHelpOptions = true,
    description = {
      "Tells the smallest removals that end permissions of an account, or a finding, and other"
          + " ways.",
      "Each way says what it takes away besides. Nothing is changed.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober unpick ilse.brandt orders:payments:sign",
      "  sober unpick tova.quill permits:permits:issue --at vault",
      "  sober unpick ilse.brandt orders:payments:sign orders:orders:raise   both together",
      "  sober unpick m8za0f   a finding, by its id"
    })
final class UnpickCommand implements Callable<Integer> {
  private static final int MOST = 3;

  @Mixin private Inputs inputs = new Inputs();

  @Parameters(
      index = "0",
      paramLabel = "ACCOUNT|FINDING",
      description = "an account by login, mail, name, DN or id; or the id of a finding")
  private String what = "";

  @Parameters(
      index = "1..*",
      paramLabel = "PERMISSION",
      description = "application:area:level, of an account; several are to end together")
  private List<String> permissions = new ArrayList<>();

  @Option(names = "--at", paramLabel = "NODE", description = "the node (default: the top)")
  private String at = "";

  @Option(
      names = "--way",
      paramLabel = "N",
      description = "with --keep: which of the ways (default: 1)")
  private int way = 1;

  @Option(
      names = "--keep",
      paramLabel = "FILE",
      description = "keep the way as a proposal in this .yaml file, for sober preview")
  private @Nullable Path keep;

  @Override
  public Integer call() {
    return permissions.isEmpty() ? ofFinding() : ofHoldings();
  }

  private int ofFinding() {
    Finding finding = FindingsCommand.one(what, inputs.organization().findings());
    List<Removal> ways = inputs.organization().unpick(finding, MOST);
    if (ways.isEmpty()) {
      throw new UsageException(
          what
              + ": no removal is looked for; somebody has to decide: "
              + FindingWords.of(finding).advice());
    }
    return tell(finding.kind().id() + " (" + what + ")", ways);
  }

  private int ofHoldings() {
    int who = inputs.names().account(what);
    Organization organization = inputs.organization();
    Account account = organization.account(who);
    String name = Words.subject(inputs.model().facts(), who);
    List<Asked.Use> held = new ArrayList<>();
    Set<String> where = new LinkedHashSet<>();
    for (String permission : permissions) {
      Asked.Use asked = inputs.names().at(inputs.names().permission(permission), at);
      if (organization.can(account, asked).held() == Verdict.NO) {
        throw new UsageException(
            permission
                + " of "
                + name
                + place(asked)
                + " is not held; sober routes tells what stops it");
      }
      held.add(asked);
      where.add(place(asked));
    }
    String ended = String.join(" and ", permissions) + " of " + name + String.join("", where);
    return tell(ended, organization.unpick(account, held, MOST));
  }

  private static String place(Asked.Use asked) {
    return asked.view().resources().size() > 1
        ? " at " + asked.view().resources().name(asked.question().resource())
        : "";
  }

  private int tell(String ended, List<Removal> ways) {
    UnpickAnswers answers = new UnpickAnswers(inputs.ask(), inputs.assessment());
    inputs.print(inputs.isTable() ? answers.brief(ended, ways) : answers.unpick(ended, ways));
    if (keep != null) {
      if (way < 1 || way > ways.size() || ways.get(way - 1).changes().isEmpty()) {
        throw new UsageException("--way " + way + ": there are " + ways.size() + " ways");
      }
      Proposing.keep(proposal(ways.get(way - 1), ended), keep, inputs);
    }
    return ways.get(0).changes().isEmpty() ? Exit.NO : Exit.OK;
  }

  private Proposal proposal(Removal way, String ended) {
    return Proposal.of("end " + ended, inputs.assessment().model(), way.changes());
  }
}
