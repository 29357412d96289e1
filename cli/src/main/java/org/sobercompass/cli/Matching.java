package org.sobercompass.cli;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.crosswalk.Crosswalk;
import org.sobercompass.core.crosswalk.CrosswalkTable;
import org.sobercompass.core.crosswalk.CrosswalkTable.Row;
import org.sobercompass.core.crosswalk.MatchPlan;
import org.sobercompass.core.crosswalk.Matched;
import org.sobercompass.core.crosswalk.Ruling;
import org.sobercompass.core.crosswalk.Sureness;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.organization.Crosswalks;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.data.AnswerTableWriter;
import org.sobercompass.report.data.Format;
import org.sobercompass.report.data.WorkbookWriter;
import org.sobercompass.sources.crosswalk.CarriedFile;
import org.sobercompass.sources.crosswalk.CrosswalkFile;
import org.sobercompass.sources.crosswalk.CrosswalkSettings;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.workspace.Workspace;

/** A crosswalk as commands name it: by its two directories, or the only one of the workspace. */
final class Matching {
  private static final Map<String, List<String>> CHOICES =
      Map.of("decision", List.of(Ruling.SAME.word(), Ruling.NEVER.word()));

  private final Inputs inputs;
  private final CrosswalkSettings settings;
  private final Crosswalks crosswalks;
  private final boolean declared;

  /** Of a workspace that is read for it, by other attributes where some are named. */
  Matching(Inputs inputs, @Nullable String from, @Nullable String to, List<String> by) {
    this(inputs, read(inputs, by), from, to, by);
  }

  /** Of a workspace that was read already. */
  Matching(Inputs inputs, String from, String to) {
    this(inputs, inputs.workspace(), from, to, List.of());
  }

  private static MatchPlan asked(List<String> by) {
    return MatchPlan.usual("", "").by(by.stream().map(CrosswalkSettings::rule).toList());
  }

  private static Workspace read(Inputs inputs, List<String> by) {
    Set<String> needs = new TreeSet<>(asked(by).needs());
    needs.addAll(MatchPlan.usual("", "").needs());
    return inputs.open(needs);
  }

  private Matching(
      Inputs inputs,
      Workspace workspace,
      @Nullable String from,
      @Nullable String to,
      List<String> by) {
    this.inputs = inputs;
    CrosswalkSettings found = settings(workspace, from, to);
    this.declared = workspace.crosswalks().contains(found);
    this.settings =
        by.isEmpty()
            ? found
            : new CrosswalkSettings(
                found.plan().by(asked(by).rules()), found.file(), found.fresh(), found.place());
    Facts facts = workspace.facts();
    this.crosswalks =
        new Crosswalks(inputs.organization(), settings.plan(), table(workspace, facts, settings));
  }

  /** What was decided: of a crosswalk that the workspace does not name, by its usual file. */
  private static Crosswalk table(Workspace workspace, Facts facts, CrosswalkSettings settings) {
    Problems problems = new Problems();
    Crosswalk read =
        new CrosswalkFile(facts, settings, problems)
            .read(workspace.root().resolve(settings.file()), settings.file());
    problems.throwIfErrors();
    return read;
  }

  private static CrosswalkSettings settings(
      Workspace workspace, @Nullable String from, @Nullable String to) {
    List<CrosswalkSettings> declared = workspace.crosswalks();
    if (from == null && declared.size() == 1) {
      return declared.get(0);
    }
    if (from == null || to == null) {
      List<String> names = new ArrayList<>();
      declared.forEach(
          c -> names.add(c.plan().from().directory() + " " + c.plan().to().directory()));
      throw new UsageException(
          "expected two directories, as in: sober match fernhollow alderfen"
              + (names.isEmpty() ? "" : "; compass.yaml names " + String.join(", ", names)));
    }
    List<String> directories = workspace.facts().arrays().sources();
    for (String name : List.of(from, to)) {
      if (!directories.contains(name)) {
        throw new UsageException(
            "there is no directory "
                + name
                + "; expected one of "
                + String.join(", ", directories)
                + Spelling.hint(name, directories));
      }
    }
    if (from.equals(to)) {
      throw new UsageException("expected two directories that differ");
    }
    return declared.stream()
        .filter(c -> c.isOf(from, to))
        .findFirst()
        .orElse(CrosswalkSettings.usual(from, to));
  }

