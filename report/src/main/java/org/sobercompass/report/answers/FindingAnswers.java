package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.report.findings.Said;

/** Findings as sheets. Immutable and thread-safe. */
public final class FindingAnswers {
  /** Up to how many findings the least removals are worked out in a list. */
  public static final int ADVISED = 500;

  private static final int SHOWN = 6;
  private static final Pattern KEY = Pattern.compile("\\b(account|group):([a-z0-9-]+)/([^\\s,]+)");

  private final AnswerContext ask;

  /** Words for the findings of a model. */
  public FindingAnswers(AnswerContext ask) {
    this.ask = ask;
  }

  /**
   * All of them, one row each, with everything; waived ones last.
   *
   * @param assessment what they were found in, for the least removals
   * @param seen when each was seen first and last, by its key; none when that was not asked
   */
  public AnswerTable full(Triage sorted, Assessment assessment, Map<String, List<String>> seen) {
    AnswerTable.Builder sheet =
        ask.begin(
            "findings/1",
            "id",
            "finding",
            "kind",
            "rule",
            "weight",
            "sentence",
            "application",
            "cause",
            "subjects",
            "names",
            "why",
            "evidence",
            "advice",
            "mend",
            "removals",
            "proof",
            "ends",
            "gives",
            "state",
            "accepted by",
            "until",
            "first seen",
            "last seen");
    int all = sorted.open().size() + sorted.waived().size();
    boolean advised = all <= ADVISED;
    sorted.open().forEach(f -> row(sheet, f, assessment, advised, "open", "", "", seen));
    sorted
        .waived()
        .forEach(
            w ->
                row(
                    sheet,
                    w.finding(),
                    assessment,
                    advised,
                    "accepted",
                    w.waiver().acceptedBy(),
                    w.waiver().until().toString(),
                    seen));
    if (!advised) {
      sheet.note(
          "There are more than "
              + ADVISED
              + " findings, so the least removals are left out; --detail ID works them out for"
              + " one.");
    }
    sorted.told().forEach(line -> sheet.note(named(line)));
    return ask.finish(sheet.heading(heading(sorted)));
  }

  private void row(
      AnswerTable.Builder sheet,
      Finding finding,
      Assessment assessment,
      boolean advised,
      String state,
      String by,
      String until,
      Map<String, List<String>> seen) {
    AdviceWords words = new AdviceWords(assessment);
    Advice advice = advised ? Advice.of(assessment, finding) : Advice.NONE;
    Said said = FindingWords.of(finding);
    List<String> when = seen.getOrDefault(finding.key().text(), List.of("", ""));
    sheet.row(
        finding.id(),
        finding.key().text(),
        finding.kind().id(),
        finding.rule(),
        finding.weight().word(),
        capital(said.sentence()) + ".",
        finding.system(),
        finding.cause().text(),
        finding.subjects().stream().map(Key::text).toList(),
        finding.subjects().stream().map(ask::name).toList(),
        said.why(),
        FindingWords.evidence(finding),
        said.advice(),
        finding.kind().mend().words(),
        words.changes(advice.changes()),
        words.proof(advice),
        words.ends(advice),
        words.gives(advice),
        state,
        by,
        until,
        when.get(0),
        when.get(1));
  }

  /**
   * All of them for a terminal: a number to ask for details by, weight, kind, sentence.
   *
   * @param seen when each was seen first and last, by its key; none when that was not asked
   */
  public AnswerTable brief(Triage sorted, Map<String, List<String>> seen) {
    AnswerTable.Builder sheet =
        ask.begin("findings-brief/1", "id", "weight", "kind", "seen", "what");
    Map<String, Integer> kinds = new TreeMap<>();
    Map<String, Integer> systems = new TreeMap<>();
    for (Finding finding : sorted.open()) {
      kinds.merge(finding.kind().id(), 1, Integer::sum);
      systems.merge(
          finding.system().isEmpty() ? "none or several" : finding.system(), 1, Integer::sum);
      sheet.row(
          finding.id(),
          sign(finding.weight()),
          finding.kind().id(),
          String.join(" to ", seen.getOrDefault(finding.key().text(), List.of())),
          capital(FindingWords.sentence(finding)));
    }
    List<String> kept = new ArrayList<>();
    for (Triage.Waived waived : sorted.waived()) {
      kept.add(
          "Accepted by "
              + waived.waiver().acceptedBy()
              + " until "
              + waived.waiver().until()
              + " ("
              + waived.finding().id()
              + "): "
              + FindingWords.sentence(waived.finding())
              + ".");
    }
    if (!sorted.open().isEmpty()) {
      sheet
          .fact("by kind", counts(kinds, "kinds"))
          .fact("by application", counts(systems, "applications"));
      sheet.note("Evidence and what ends it, for one: sober findings --detail ID.");
    }
    kept.forEach(sheet::note);
    sorted.told().forEach(line -> sheet.note(named(line)));
    return ask.finish(sheet.heading(heading(sorted)));
  }

  /** A line with the names of subjects instead of their keys. */
  public String named(String line) {
    return KEY.matcher(line)
        .replaceAll(
            found -> {
              boolean group = found.group(1).equals("group");
              KeyKind kind = group ? KeyKind.GROUP : KeyKind.ACCOUNT;
              Key key = new Key(kind, found.group(2), found.group(3));
              return java.util.regex.Matcher.quoteReplacement(ask.name(key));
            });
  }

  /** The most frequent first, with how many there are besides. */
  private static String counts(Map<String, Integer> counts, String what) {
    List<String> all =
        counts.entrySet().stream()
            .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
            .map(e -> e.getKey() + " " + e.getValue())
            .toList();
    return String.join(", ", all.subList(0, Math.min(SHOWN, all.size())))
        + (all.size() > SHOWN ? " and " + (all.size() - SHOWN) + " other " + what : "");
  }

  private static String sign(Weight weight) {
    return switch (weight) {
      case HIGH -> "! high";
      case MEDIUM -> "* medium";
      case LOW -> ". low";
    };
  }

  /** The first letter in upper case, but for what is written in lower case always. */
  public static String capital(String sentence) {
    boolean name = sentence.startsWith("svc-") || sentence.startsWith("uid=");
    return sentence.isEmpty() || name
        ? sentence
        : sentence.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + sentence.substring(1);
  }

  /** The sentence that sums findings up. */
  public static String heading(Triage sorted) {
    List<Finding> findings = sorted.open();
    StringBuilder text = new StringBuilder();
    if (findings.isEmpty()) {
      text.append("No findings");
    } else {
      text.append(AnswerContext.count(findings.size(), "finding", "findings"));
      String separator = ": ";
      for (Weight weight : List.of(Weight.HIGH, Weight.MEDIUM, Weight.LOW)) {
        long count = findings.stream().filter(f -> f.weight() == weight).count();
        if (count > 0) {
          text.append(separator).append(count).append(' ').append(weight.word());
          separator = ", ";
        }
      }
    }
    if (!sorted.waived().isEmpty()) {
      text.append("; ").append(sorted.waived().size()).append(" accepted");
    }
    return text.append('.').toString();
  }

  /** The keys of findings. */
  public static Set<String> keys(List<Finding> findings) {
    Set<String> keys = new HashSet<>();
    findings.forEach(finding -> keys.add(finding.key().text()));
    return keys;
  }
}
