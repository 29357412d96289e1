package org.sobercompass.cli;

import java.util.concurrent.Callable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.Completeness;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.report.answers.Ask;
import org.sobercompass.report.data.Sheet;
import org.sobercompass.sources.workspace.SchemaCheck;
import org.sobercompass.sources.workspace.Workspace;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

/** {@code sober check}. */
@Command(
    name = "check",
    mixinStandardHelpOptions = true,
    description = "Reads the whole workspace and tells all problems in one go.",
    footer = {"", "Examples, on the demo:", "  sober check", "  sober check --format json"})
final class CheckCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Override
  public Integer call() {
    Workspace workspace = inputs.workspace();
    SchemaCheck.run(inputs.root).throwIfErrors();
    Facts facts = workspace.facts();
    Sheet.Builder sheet =
        new Ask(inputs.model(), workspace.zone(), java.util.List.of())
            .begin("problems/1", "severity", "place", "what", "expected", "nearest");
    for (Problem problem : workspace.problems()) {
      sheet.row(
          problem.severity().name().toLowerCase(java.util.Locale.ROOT),
          problem.place().toString(),
          problem.what(),
          problem.expected(),
          problem.nearest());
    }
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
      sheet.fact(c.source() + " " + c.attribute(), c.returned() + " of " + c.asked() + " entries");
    }
    sheet.heading(
        workspace.problems().isEmpty()
            ? "The workspace can be read, and nothing is wrong with it."
            : "The workspace can be read; "
                + Ask.count(workspace.problems().size(), "thing needs", "things need")
                + " a look.");
    inputs.print(sheet.build());
    return workspace.problems().isEmpty() ? Exit.OK : Exit.NO;
  }
}
