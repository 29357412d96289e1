package org.sobercompass.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.comparison.Comparison;
import org.sobercompass.core.comparison.Reading;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.organization.Organization;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.ComparisonAnswers;
import org.sobercompass.report.answers.TimelineAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.sources.amendment.AmendmentFolder;
import org.sobercompass.sources.workspace.Surveys;
import org.sobercompass.sources.workspace.Workspace;

/** What differs between two surveys, or between one and what is read now. */
final class SurveyComparison {
  /** Who changed an entry last, where a directory keeps it (RFC 4512 section 3.4). */
  private static final Set<String> MODIFIER = Set.of("modifiersname", "creatorsname");

  private final Inputs inputs;
  private final List<Path> amendments;
  private final boolean routineToo;

  /**
   * A comparison.
   *
   * @param amendments what was carried out in between
   * @param routineToo whether routine changes are shown too
   */
  SurveyComparison(Inputs inputs, List<Path> amendments, boolean routineToo) {
    this.inputs = inputs;
    this.amendments = amendments;
    this.routineToo = routineToo;
  }

  /** What was compared, with what to say of it. */
  private record Compared(Comparison comparison, ComparisonAnswers answers, int routine) {
    List<AnswerTable> brief() {
      return answers.brief(comparison, routine);
    }
  }

  int run(List<String> names) {
    Compared compared = compare(names);
    if (inputs.isTable()) {
      String gap = "";
      for (AnswerTable part : compared.brief()) {
        inputs.out().print(gap);
        inputs.print(part);
        gap = "\n";
      }
    } else {
      inputs.print(compared.answers.all(compared.comparison));
    }
    return compared.comparison.isNone() ? Exit.OK : Exit.NO;
  }

  /** The same as tables, the answer first. */
  List<AnswerTable> tables(List<String> names) {
    return compare(names).brief();
  }

  private Compared compare(List<String> names) {
    Organization before = before(names);
    Organization now = names.size() == 2 ? open(Path.of(names.get(1))) : now();
    Comparison comparison = Comparison.of(before.assessment(), now.assessment());
    Map<String, AmendmentFolder> carriedOut = new HashMap<>();
    amendments.forEach(a -> carriedOut.put(name(a), AmendmentFolder.read(a)));
    for (Map.Entry<String, AmendmentFolder> one : carriedOut.entrySet()) {
      comparison = comparison.carriedOut(one.getKey(), one.getValue().foretold());
    }
    int all = size(comparison);
    if (!routineToo) {
      comparison = comparison.without(now.assessment().rules().routine());
    }
    ComparisonAnswers answers =
        new ComparisonAnswers(before.assessment(), context(before), context(now));
    return new Compared(comparison, answers, all - size(comparison));
  }

  int timeline() {
    inputs.print(TimelineAnswers.of(context(inputs.organization()), readings()));
    return Exit.OK;
  }

  /** All surveys of the workspace, the earliest first, and what is read now. */
  Map<String, Reading> readings() {
    List<Path> surveys = new ArrayList<>(Surveys.all(inputs.root));
    Collections.reverse(surveys);
    Map<String, Reading> readings = new LinkedHashMap<>();
    for (Path survey : surveys) {
      String name = survey.getFileName().toString().replace(Surveys.SUFFIX, "");
      readings.put(name, Reading.of(open(survey).assessment()));
    }
    readings.put("now", Reading.of(inputs.organization().assessment()));
    return readings;
  }

  private static String name(Path folder) {
    Path last = folder.toAbsolutePath().normalize().getFileName();
    return last == null ? folder.toString() : last.toString();
  }

  private static int size(Comparison comparison) {
    return comparison.causes().size() + comparison.subjects().size();
  }

  private AnswerContext context(Organization of) {
    return new AnswerContext(
        of.assessment().model(), of.workspace().zone(), of.problems(), of.assessment().gaps());
  }

  private Organization now() {
    inputs.open(MODIFIER);
    return inputs.organization();
  }

  private Organization before(List<String> names) {
    if (!names.isEmpty()) {
      return open(Path.of(names.get(0)));
    }
    List<Path> surveys = Surveys.all(inputs.root);
    if (surveys.isEmpty()) {
      throw new UsageException(
          "there is no survey in "
              + inputs.root.resolve("surveys")
              + " to compare with; expected one, as sober survey takes it, or its name");
    }
    return open(surveys.get(0));
  }

  private Organization open(Path path) {
    try {
      Workspace read =
          Files.isDirectory(path)
              ? Workspace.open(path, MODIFIER)
              : Workspace.ofSurvey(path, MODIFIER);
      return Organization.of(read, read.usualTime(), Optional.empty());
    } catch (BadInputException e) {
      inputs.err().println("In " + path + ":");
      throw e;
    }
  }
}
