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
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.system.Basis;
import org.sobercompass.organization.Names;
import org.sobercompass.organization.Organization;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.AskedAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.data.AnswerTableWriter;
import org.sobercompass.report.data.Format;
import org.sobercompass.report.data.WorkbookWriter;
import org.sobercompass.sources.disk.OwnFiles;
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
      names = "--xlsx",
      paramLabel = "FILE",
      description = "write the answer into this workbook, for a spreadsheet")
  @Nullable Path workbook;

  @Option(
      names = "--survey",
      paramLabel = "FILE",
      description = "answer from this survey and the mapping in it")
  @Nullable Path survey;

  @Option(
      names = "--progress",
      description =
          "say how far long work is (on a terminal that is usual), and at the end what took how"
              + " long")
  boolean tellProgress;

  private final List<AnswerTable> answered = new ArrayList<>();
  private @Nullable Workspace workspace;
  private @Nullable Organization organization;
  private boolean judged;
  private @Nullable ProgressLine progress;

  /** The workspace, read now. */
  Workspace open(Set<String> attributes) {
    Fault.workspace(root);
    progress().begin("reading");
    Workspace read =
        survey == null ? Workspace.open(root, attributes) : Workspace.ofSurvey(survey, attributes);
    workspace = read;
    progress().begin("answering");
    return read;
  }

  /** What is answered from here on is read again. */
  void again() {
    workspace = null;
    organization = null;
  }

  Workspace workspace() {
    return workspace == null ? open(Set.of()) : workspace;
  }

  /** The organization, as of the time and on the basis asked for. */
  Organization organization() {
    if (organization == null) {
      Workspace read = workspace();
      Instant at = asOf == null ? read.usualTime() : time(asOf, read);
      organization =
          Organization.of(read, at, basis == null ? Optional.empty() : Optional.of(basis(basis)))
              .telling(progress());
    }
    return organization;
  }

  /** From now on what a proposal creates is known, absent until then. */
  Proposal expecting(Proposal proposal) {
    organization = organization().expecting(proposal);
    return proposal;
  }

  private ProgressLine progress() {
    if (progress == null) {
      progress = new ProgressLine(err(), Terminal.ofErrors(), tellProgress, System::nanoTime);
    }
    return progress;
  }

  /** Something else is said on standard error. */
  void wipe() {
    if (progress != null) {
      progress.wipe();
    }
  }

  /** The command is over. */
  void end() {
    if (progress != null) {
      progress.end();
    }
  }

  AccessModel model() {
    return organization().model();
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

  /** What findings are made of; what was not read is told with every answer from then on. */
  Assessment assessment() {
    judged = true;
    return organization().assessment();
  }

  /** How answers are given that depend on findings, or on the directories' lists. */
  AnswerContext judgedAsk() {
    assessment();
    return ask();
  }

  AnswerContext ask() {
    return new AnswerContext(
        model(),
        workspace().zone(),
        organization().problems(),
        judged ? organization().assessment().gaps() : List.of());
  }

  /** Answers about what may be asked of anybody; the directories' lists are read when needed. */
  AskedAnswers answers() {
    return new AskedAnswers(ask(), () -> new Administering(this, null).answers());
  }

  /** One application by its id, or all when none is named. */
  List<SystemView> applications(String id) {
    return id.isEmpty() ? model().systems() : List.of(names().application(id));
  }

  Names names() {
    return organization().names();
  }

  PrintWriter out() {
    progress().answer(Terminal.ofAnswers());
    return spec.commandLine().getOut();
  }

  PrintWriter err() {
    return spec.commandLine().getErr();
  }

  boolean isTable() {
    return format == Format.table && workbook == null;
  }

  /** What follows is no table, so that no workbook can be written. */
  void noWorkbook() {
    if (workbook != null) {
      throw new UsageException("--xlsx takes tables, and this is none; expected -f csv or jsonl");
    }
  }

  /** Prints an answer whose keys are left out in a terminal. */
  void printBrief(AnswerTable sheet) {
    print(isTable() ? sheet.without("key") : sheet);
  }

  /**
   * Prints an answer in the format asked for. One that is for a workbook is written there; of its
   * table only the heading is printed.
   */
  void print(AnswerTable sheet) {
    if (workbook != null) {
      answered.add(sheet);
      OwnFiles.write(workbook, out -> WorkbookWriter.write(answered, out));
      err().println("Written: " + workbook + ".");
      if (format == Format.table) {
        out().println(sheet.heading());
        return;
      }
    }
    AnswerTableWriter.write(sheet, format, Terminal.width(), Terminal.colour(), out());
  }
}
