package org.sobercompass.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.proposal.AsIn;
import org.sobercompass.core.proposal.FormerIds;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.ReadyMade;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.organization.Organization;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober propose}. */
@Command(
    name = "propose",
    mixinStandardHelpOptions = true,
    description = {
      "Makes a proposal that is often needed, and shows what it would do.",
      "With --keep it is kept for sober preview; with --write it is also written.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober propose like ilse.brandt nell.dunmore     who gets what somebody else is given",
      "  sober propose leave petra.vance                 a person leaves, with all their accounts",
      "  sober propose move nell.dunmore oskar.lund tova.quill",
      "                                                  from the work of one to that of another",
      "  sober propose agreed permits                    actual assignments as they were intended",
      "  sober propose by-group doors-night maren.holt   a group in place of direct assignments",
      "  sober propose new-group doors-dusk maren.holt   a group of the kind of one she is in",
      "  sober propose delete petra.vance                accounts, or a group: what names them"
          + " first",
      "  sober propose present-ids                       entries that name ids of an earlier"
          + " directory",
      "  sober propose setting seedbook:sight:nesting none",
      "                                                  what an application sees, and the like",
      "  sober propose end disabled-account              what ends all findings of a kind",
      "  sober propose as-in before.survey               as it was in a survey, or in a copy",
      "  sober propose disable petra.vance ilse.brandt   accounts that cannot sign in any more",
      "  sober propose hosts ilse.brandt office-3        from where she may sign in; none for all",
      "  sober propose primary-group weather-station ilse.brandt",
      "  sober propose expire 2026-12-31 petra.vance     accounts that end after a day"
    })
