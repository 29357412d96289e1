package org.sobercompass.examples;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.sobercompass.core.findings.Findings;
import org.sobercompass.core.findings.Judged;
import org.sobercompass.core.findings.Sorted;
import org.sobercompass.report.answers.Ask;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.report.page.Page;
import org.sobercompass.sources.workspace.Workspace;

/** Writes the page of a workspace: {@code PageOfFindings DIR FILE}. */
public final class PageOfFindings {
  private PageOfFindings() {}

  public static void main(String[] args) throws IOException {
    Workspace workspace = Workspace.open(Path.of(args[0]));
    Ask ask = new Ask(workspace.model(), workspace.zone(), workspace.problems());
    Judged judged = workspace.judged(ask.model());
    Sorted sorted =
        Sorted.of(Findings.of(judged), workspace.waivers(), ask.model().asOf().getEpochSecond());
    Files.writeString(Path.of(args[1]), new Page(ask, sorted, judged).html());
    System.out.println(FindingAnswers.heading(sorted));
  }
}