  Crosswalks crosswalks() {
    return crosswalks;
  }

  CrosswalkTable table(Matched matched) {
    return CrosswalkTable.of(inputs.model().facts(), crosswalks.decided(), matched);
  }

  /** The rows about some accounts of the one side. */
  CrosswalkTable only(CrosswalkTable table, List<String> names) {
    Facts facts = inputs.model().facts();
    Set<Object> keys = new HashSet<>();
    names.forEach(name -> keys.add(facts.key(inputs.names().account(name))));
    return new CrosswalkTable(
        table.from(),
        table.to(),
        table.rows().stream().filter(row -> keys.contains(row.line().from())).toList());
  }

  /** The same with a word on what is named: a class, or a pair. */
  CrosswalkTable ruled(
      CrosswalkTable table, Matched matched, String which, Ruling ruling, String who) {
    if (who.isBlank()) {
      throw new UsageException("expected --as, with who says so, as in --as \"Ilse Brandt\"");
    }
    Optional<Sureness> sure = Sureness.of(which);
    boolean ofClass =
        ruling == Ruling.SAME
            && sure.filter(s -> s == Sureness.CERTAIN || s == Sureness.LIKELY).isPresent();
    if (!ofClass && which.indexOf('=') < 0) {
      throw new UsageException(
          which
              + " is nothing that can be decided; expected "
              + (ruling == Ruling.SAME ? "certain, likely, or " : "")
              + "a pair, as in rholm=rhea.jarrow");
    }
    LocalDate today = LocalDate.now(inputs.workspace().zone());
    if (ofClass) {
      return table.ruled(
          row -> row.line().ruling() == Ruling.OPEN && row.sure().equals(sure), ruling, who, today);
    }
    int at = which.indexOf('=');
    int from = inputs.names().subject(which.substring(0, at).strip());
    int to = inputs.names().subject(which.substring(at + 1).strip());
    Facts facts = inputs.model().facts();
    Predicate<Row> isIt =
        row ->
            row.line().from().equals(facts.key(from))
                && row.line().to().equals(Optional.of(facts.key(to)));
    CrosswalkTable with =
        table.rows().stream().anyMatch(isIt)
            ? table
            : table.with(facts, from, to, matched.matcher().weigh(from, to));
    return with.ruled(isIt, ruling, who, today);
  }

  /** What is still to be made on the other side. */
  Making making(Matched matched) {
    return new Making(inputs.model().facts(), crosswalks, settings, matched);
  }

  /** What remembers what was carried. */
  CarriedFile memory() {
    return new CarriedFile(inputs.workspace().root(), settings);
  }

  /** What a proposal is called that carries rights over. */
  String name() {
    return settings.plan().from().directory() + " to " + settings.plan().to().directory();
  }

  /** Keeps the table; what was decided in it stays. */
  Path write(CrosswalkTable table, AnswerTable whole) {
    if (inputs.survey != null) {
      throw new UsageException("a survey cannot be changed; expected a workspace");
    }
    Path file = inputs.root.resolve(settings.file());
    Path folder = file.getParent();
    if (folder != null) {
      OwnFiles.folder(folder);
    }
    if (settings.file().toLowerCase(Locale.ROOT).endsWith(".xlsx")) {
      OwnFiles.write(file, out -> WorkbookWriter.write(List.of(whole), CHOICES, out));
      return file;
    }
    StringWriter csv = new StringWriter();
    PrintWriter out = new PrintWriter(csv);
    AnswerTableWriter.write(whole, Format.csv, 0, false, out);
    out.flush();
    OwnFiles.write(file, csv.toString());
    return file;
  }

  /** Says what to put into compass.yaml, where it does not name the crosswalk. */
  void tellUndeclared() {
    if (!declared) {
      String from = settings.plan().from().directory();
      String to = settings.plan().to().directory();
      inputs
          .err()
          .println(
              "Put this into compass.yaml, so that persons and sober carry know it: crosswalks:"
                  + " [{from: "
                  + from
                  + ", to: "
                  + to
                  + "}]");
    }
  }
}
