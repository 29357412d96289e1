package org.sobercompass.cli;

import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.concurrent.Callable;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.organization.WaiverText;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.report.findings.FindingWords;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober waive}. */
@Command(
    name = "waive",
    mixinStandardHelpOptions = true,
    description =
        "Accepts a finding until a given day, for those it concerns now: writes a waiver.",
    footer = {
      "",
      "Example, on the demo:",
      "  sober waive m8za0f --by \"Maren Holt\" --reason \"two signatures on paper\" \\",
      "      --until 2027-01-31"
    })
final class WaiveCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "ID", description = "the finding, as findings lists it")
  private String id = "";

  @Option(names = "--by", required = true, paramLabel = "WHO", description = "who accepts it")
  private String by = "";

  @Option(names = "--reason", required = true, paramLabel = "WHY", description = "why")
  private String reason = "";

  @Option(
      names = "--until",
      required = true,
      paramLabel = "DAY",
      description = "the last day on which it is accepted, as in 2027-01-31")
  private String until = "";

  @Override
  public Integer call() {
    if (inputs.survey != null) {
      throw new UsageException("a survey cannot be changed; expected a workspace");
    }
    LocalDate day = day();
    Finding finding = FindingsCommand.one(id, inputs.organization().findings());
    WaiverText waivers = new WaiverText(inputs.root);
    if (!waivers.add(finding, finding.subjects(), by, reason, day)) {
      inputs
          .err()
          .println(waivers.file() + " cannot be edited safely; it was left as it is. Put in:");
      inputs.err().print(WaiverText.text(finding, finding.subjects(), by, reason, day));
      return Exit.INPUT;
    }
    inputs
        .out()
        .println(
            "Accepted until "
                + day
                + ", in "
                + waivers.file()
                + ": "
                + FindingAnswers.capital(FindingWords.sentence(finding))
                + ".");
    if (!waivers.isNamed()) {
      inputs.out().println("Put this line into compass.yaml: waivers: " + WaiverText.USUAL);
    }
    return Exit.OK;
  }

  private LocalDate day() {
    try {
      return LocalDate.parse(until);
    } catch (DateTimeParseException e) {
      throw new UsageException("--until " + until + " is no day; expected one like 2027-01-31");
    }
  }
}
