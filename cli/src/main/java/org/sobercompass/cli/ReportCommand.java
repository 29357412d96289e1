package org.sobercompass.cli;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.report.page.Page;
import org.sobercompass.sources.disk.OwnFiles;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code sober report}. */
@Command(
    name = "report",
    mixinStandardHelpOptions = true,
    description =
        "Writes one self-contained HTML page: findings, who has which role, routes drawn.",
    footer = {"", "Example, on the demo:", "  sober report page.html"})
final class ReportCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "FILE", description = "the page to write")
  private Path file = Path.of("page.html");

  @Override
  public Integer call() {
    Assessment assessment = inputs.assessment();
    Triage sorted =
        Triage.of(
            Findings.of(assessment),
            inputs.workspace().waivers(),
            inputs.model().asOf().getEpochSecond());
    String html = new Page(inputs.ask(), sorted, assessment).html();
    OwnFiles.write(file, html);
    inputs
        .out()
        .println(
            "Wrote "
                + file
                + ": "
                + FindingAnswers.heading(sorted).replaceFirst("[.]$", "")
                + "; "
                + (html.getBytes(StandardCharsets.UTF_8).length + 512) / 1024
                + " KiB, opens in any browser.");
    return Exit.OK;
  }
}
