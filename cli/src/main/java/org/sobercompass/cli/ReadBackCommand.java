package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import org.sobercompass.core.audit.Foretold;
import org.sobercompass.report.answers.AmendmentAnswers;
import org.sobercompass.sources.amendment.AmendmentFolder;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code sober read-back}. */
@Command(
    name = "read-back",
    mixinStandardHelpOptions = true,
    description = {
      "Checks whether an amendment did what its preview said, by what was read since: a new export",
      "or survey.",
      ""
    },
    footer = {
      "",
      "Examples:",
      "  sober survey",
      "  sober read-back amendments/leave",
      "  sober read-back amendments/leave --survey surveys/2026-11-29T060000Z.survey.zip"
    })
final class ReadBackCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "FOLDER", description = "the amendment")
  private Path folder = Path.of("");

  @Override
  public Integer call() {
    AmendmentFolder amendment = AmendmentFolder.read(folder);
    Foretold.Readback readback = amendment.foretold().against(inputs.assessment());
    inputs.printBrief(AmendmentAnswers.readback(inputs.ask(), amendment.foretold(), readback));
    return readback.isAsSaid() ? Exit.OK : Exit.NO;
  }
}
