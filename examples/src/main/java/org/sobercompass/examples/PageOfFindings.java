package org.sobercompass.examples;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.organization.Organization;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.report.page.Pages;

/** Writes the page of a workspace: {@code PageOfFindings DIR FILE}. */
public final class PageOfFindings {
  private PageOfFindings() {}

  public static void main(String[] args) throws IOException {
    Organization organization = Organization.open(Path.of(args[0]));
    Assessment assessment = organization.assessment();
    AnswerContext ask =
        new AnswerContext(
            organization.model(),
            organization.workspace().zone(),
            organization.problems(),
            assessment.gaps());
    Triage sorted = organization.triage();
    Pages pages = new Pages(ask, assessment, organization.owners(), sorted);
    Files.writeString(Path.of(args[1]), Pages.html(pages.organization()));
    System.out.println(FindingAnswers.heading(sorted));
  }
}
