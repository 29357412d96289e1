package org.sobercompass.cli;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.sources.text.Moments;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober assign}. */
@Command(
    name = "assign",
    mixinStandardHelpOptions = true,
    description = {
      "Shows what giving a role would do: who gains what, which findings begin and end.",
      "With --write the assignment is also written into the workspace.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober assign permits clerk tova.quill --at vault",
      "  sober assign orders payer joss.merrin --everywhere",
      "  sober assign rounds foreman \"group vault-leads\" --at arboretum --until 2026-12-31"
    })
final class AssignCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();
  @Mixin private Proposing proposing = new Proposing();

  @Parameters(index = "0", paramLabel = "APP", description = "the application")
  private String application = "";

  @Parameters(index = "1", paramLabel = "ROLE", description = "the role")
  private String role = "";

  @Parameters(
      index = "2..*",
      arity = "1..*",
      paramLabel = "WHO",
      description = "accounts by name; \"group NAME\", \"unit NAME\", \"implicit everyone\"")
  private List<String> whom = new ArrayList<>();

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

  @Override
  public Integer call() {
    return proposing.run(new Proposal("", steps(inputs, whatIsGiven())), inputs);
  }

  private Given whatIsGiven() {
    return new Given(application, role, whom, at, everywhere, hereOnly, from, until);
  }

  /** A role at nodes for some subjects, as it was typed. */
  record Given(
      String application,
      String role,
      List<String> whom,
      List<String> at,
      boolean everywhere,
      boolean hereOnly,
      @Nullable String from,
      @Nullable String until) {}

  private static List<Step> steps(Inputs inputs, Given given) {
    SystemView view = inputs.names().application(given.application);
    int role = inputs.names().role(view, given.role);
    Optional<Instant> from = moment(inputs, "--from", given.from, false);
    Optional<Instant> until = moment(inputs, "--until", given.until, true);
    if (from.isPresent() && until.isPresent() && !from.get().isBefore(until.get())) {
      throw new UsageException("--until is before --from; expected a later day");
    }
    List<Step> steps = new ArrayList<>();
    for (String node : nodes(view, given)) {
      int number = inputs.names().node(view, node);
      for (String who : given.whom) {
        int subject = inputs.names().subject(who);
        steps.add(
            new Step.Assign(
                new Step.Assignment(
                    view.id(),
                    view.system().roles().get(role).id(),
                    inputs.model().facts().key(subject),
                    view.resources().id(number),
                    !given.hereOnly,
                    from,
                    until)));
      }
    }
    return steps;
  }

  /** Where the application has a tree, "everywhere" is said in words. */
  private static List<String> nodes(SystemView view, Given given) {
    if (given.everywhere != given.at.isEmpty() && view.resources().size() > 1) {
      throw new UsageException(
          given.everywhere
              ? "--everywhere and --at exclude each other; expected one of them"
              : view.system().name()
                  + " has "
                  + view.resources().size()
                  + " nodes; expected --at NODE, or --everywhere");
    }
    return given.at.isEmpty() ? List.of("") : given.at;
  }

  private static Optional<Instant> moment(
      Inputs inputs, String option, @Nullable String text, boolean isEnd) {
    if (text == null) {
      return Optional.empty();
    }
    var zone = inputs.workspace().zone();
    Optional<Instant> at = isEnd ? Moments.end(text, zone) : Moments.begin(text, zone);
    if (at.isEmpty()) {
      throw new UsageException(option + " " + text + " is no date; expected " + Moments.EXPECTED);
    }
    return at;
  }
}
