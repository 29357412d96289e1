package org.sobercompass.report.pipeline;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.expect.Outcome;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.report.findings.Said;

/**
 * One thing that was checked, as pipelines see it.
 *
 * @param rule the kind of finding, or {@code expectation}
 * @param ruleWords the rule in words
 * @param id unique: the key of the finding, the id of the expectation
 * @param level how much it matters
 * @param sentence what was found
 * @param lines evidence and advice
 * @param file where it is stated, or empty
 * @param line in that file, or 0
 * @param accepted who accepted it and why, or empty
 */
public record Check(
    String rule,
    String ruleWords,
    String id,
    Level level,
    String sentence,
    List<String> lines,
    String file,
    int line,
    String accepted) {

  /** How much something matters. */
  public enum Level {
    /** Nothing was found. */
    NONE,
    NOTE,
    WARNING,
    ERROR
  }

  /** Findings as checks, worst first, the accepted ones last. */
  public static List<Check> of(Triage sorted) {
    List<Check> all = new ArrayList<>();
    sorted.open().forEach(finding -> all.add(of(finding, "")));
    sorted
        .waived()
        .forEach(
            w ->
                all.add(
                    of(
                        w.finding(),
                        w.waiver().acceptedBy()
                            + " until "
                            + w.waiver().until()
                            + ": "
                            + w.waiver().reason())));
    return all;
  }

  private static Check of(Finding finding, String accepted) {
    Said said = FindingWords.of(finding);
    List<String> lines = new ArrayList<>(FindingWords.evidence(finding));
    lines.add("What ends it: " + said.advice() + ".");
    Level level =
        finding.weight() == Weight.HIGH
            ? Level.ERROR
            : finding.weight() == Weight.MEDIUM ? Level.WARNING : Level.NOTE;
    return new Check(
        finding.kind().id(),
        finding.kind().words(),
        finding.key().text(),
        level,
        said.sentence(),
        lines,
        "",
        0,
        accepted);
  }

  /** Expectations as checks, in the order they are stated. */
  public static List<Check> of(List<Outcome> outcomes) {
    List<Check> all = new ArrayList<>();
    for (Outcome outcome : outcomes) {
      Level level =
          outcome.verdict() == Verdict.YES
              ? Level.NONE
              : outcome.verdict() == Verdict.NO ? Level.ERROR : Level.WARNING;
      all.add(
          new Check(
              "expectation",
              "what was stated is not so",
              outcome.expectation().id(),
              level,
              outcome.expectation().name() + ": " + outcome.sentence(),
              outcome.lines(),
              outcome.expectation().place().file(),
              outcome.expectation().place().line(),
              ""));
    }
    return all;
  }

  /** The rules of checks with their words, each once, in order. */
  static Map<String, String> rules(List<Check> checks) {
    Map<String, String> rules = new LinkedHashMap<>();
    checks.forEach(check -> rules.putIfAbsent(check.rule, check.ruleWords));
    return rules;
  }
}
