package org.sobercompass.cli;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.concurrent.Callable;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Findings;
import org.sobercompass.core.findings.Sorted;
import org.sobercompass.report.page.Page;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code sober report}. */
@Command(
    name = "report",
    mixinStandardHelpOptions = true,
    description = "Writes one self-contained page: findings, who has which role, routes drawn.",
    footer = {"", "Example, on the demo:", "  sober report page.html"})
final class ReportCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "FILE", description = "the page to write")
  private Path file = Path.of("page.html");

  @Override
  public Integer call() {
    List<Finding> findings =
        Sorted.of(
                Findings.of(inputs.workspace().judged(inputs.model())),
                inputs.workspace().waivers(),
                inputs.model().asOf().getEpochSecond())
            .open();
    String html = new Page(inputs.ask(), findings).html();
    try {
      Path beside = file.resolveSibling(file.getFileName() + ".part");
      Files.writeString(beside, html, StandardCharsets.UTF_8);
      Files.move(beside, file, StandardCopyOption.REPLACE_EXISTING);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    inputs
        .out()
        .println(
            "Wrote "
                + file
                + ": "
                + findings.size()
                + " findings, "
                + (html.getBytes(StandardCharsets.UTF_8).length + 512) / 1024
                + " KiB, opens in any browser.");
    return Exit.OK;
  }
}
