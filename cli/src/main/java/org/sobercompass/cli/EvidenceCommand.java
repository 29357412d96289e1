package org.sobercompass.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.Journal;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.expect.Expectations;
import org.sobercompass.core.review.Gathered;
import org.sobercompass.organization.Reviews;
import org.sobercompass.report.answers.AmendmentAnswers;
import org.sobercompass.report.answers.ExpectAnswers;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.page.Pages;
import org.sobercompass.sources.TargetKinds;
import org.sobercompass.sources.amendment.AmendmentFolder;
import org.sobercompass.sources.amendment.JournalFile;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.review.ReviewFolder;
import org.sobercompass.sources.survey.SurveyFile;
import org.sobercompass.sources.workspace.Surveys;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober evidence}. */
@Command(
    name = "evidence",
    mixinStandardHelpOptions = true,
    description = {
      "Writes one archive for an auditor: what was collected when and as whom, by which rules it"
          + " was judged, what could not be read, findings and waivers, and, where they are named,"
          + " decisions of reviews, amendments with their journals and what changed.",
      "It is made from a survey (the latest, or --survey); the same survey gives the same archive,"
          + " byte for byte.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo after sober survey:",
      "  sober evidence FILE",
      "  sober evidence FILE --review november --amendment ready --since OTHER"
    })
