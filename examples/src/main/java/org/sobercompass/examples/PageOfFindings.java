package org.sobercompass.examples;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Findings;
import org.sobercompass.core.findings.Triage;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.report.page.Page;
import org.sobercompass.sources.workspace.Workspace;

/** Writes the page of a workspace: {@code PageOfFindings DIR FILE}. */
public final class PageOfFindings {
  private PageOfFindings() {}

  public static void main(String[] args) throws IOException {
    Workspace workspace = Workspace.open(Path.of(args[0]));
    AnswerContext ask =
        new AnswerContext(workspace.model(), workspace.zone(), workspace.problems());
    Assessment assessment = workspace.assessment(ask.model());
    Triage sorted =
        Triage.of(
            Findings.of(assessment), workspace.waivers(), ask.model().asOf().getEpochSecond());
    Files.writeString(Path.of(args[1]), new Page(ask, sorted, assessment).html());
    System.out.println(FindingAnswers.heading(sorted));
  }
}
