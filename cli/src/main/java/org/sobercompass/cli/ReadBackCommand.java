package org.sobercompass.cli;

import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import org.sobercompass.core.audit.Foretold;
import org.sobercompass.core.audit.OtherwiseSince;
import org.sobercompass.organization.Organization;
import org.sobercompass.report.answers.AmendmentAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.sources.amendment.AmendmentFolder;
import org.sobercompass.sources.amendment.JournalFile;
import org.sobercompass.sources.workspace.DirectoryFile;
import org.sobercompass.sources.workspace.Surveyor;
import org.sobercompass.sources.workspace.Surveys;
import org.sobercompass.sources.workspace.Workspace;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code sober read-back}. */
@Command(
    name = "read-back",
    mixinStandardHelpOptions = true,
    description = {
      "Checks whether an amendment did what its preview said, by what was read since. Where it",
      "changed a live directory after the latest survey, a survey is taken first. What is",
      "otherwise is told with the readings between which that came about.",
      ""
    },
    footer = {
      "",
      "Examples:",
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
    Optional<Instant> made = JournalFile.lastMade(amendment);
    boolean early = made.filter(this::isReadBefore).isPresent();
    if (early && changesLive(amendment)) {
      Surveyor.Taken taken =
          Surveying.surveyor(inputs).take(inputs.root, List.of(), Optional.empty());
      inputs.err().println("A survey was taken: " + taken.file() + ".");
      inputs.again();
      early = false;
    }
    Foretold.Readback readback = amendment.foretold().against(inputs.assessment());
    OtherwiseSince since =
        new OtherwiseSince(
            amendment.foretold(),
            readback,
            inputs.workspace().usualTime(),
            made.map(this::earlier).orElse(List.of()));
    AnswerTable answer =
        AmendmentAnswers.readback(inputs.ask(), amendment.foretold(), readback, since);
    if (made.isEmpty()) {
      answer = answer.withNote("No record of the amendment was carried out yet.");
    } else if (early) {
      answer =
          answer.withNote(
              "What was read is from before it was carried out; a new export or survey tells"
                  + " more.");
    }
    inputs.printBrief(answer);
    return readback.isAsSaid() ? Exit.OK : Exit.NO;
  }

  private boolean isReadBefore(Instant made) {
    return inputs.workspace().taken().filter(made::isAfter).isPresent();
  }

  private boolean changesLive(AmendmentFolder amendment) {
    return inputs.survey == null
        && inputs.workspace().directories().stream()
            .filter(DirectoryFile::isLive)
            .anyMatch(one -> amendment.amendment().target(one.name()).isPresent());
  }

  /** The surveys between the carrying out and what is read, the latest first. */
  private List<OtherwiseSince.Taken> earlier(Instant made) {
    List<OtherwiseSince.Taken> readings = new ArrayList<>();
    Instant now = inputs.workspace().usualTime();
    for (Path file : Surveys.all(inputs.root)) {
      Optional<Instant> at = Surveys.taken(file);
      if (at.filter(t -> t.isBefore(now) && t.isAfter(made)).isPresent()) {
        readings.add(
            new OtherwiseSince.Taken(
                at.get(),
                () -> {
                  Workspace read = Workspace.ofSurvey(file, Set.of());
                  return Organization.of(read, read.usualTime(), Optional.empty()).assessment();
                }));
      }
    }
    return readings;
  }
}
