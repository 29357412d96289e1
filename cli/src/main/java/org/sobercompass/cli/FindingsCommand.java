package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.problem.Gap;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.organization.FindingHistory;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.report.answers.FindingDetail;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.data.Prose;
import org.sobercompass.report.pipeline.Check;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** {@code sober findings}. */
@Command(
    name = "findings",
    mixinStandardHelpOptions = true,
    description = "Lists excessive, conflicting and broken access rights, the most serious first.",
    footer = {
      "",
      "Examples, on the demo:",
      "  sober findings",
      "  sober findings --weight high --owner maren.holt",
      "  sober findings --detail m8za0f   one in full, by its id",
      "  sober findings --weight high --sarif findings.sarif",
      "Exit code 1 when there is a finding of the asked weight that nobody accepted."
    })
final class FindingsCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();
  @Mixin private Pipeline pipeline = new Pipeline();
  @Mixin private FindingFilter filter = new FindingFilter();

  @Option(
      names = "--since",
      paramLabel = "SURVEY",
      description = "only findings that are new since this survey")
  private @Nullable Path since;

  @Option(
      names = "--seen",
      description = "also when each was first and last seen in the surveys of the workspace")
  private boolean seen;

  @Option(
      names = "--detail",
      paramLabel = "ID",
      description = "one finding in full: evidence, and the smallest change that ends it")
  private @Nullable String detail;

  @Override
  public Integer call() {
    Assessment assessment = inputs.assessment();
    List<Finding> all = inputs.organization().findings();
    List<Finding> asked = filter.query().of(inputs.organization(), all);
    Set<String> gone = new HashSet<>();
    if (since != null) {
      Set<String> before = FindingHistory.keys(since);
      gone.addAll(before);
      gone.removeAll(FindingAnswers.keys(all));
      asked = asked.stream().filter(f -> !before.contains(f.key().text())).toList();
    }
    Triage sorted =
        Triage.of(asked, inputs.workspace().waivers(), inputs.model().asOf().getEpochSecond());
    if (asked.size() < all.size()) {
      Triage whole =
          Triage.of(all, inputs.workspace().waivers(), inputs.model().asOf().getEpochSecond());
      sorted = new Triage(sorted.open(), sorted.waived(), whole.told());
    }
    Triage shown = sorted;
    if (detail != null) {
      detail(detail, sorted, assessment);
    } else {
      if (!inputs.isTable() || pipeline.isAsked()) {
        Findings.lookUp(inputs.model(), both(sorted));
      }
      list(sorted, assessment, gone);
    }
    pipeline.write("findings", () -> Check.of(shown), inputs);
    boolean whole = assessment.gaps().stream().noneMatch(Gap::isMendable);
    return !sorted.open().isEmpty() ? Exit.NO : whole ? Exit.OK : Exit.UNDECIDED;
  }

  private void list(Triage sorted, Assessment assessment, Set<String> gone) {
    FindingAnswers answers = new FindingAnswers(inputs.ask());
    Map<String, List<String>> dates = seen ? history(sorted) : Map.of();
    AnswerTable sheet =
        inputs.isTable() ? answers.brief(sorted, dates) : answers.full(sorted, assessment, dates);
    if (since != null) {
      sheet =
          sheet.withNote(
              "Only what is new since "
                  + since.getFileName()
                  + "; "
                  + gone.size()
                  + " of its findings "
                  + (gone.size() == 1 ? "is" : "are")
                  + " gone.");
    }
    inputs.print(sheet);
  }

  private Map<String, List<String>> history(Triage sorted) {
    return FindingHistory.of(
        inputs.root,
        both(sorted),
        inputs.model().asOf(),
        at -> at.atZone(inputs.workspace().zone()).toLocalDate().toString());
  }

  private static List<Finding> both(Triage sorted) {
    List<Finding> all = new java.util.ArrayList<>(sorted.open());
    sorted.waived().forEach(waived -> all.add(waived.finding()));
    return all;
  }

  /** The finding with an id, or at a place of this list. */
  static Finding one(String id, List<Finding> all) {
    List<Finding> found =
        all.stream().filter(f -> f.id().equals(id) || f.key().text().equals(id)).toList();
    if (found.size() == 1) {
      return found.get(0);
    }
    boolean isPlace = id.matches("[0-9]{1,9}");
    int place = isPlace ? Integer.parseInt(id) : 0;
    if (place > 0 && place <= all.size() && found.isEmpty()) {
      return all.get(place - 1);
    }
    String nearest = Spelling.hint(id, all.stream().map(Finding::id).toList());
    throw new UsageException(
        found.size() > 1
            ? id
                + ": two findings have this id; expected "
                + found.get(0).key().text()
                + " or "
                + found.get(1).key().text()
            : id
                + ": there is no such finding among the "
                + all.size()
                + " of this list; expected an id as sober findings prints it"
                + nearest);
  }

  private void detail(String id, Triage sorted, Assessment assessment) {
    Finding finding = one(id, both(sorted));
    Optional<Triage.Waived> waived =
        sorted.waived().stream().filter(w -> w.finding() == finding).findFirst();
    if (!inputs.isTable()) {
      Triage one =
          new Triage(
              waived.isPresent() ? List.of() : List.of(finding),
              waived.map(List::of).orElse(List.of()),
              List.of());
      inputs.print(new FindingAnswers(inputs.ask()).full(one, assessment, Map.of()));
      return;
    }
    inputs.noWorkbook();
    List<String> days =
        org.sobercompass.sources.workspace.Surveys.all(inputs.root).isEmpty()
            ? List.of()
            : history(sorted).getOrDefault(finding.key().text(), List.of());
    String when = days.isEmpty() ? "" : "seen from " + days.get(0) + " to " + days.get(1);
    FindingDetail words =
        new FindingDetail(inputs.ask(), assessment, finding, Advice.of(assessment, finding));
    inputs.out().print(words.text(when, waived, new Prose(Terminal.width(), Terminal.colour())));
  }
}
