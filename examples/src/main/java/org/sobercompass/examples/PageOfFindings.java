package org.sobercompass.examples;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Findings;
import org.sobercompass.report.answers.Ask;
import org.sobercompass.report.page.Page;
import org.sobercompass.sources.workspace.Workspace;

/** Writes the page of a workspace: {@code PageOfFindings DIR FILE}. */
public final class PageOfFindings {
  private PageOfFindings() {}

  public static void main(String[] args) throws IOException {
    Workspace workspace = Workspace.open(Path.of(args[0]));
    Ask ask = new Ask(workspace.model(), workspace.zone(), workspace.problems());
    List<Finding> findings = Findings.of(workspace.judged(ask.model()));
    Files.writeString(Path.of(args[1]), new Page(ask, findings).html());
    System.out.println(findings.size() + " findings");
  }
}
