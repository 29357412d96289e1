package org.sobercompass.cli;

import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.live.LdapAccess;
import org.sobercompass.sources.live.LdapSource;
import org.sobercompass.sources.survey.SurveyFile;
import org.sobercompass.sources.workspace.Surveyor;
import org.sobercompass.sources.workspace.Surveys;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober survey}. */
@Command(
    name = "survey",
    mixinStandardHelpOptions = true,
    description = {
      "Takes a dated copy of all sources of a workspace, in one file.",
      "All commands then answer from the latest one, or from the one named with --survey.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober survey                      takes one, into surveys/",
      "  sober survey list                 lists the surveys of the workspace",
      "  sober survey verify FILE          tells whether a survey is whole and unaltered",
      "  sober survey collect ldaps://directory.alderfen.example -o part.survey.zip",
      "                                    one directory, without a workspace, for someone else",
      "  sober survey --join part.survey.zip",
      "                                    takes what somebody else collected"
    })
final class SurveyCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();
  @Mixin private Connection connection = new Connection();

  @Parameters(
      index = "0",
      paramLabel = "WHAT",
      arity = "0..1",
      description = "take (the default), list, verify or collect")
  private String what = "take";

  @Parameters(
      index = "1",
      paramLabel = "FILE|ADDRESS",
      arity = "0..1",
      description = "what to verify or collect")
  private @Nullable String object;

  @Option(
      names = "--join",
      paramLabel = "FILE",
      description = "a part that somebody else collected; may be given again")
  private List<Path> join = new ArrayList<>();

  @Option(
      names = {"-o", "--out"},
      paramLabel = "FILE",
      description = "where to write it")
  private @Nullable Path out;

  @Override
  public Integer call() {
    switch (what) {
      case "take" ->
          tell(Surveying.surveyor(inputs).take(inputs.root, join, Optional.ofNullable(out)));
      case "collect" -> {
        if (out == null) {
          throw new UsageException("collect needs --out and a file to write");
        }
        LdapAccess access = connection.access(object("an address, as in ldaps://host"));
        tell(Surveying.surveyor(inputs).part(access.name(), new LdapSource(access), out));
      }
      case "list" -> inputs.print(SurveySheets.list(Surveys.all(inputs.root)));
      case "verify" -> verify(Path.of(object("the file of a survey")));
      default ->
          throw new UsageException(
              "cannot " + what + " a survey; expected take, list, verify or collect");
    }
    return Exit.OK;
  }

  private String object(String expected) {
    if (object == null) {
      throw new UsageException(what + " needs " + expected);
    }
    return object;
  }

  private void tell(Surveyor.Taken taken) {
    int entries = taken.parts().stream().mapToInt(part -> part.entries()).sum();
    Duration longest =
        taken.parts().stream()
            .map(part -> Duration.between(part.started(), part.ended()))
            .max(Duration::compareTo)
            .orElse(Duration.ZERO);
    String heading =
        AnswerContext.count(entries, "entry", "entries")
            + " of "
            + AnswerContext.count(taken.parts().size(), "directory", "directories")
            + (longest.isZero() ? "" : ", read in " + longest.toMillis() / 1000.0 + " s")
            + "; written to "
            + taken.file()
            + ".";
    inputs.print(SurveySheets.parts(heading, taken.parts(), taken.digest()));
  }

  private void verify(Path file) {
    Path scratch = OwnFiles.scratch("survey");
    try {
      SurveyFile survey = SurveyFile.unpack(file, scratch);
      int files = survey.manifest().files().size();
      inputs.print(
          SurveySheets.parts(
              file + " is whole: " + AnswerContext.count(files, "file", "files") + " as listed.",
              survey.manifest().parts(),
              Surveys.digest(file)));
    } finally {
      OwnFiles.discard(scratch);
    }
  }
}