final class ProposeCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();
  @Mixin private Proposing proposing = new Proposing();

  @Parameters(
      index = "0",
      paramLabel = "WHAT",
      description =
          "like, leave, move, agreed, by-group, new-group, delete, present-ids, setting, end,"
              + " as-in, disable, enable, expire, hosts or primary-group")
  private String what = "";

  @Parameters(
      index = "1..*",
      paramLabel = "NAME",
      description = "accounts by name; an application; a kind of finding")
  private List<String> names = new ArrayList<>();

  @Option(
      names = "--of-kind",
      paramLabel = "GROUP",
      description =
          "of a new group: it stands where this one does and has its object classes (default: one"
              + " that its first member is in)")
  private @Nullable String ofKind;

  @Override
  public Integer call() {
    if (what.equals("present-ids")) {
      inputs.open(Set.of(FormerIds.ATTRIBUTE));
    }
    ReadyMade made = new ReadyMade(inputs.assessment().model());
    Map<String, Supplier<Integer>> kinds = kinds(made);
    Supplier<Integer> kind = kinds.get(what);
    if (kind == null) {
      String nearest = Spelling.hint(what, kinds.keySet());
      throw new UsageException(
          "cannot propose "
              + what
              + "; expected one of "
              + String.join(", ", kinds.keySet())
              + nearest);
    }
    int code = kind.get();
    made.left().forEach(line -> inputs.err().println("Not in it: " + line + "."));
    return code;
  }

  private Map<String, Supplier<Integer>> kinds(ReadyMade made) {
    Map<String, Supplier<Integer>> kinds = new LinkedHashMap<>();
    kinds.put(
        "like",
        () -> {
          expect(2, "that account, and who gets the same");
          return proposing.run(made.like(account(0), account(1)), inputs);
        });
    kinds.put("leave", () -> leave(made));
    kinds.put(
        "move",
        () -> {
          expect(3, "who moves, from like whom, to like whom");
          return proposing.run(made.moving(account(0), account(1), account(2)), inputs);
        });
    kinds.put(
        "agreed",
        () ->
            proposing.run(
                made.agreed(inputs.applications(names.isEmpty() ? "" : names.get(0))), inputs));
    kinds.put("by-group", () -> proposing.run(byGroup(made), inputs));
    kinds.put("new-group", () -> proposing.run(newGroup(), inputs));
    kinds.put("delete", () -> proposing.run(delete(made), inputs));
    kinds.put("present-ids", () -> presentIds(made));
    kinds.put("setting", () -> proposing.run(setting(), inputs));
    kinds.put("end", this::end);
    kinds.put("as-in", this::asIn);
    kinds.put("disable", () -> proposing.run(states().switched(true), inputs));
    kinds.put("enable", () -> proposing.run(states().switched(false), inputs));
    kinds.put("expire", () -> proposing.run(states().expiring(), inputs));
    kinds.put("hosts", () -> proposing.run(states().hosts(), inputs));
    kinds.put("primary-group", () -> proposing.run(states().primaryGroup(), inputs));
    return kinds;
  }

  /** The group may be a new one, which is created first. */
  private Proposal byGroup(ReadyMade made) {
    if (names.size() < 2) {
      throw new UsageException("by-group takes a group, and accounts that are to be in it");
    }
    if (ofKind == null) {
      return made.byGroup(inputs.names().group(names.get(0)), accounts());
    }
    Proposal creates = inputs.expecting(ReadyMade.creating(group(), List.of()));
    return creates.then(
        new ReadyMade(inputs.assessment().model())
            .byGroup(inputs.names().group(names.get(0)), accounts()));
  }

  /** Several values are a list. */
  private Proposal setting() {
    if (names.isEmpty()) {
      throw new UsageException(
          "setting takes an application and keys, such as seedbook:sight:nesting, and a value");
    }
    List<String> values = names.subList(1, names.size());
    String value = values.size() < 2 ? String.join("", values) : values.toString();
    return new Proposal("", List.of(inputs.names().settings().setting(names.get(0), value)));
  }

  private List<Integer> accounts() {
    return IntStream.range(1, names.size()).map(this::account).boxed().toList();
  }

  private Proposal newGroup() {
    if (names.isEmpty()) {
      throw new UsageException("new-group takes a name, and who is in it from the beginning");
    }
    Facts facts = inputs.model().facts();
    List<Key> members = accounts().stream().map(facts::key).toList();
    return ReadyMade.creating(group(), members);
  }

  private Step.Presence group() {
    return new NewGroup(inputs).named(names.get(0), ofKind, names.subList(1, names.size()));
  }

  private Proposal delete(ReadyMade made) {
    if (names.isEmpty()) {
      throw new UsageException("delete takes accounts, or groups as \"group NAME\"");
    }
    return made.deleting(names.stream().map(inputs.names()::subject).toList());
  }

  /** Says also which former ids nothing rests on any more, then or now. */
  private int presentIds(ReadyMade made) {
    expect(0, "");
    AccessModel model = inputs.assessment().model();
    int code = proposing.run(made.presentIds(), inputs);
    for (FormerIds.Former former : FormerIds.of(model)) {
      inputs
          .err()
          .println(
              Words.subject(model.facts(), former.bearer())
                  + " keeps the former id "
                  + former.id()
                  + (former.entries() == 0
                      ? "; no entry and no owner that was read rests on it, so it can be taken"
                          + " away."
                      : "; "
                          + former.entries()
                          + (former.entries() == 1
                              ? " entry or owner rests on it."
                              : " entries or owners rest on it.")));
    }
    return code;
  }

  private int asIn() {
    expect(1, "a survey, or the folder of another workspace");
    Path path = Path.of(names.get(0));
    Organization other =
        Files.isDirectory(path) ? Organization.open(path) : Organization.ofSurvey(path);
    AsIn.Answer answer = AsIn.of(inputs.assessment().model(), other.assessment().model());
    int code = proposing.run(answer.proposal(), inputs);
    answer.left().forEach(line -> inputs.err().println("Not in it: " + line + "."));
    return code;
  }

  private AccountProposals states() {
    return new AccountProposals(inputs, what, names);
  }

  private void expect(int count, String which) {
    if (names.size() != count) {
      throw new UsageException(
          what + " takes " + count + (count == 1 ? " name" : " names") + ": " + which);
    }
  }

  private int account(int at) {
    return inputs.names().account(names.get(at));
  }

  /** Says also what is left then, since it comes by no step. */
  private int leave(ReadyMade made) {
    expect(1, "an account of the person");
    List<Integer> accounts = inputs.assessment().persons().accounts(account(0));
    Proposal proposal = made.leaving(accounts);
    int code = proposing.run(proposal, inputs);
    AccessModel after = inputs.model().with(proposal.on(inputs.model()).changes());
    for (int account : accounts) {
      List<Holding> left = after.asker().holdings(account);
      if (!left.isEmpty()) {
        Set<String> where = new LinkedHashSet<>();
        left.forEach(h -> where.add(after.systems().get(h.system()).system().name()));
        inputs
            .err()
            .println(
                Words.subject(after.facts(), account)
                    + " keeps "
                    + left.size()
                    + " permissions that come to everyone, by a place in the directory or by lists,"
                    + " in "
                    + String.join(", ", where)
                    + ".");
      }
    }
    return code;
  }

  /**
   * The removals that end all findings of a kind; those that somebody has to decide are counted.
   */
  private int end() {
    expect(1, "a kind of finding");
    String kind = names.get(0);
    List<Finding> findings =
        inputs.organization().findings().stream().filter(f -> f.kind().id().equals(kind)).toList();
    if (findings.isEmpty()) {
      throw new UsageException(
          "there is no finding of the kind " + kind + "; sober findings lists what there is");
    }
    boolean redundant = kind.equals(FindingKind.REDUNDANT_ASSIGNMENT.id());
    Set<Step> steps = new LinkedHashSet<>();
    int decided = 0;
    for (Finding finding : findings) {
      Advice advice = inputs.organization().advice(finding);
      Proposal own = Proposal.of("", inputs.assessment().model(), advice.changes());
      // Of two that cover each other one stays: with the first gone the other is needed.
      boolean fits = !own.steps().isEmpty() && !(redundant && changesAnything(steps, own));
      if (fits) {
        steps.addAll(own.steps());
      }
      decided += fits ? 0 : 1;
    }
    int code = proposing.run(new Proposal("end " + kind, List.copyOf(steps)), inputs);
    if (decided > 0) {
      inputs
          .err()
          .println(
              decided
                  + " of "
                  + findings.size()
                  + " findings are not in it: somebody has to decide,"
                  + " or another removal makes them needed.");
    }
    return code;
  }

  private boolean changesAnything(Set<Step> steps, Proposal next) {
    Proposal all = new Proposal("", List.copyOf(steps)).then(next);
    return !Effects.of(inputs.model(), all.on(inputs.model()).changes()).isNone();
  }
}
