package org.sobercompass.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.problem.Gap;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Basis;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.data.AnswerTableWriter;
import org.sobercompass.report.data.Format;
import org.sobercompass.sources.text.Moments;
import org.sobercompass.sources.workspace.Workspace;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** What all commands that answer have in common. */
class Inputs {
  @Spec(Spec.Target.MIXEE)
  CommandSpec spec = CommandSpec.create();

  @Option(
      names = {"-w", "--workspace"},
      paramLabel = "DIR",
      description = "the workspace (default: this folder)")
  Path root = Path.of("");

  @Option(
      names = "--as-of",
      paramLabel = "TIME",
      description = "a date or instant (default: when the directories were exported, else now)")
  @Nullable String asOf;

  @Option(
      names = "--use",
      paramLabel = "BASIS",
      description = "actual or intended assignments (default: actual where they were read)")
  @Nullable String basis;

  @Option(
      names = {"-f", "--format"},
      paramLabel = "FORMAT",
      description = "table, csv, json or jsonl (default: table)")
  Format format = Format.table;

  @Option(
      names = "--survey",
      paramLabel = "FILE",
      description = "answer from this survey, and the mapping it was taken with")
  @Nullable Path survey;

  private @Nullable Workspace workspace;
  private @Nullable AccessModel model;
  private List<Problem> unread = List.of();
  private List<Gap> gaps = List.of();

  /** The workspace, read now. */
  Workspace open(Set<String> attributes) {
    Workspace read =
        survey == null ? Workspace.open(root, attributes) : Workspace.ofSurvey(survey, attributes);
    workspace = read;
    return read;
  }

  Workspace workspace() {
    return workspace == null ? open(Set.of()) : workspace;
  }

  AccessModel model() {
    if (model == null) {
      Workspace read = workspace();
      Instant at = asOf == null ? read.usualTime() : time(asOf, read);
      model = read.model(at, basis == null ? Optional.empty() : Optional.of(basis(basis)));
    }
    return model;
  }

  private static Instant time(String text, Workspace workspace) {
    return Moments.begin(text, workspace.zone())
        .orElseThrow(
            () ->
                new UsageException(
                    "--as-of " + text + " is no time; expected " + Moments.EXPECTED));
  }

  private static Basis basis(String text) {
    return switch (text.toLowerCase(Locale.ROOT)) {
      case "actual" -> Basis.ACTUAL;
      case "intended" -> Basis.INTENDED;
      default -> throw new UsageException("--use " + text + " is neither actual nor intended");
    };
  }

  /** What findings are made of; lists of directories that cannot be read are told with answers. */
  Assessment assessment() {
    Problems told = new Problems();
    Assessment assessment = workspace().assessment(model(), told);
    unread = told.list();
    gaps = assessment.gaps();
    return assessment;
  }

  AnswerContext ask() {
    List<Problem> all = new ArrayList<>(workspace().problems());
    all.addAll(unread);
    return new AnswerContext(model(), workspace().zone(), List.copyOf(all), gaps);
  }

  /** One application by its id, or all when none is named. */
  List<SystemView> applications(String id) {
    return id.isEmpty() ? model().systems() : List.of(names().application(id));
  }

  Names names() {
    return new Names(model());
  }

  PrintWriter out() {
    return spec.commandLine().getOut();
  }

  PrintWriter err() {
    return spec.commandLine().getErr();
  }

  boolean isTable() {
    return format == Format.table;
  }

  /** Prints an answer whose keys are left out in a terminal. */
  void printBrief(AnswerTable sheet) {
    print(isTable() ? sheet.without("key") : sheet);
  }

  /** Prints an answer in the format asked for. */
  void print(AnswerTable sheet) {
    AnswerTableWriter.write(sheet, format, Terminal.width(), Terminal.colour(), out());
  }
}
