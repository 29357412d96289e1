package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Callable;
import org.sobercompass.core.access.Gaps;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.AdminCheck;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.AttributeCheck;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.Completeness;
import org.sobercompass.core.problem.Gap;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.readiness.MappingCheck;
import org.sobercompass.core.readiness.ReadinessCheck;
import org.sobercompass.core.readiness.SightFill;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.workspace.SchemaCheck;
import org.sobercompass.sources.workspace.SourceCheck;
import org.sobercompass.sources.workspace.Workspace;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

/** {@code sober check}. */
@Command(
    name = "check",
    mixinStandardHelpOptions = true,
    description = {
      "Checks the whole workspace and lists everything that is wrong, in the order to mend it.",
      "Directories that are read live are contacted too.",
      ""
    },
    footer = {"", "Examples, on the demo:", "  sober check", "  sober check --format json"})
final class CheckCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();
  private List<Gap> gaps = List.of();
  private final List<String> published = new ArrayList<>();

  @Override
  public Integer call() {
    SourceCheck.Found sources =
        inputs.survey == null
            ? SourceCheck.run(inputs.root, Secret.Origins.PROCESS)
            : new SourceCheck.Found(List.of(), List.of(), false);
    Workspace workspace;
    try {
      workspace = inputs.open(ReadinessCheck.NEEDS);
    } catch (BadInputException e) {
      sources.problems().forEach(problem -> inputs.err().println(problem));
      throw e;
    }
    if (inputs.survey == null) {
      SchemaCheck.run(inputs.root).throwIfErrors();
    }
    MappingCheck mapping = new MappingCheck(inputs.model());
    List<Problem> problems = new ArrayList<>(sources.problems());
    problems.addAll(workspace.problems());
    problems.addAll(mapping.run());
    problems.addAll(administration(workspace, problems));
    problems.addAll(AttributeCheck.run(inputs.model(), workspace.administration()));
    gaps.stream()
        .filter(Gap::isMendable)
        .map(gap -> Problem.warning(Place.of(gap.sources().get(0)), gap.words(), gap.mend()))
        .forEach(problems::add);
    inputs.model().facts().arrays().completeness().stream()
        .filter(c -> c.withheld() > 0)
        .map(
            c ->
                Problem.warning(
                    Place.of(c.source()),
                    AnswerContext.count(c.withheld(), "entry does", "entries do")
                        + " not show "
                        + c.attribute()
                        + ", which their class requires",
                    "a reading account that may see it; what depends on it is undecided until"
                        + " then"))
        .forEach(problems::add);
    AnswerTable.Builder sheet =
        new AnswerContext(inputs.model(), workspace.zone(), List.of())
            .begin("problems/1", "severity", "place", "what", "expected", "nearest");
    problems.forEach(problem -> row(problem, sheet));
    facts(workspace, !inputs.isTable(), sheet);
    sources.reached().forEach(sheet::note);
    published.forEach(
        name ->
            sheet.note(
                name
                    + ": attributes, classes and extended rights are named as published. For its"
                    + " own names, put an export of cn=Configuration under names: in"
                    + " compass.yaml."));
    gaps.stream()
        .filter(gap -> !gap.isMendable())
        .forEach(gap -> sheet.note(FindingAnswers.capital(gap.words()) + "."));
    Map<String, MappingCheck.Summary> summaries = mapping.readiness();
    for (SystemView view : inputs.model().systems()) {
      MappingCheck.Summary summary = summaries.get(view.id());
      String ready = summary == null ? "nobody is given anything" : words(summary);
      sheet.note(view.id() + ": " + ready + seen(view, mapping) + fills(view));
    }
    sheet.heading(
        problems.isEmpty()
            ? "The workspace can be read, and nothing is wrong with it."
            : (sources.unreachable()
                    ? "A directory cannot be reached; the workspace can be read; "
                    : "The workspace can be read; ")
                + AnswerContext.count(problems.size(), "thing needs", "things need")
                + " a look.");
    inputs.print(sheet.build());
    return sources.unreachable() ? Exit.SOURCE : problems.isEmpty() ? Exit.OK : Exit.NO;
  }

  /**
   * What is wrong with admin scopes and roles; directories' lists are read only if there are any.
   */
  private List<Problem> administration(Workspace workspace, List<Problem> sofar) {
    Administration all = workspace.administration();
    boolean administered = !all.scopes().isEmpty() || !all.grants().isEmpty();
    Problems told = new Problems();
    Powers powers = workspace.powers(inputs.model(), told);
    List<Problem> found = new ArrayList<>(told.list());
    if (administered) {
      found.addAll(new AdminCheck(powers).run());
    }
    powers.trees().all().forEach(tree -> names(tree, found));
    List<Gap> unread = new ArrayList<>(powers.gaps());
    unread.addAll(Gaps.ofSystems(inputs.model()));
    gaps = List.copyOf(unread);
    found.removeAll(sofar);
    return found;
  }

  /** What the export of a directory with lists lacks of its schema, and what that costs. */
  private void names(DirectoryTree tree, List<Problem> found) {
    if (!tree.names().hasOwnClasses()) {
      found.add(
          Problem.warning(
              Place.of(tree.directory()),
              "the schema of "
                  + tree.directory()
                  + " was not exported, so what a class gives by default is taken for delegated",
              "cn=Schema,cn=Configuration in the export, or in a file beside it as names:"));
    } else if (!tree.names().isWhole()) {
      published.add(tree.directory());
    }
  }

  private static void row(Problem problem, AnswerTable.Builder sheet) {
    sheet.row(
        problem.severity().name().toLowerCase(Locale.ROOT),
        problem.place().toString(),
        problem.what(),
        problem.expected(),
        problem.nearest());
  }

  /**
   * What was read; in a terminal without how many entries show each attribute, which would be a
   * wall.
   */
  private static void facts(Workspace workspace, boolean all, AnswerTable.Builder sheet) {
    Facts facts = workspace.facts();
    int grants = workspace.systems().stream().mapToInt(s -> s.grants(s.usualBasis()).size()).sum();
    sheet
        .fact("accounts", facts.accounts())
        .fact("groups", facts.groups())
        .fact("organizational units", facts.arrays().units())
        .fact("memberships", facts.arrays().up().items())
        .fact("members that do not exist", facts.arrays().dangling().size())
        .fact("applications", workspace.systems().size())
        .fact("assignments", grants);
    for (Completeness c : facts.arrays().completeness()) {
      if (c.returned() > 0 && all) {
        String what = c.source() + " " + c.attribute();
        sheet.fact(what, c.returned() + " of " + c.asked() + " entries");
      }
    }
  }

  private static String seen(SystemView view, MappingCheck mapping) {
    if (view.admission().isOpen()) {
      return "; it asks for no sign-in.";
    }
    MappingCheck.Seen seen = mapping.seen(view);
    return "; it sees "
        + AnswerContext.count(seen.accounts(), "account", "accounts")
        + " and "
        + AnswerContext.count(seen.groups(), "group", "groups")
        + (seen.undecided() > 0 ? ", of " + seen.undecided() + " more it is not known." : ".");
  }

  /** The attributes that its sight needs and that not everybody has. */
  private String fills(SystemView view) {
    List<String> words = new ArrayList<>();
    for (SightFill.Fill fill : new SightFill(inputs.model(), view).fills()) {
      if (!fill.attribute().equals("objectclass") && fill.filled() < fill.of()) {
        words.add(
            fill.attribute()
                + ", which only "
                + fill.filled()
                + " of "
                + fill.of()
                + " "
                + fill.what()
                + (fill.filled() == 1 ? " has" : " have"));
      }
    }
    return words.isEmpty() ? "" : " It relies on " + String.join(", and on ", words) + ".";
  }

  private static String words(MappingCheck.Summary summary) {
    List<String> why = new ArrayList<>();
    summary.failures().forEach((condition, n) -> why.add(n + " " + condition.failing()));
    return summary.ready()
        + " of "
        + AnswerContext.count(summary.given(), "account", "accounts")
        + " with assignments can use it"
        + (why.isEmpty() ? "" : " (" + String.join(", ", why) + ")");
  }
}