final class EvidenceCommand implements Callable<Integer> {
  private static final long LARGEST_RULE = 4L << 20;

  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "FILE", description = "the archive to write (.zip)")
  private Path file = Path.of("evidence.zip");

  @Option(
      names = "--review",
      paramLabel = "DIR",
      description = "a review whose decisions are put in; can be repeated")
  private List<Path> reviews = new ArrayList<>();

  @Option(
      names = "--amendment",
      paramLabel = "DIR",
      description = "an amendment that is put in with its journals; can be repeated")
  private List<Path> amendments = new ArrayList<>();

  @Option(
      names = "--since",
      paramLabel = "SURVEY",
      description = "an earlier survey: what changed since then")
  private @Nullable Path since;

  @Override
  public Integer call() {
    Path survey = survey();
    inputs.survey = survey;
    inputs.open(Reviews.ATTRIBUTES);
    EvidenceArchive archive = new EvidenceArchive();
    sources(survey, archive);
    judged(archive);
    reviews.forEach(folder -> review(folder, archive));
    amendments.forEach(folder -> amendment(folder, archive));
    if (since != null) {
      int number = 1;
      for (AnswerTable part :
          new SurveyComparison(inputs, amendments, true)
              .tables(List.of(since.toString(), survey.toString()))) {
        archive.table("changes-" + number++, "what changed since " + since.getFileName(), part);
      }
    }
    OwnFiles.write(file, archive::write);
    inputs
        .out()
        .println(
            "Wrote "
                + file
                + ": "
                + FindingAnswers.heading(inputs.organization().triage()).replaceFirst("[.]$", "")
                + "; made from "
                + survey.getFileName()
                + ".");
    inputs.out().println("SHA-256 " + SurveyFile.digest(file));
    return Exit.OK;
  }

  private Path survey() {
    if (inputs.survey != null) {
      return inputs.survey;
    }
    return Surveys.all(inputs.root).stream()
        .findFirst()
        .orElseThrow(
            () ->
                new UsageException(
                    "there is no survey in "
                        + inputs.root.resolve("surveys")
                        + "; expected one: evidence rests on what was taken at a known time, so"
                        + " first: sober survey"));
  }

  /** What was collected, with the rules it was taken with. */
  private void sources(Path survey, EvidenceArchive archive) {
    Path scratch = OwnFiles.scratch("evidence");
    try {
      SurveyFile read = SurveyFile.unpack(survey, scratch);
      archive.table(
          "sources",
          "what was collected: when, as whom, from where",
          SurveySheets.parts(
              "Collected into " + survey.getFileName() + ".",
              read.manifest().parts(),
              SurveyFile.digest(survey)));
      AnswerTable.Builder digests =
          AnswerTable.of("digests/1", "file", "bytes", "SHA-256")
              .heading("Every file of the survey.");
      read.manifest()
          .files()
          .forEach(item -> digests.row(item.name(), item.length(), item.sha256()));
      archive.table("digests", "every file of the survey with its digest", digests.build());
      if (read.hasWorkspace()) {
        rules(read.workspace(), archive);
      }
    } finally {
      OwnFiles.discard(scratch);
    }
  }

  /** The text of the workspace by which it was judged. */
  private static void rules(Path workspace, EvidenceArchive archive) {
    try (Stream<Path> files = Files.walk(workspace)) {
      for (Path rule : files.filter(f -> f.toString().endsWith(".yaml")).sorted().toList()) {
        if (Files.size(rule) <= LARGEST_RULE) {
          String name = workspace.relativize(rule).toString().replace('\\', '/');
          archive.text("rules/" + name, Files.readString(rule));
        }
      }
    } catch (IOException e) {
      throw OwnFiles.failed(workspace, e);
    }
  }

  /** Findings, waivers, expectations, what was not read, and the page. */
  private void judged(EvidenceArchive archive) {
    Triage sorted = inputs.organization().triage();
    Expectations checker = new Expectations(inputs.assessment());
    archive.table(
        "findings",
        "all findings, open and accepted, with their evidence",
        new FindingAnswers(inputs.judgedAsk()).full(sorted, inputs.assessment(), Map.of()));
    archive.table(
        "expectations",
        "what was stated, and whether it is so",
        new ExpectAnswers(inputs.judgedAsk())
            .sheet(inputs.workspace().expectations().stream().map(checker::check).toList()));
    AnswerTable.Builder limits =
        AnswerTable.of("thresholds/1", "threshold", "value")
            .heading("What findings are judged by.");
    inputs.assessment().rules().thresholds().named().forEach(limits::row);
    archive.table("thresholds", "from what on something is a finding", limits.build());
    AnswerTable.Builder gaps =
        AnswerTable.of("not-read/1", "what", "place")
            .heading("What could not be read, or is wrong.");
    inputs.assessment().gaps().forEach(gap -> gaps.row(FindingAnswers.capital(gap.words()), ""));
    inputs
        .organization()
        .problems()
        .forEach(
            one -> gaps.row(one.what() + "; expected " + one.expected(), one.place().toString()));
    archive.table("not-read", "what could not be read, or is wrong with the input", gaps.build());
    archive.text(
        "page.html",
        Pages.html(
            new Pages(
                    inputs.judgedAsk(), inputs.assessment(), inputs.organization().owners(), sorted)
                .organization()));
  }

  private void review(Path folder, EvidenceArchive archive) {
    Reviewing reviewing = new Reviewing(inputs, null);
    Gathered gathered = reviewing.gather(new ReviewFolder(folder), List.of());
    String name = "review-" + name(folder);
    archive.table(
        name, "how far the review is", reviewing.answers().progress(reviewing.review(), gathered));
    archive.table(
        name + "-decisions",
        "each decision of the review, by whom and why",
        reviewing.answers().decisions(gathered));
  }

  private static void amendment(Path folder, EvidenceArchive archive) {
    AmendmentFolder read = AmendmentFolder.read(folder);
    Map<String, Journal> journals = new HashMap<>();
    for (Amendment.Target target : read.amendment().targets()) {
      journals.put(target.name(), JournalFile.look(read, target.name()));
    }
    archive.table(
        "amendment-" + name(folder),
        "what was carried out, record by record",
        new AmendmentAnswers(
                read.amendment(), TargetKinds.losses(read.amendment(), read.amendment().records()))
            .all(journals));
  }

  private static String name(Path folder) {
    String name = String.valueOf(folder.toAbsolutePath().normalize().getFileName());
    return name.replaceAll("[^\\p{L}\\p{N}._-]+", "-");
  }
}
