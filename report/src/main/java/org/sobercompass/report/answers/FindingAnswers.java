package org.sobercompass.report.answers;

import java.util.List;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.key.Key;
import org.sobercompass.report.data.Sheet;

/** Findings as sheets. Immutable and thread-safe. */
public final class FindingAnswers {
  private final Ask ask;

  /** Words for the findings of a model. */
  public FindingAnswers(Ask ask) {
    this.ask = ask;
  }

  /** All of them, one row each, with everything. */
  public Sheet full(List<Finding> findings) {
    Sheet.Builder sheet =
        ask.begin(
            "findings/1",
            "finding",
            "kind",
            "rule",
            "weight",
            "sentence",
            "application",
            "cause",
            "subjects",
            "why",
            "evidence",
            "advice");
    for (Finding finding : findings) {
      sheet.row(
          finding.key().text(),
          finding.kind().id(),
          finding.rule(),
          finding.weight().word(),
          finding.sentence(),
          finding.system(),
          finding.cause().text(),
          finding.subjects().stream().map(Key::text).toList(),
          finding.why(),
          finding.evidence().stream().map(Finding.Evidence::text).toList(),
          finding.advice());
    }
    return ask.finish(sheet.heading(heading(findings)));
  }

  /** All of them for a terminal: a number to ask for details by, weight, kind, sentence. */
  public Sheet brief(List<Finding> findings) {
    Sheet.Builder sheet = ask.begin("findings-brief/1", "no.", "weight", "kind", "what");
    for (int i = 0; i < findings.size(); i++) {
      Finding finding = findings.get(i);
      sheet.row(i + 1, sign(finding.weight()), finding.kind().id(), capital(finding.sentence()));
    }
    if (!findings.isEmpty()) {
      sheet.note("Evidence and advice for one: sober findings --detail NO.");
    }
    return ask.finish(sheet.heading(heading(findings)));
  }

  /** One of them with all there is. */
  public Sheet detail(Finding finding) {
    Sheet.Builder sheet = ask.begin("finding-detail/1", "", "what stands there");
    sheet.row("weight", sign(finding.weight()) + ": " + String.join("; ", finding.why()));
    finding.subjects().stream().limit(20).forEach(key -> sheet.row("concerns", ask.name(key)));
    if (finding.subjects().size() > 20) {
      sheet.row("", "… and " + (finding.subjects().size() - 20) + " more");
    }
    finding.evidence().forEach(evidence -> sheet.row("evidence", evidence.text()));
    sheet.row("advice", finding.advice());
    sheet.row("identity", finding.key().text());
    return ask.finish(sheet.heading(capital(finding.sentence()) + "."));
  }

  private static String sign(Weight weight) {
    return switch (weight) {
      case HIGH -> "! high";
      case MEDIUM -> "* medium";
      case LOW -> ". low";
    };
  }

  /** The first letter in upper case. */
  public static String capital(String sentence) {
    return sentence.isEmpty()
        ? sentence
        : sentence.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + sentence.substring(1);
  }

  private static String heading(List<Finding> findings) {
    if (findings.isEmpty()) {
      return "No findings.";
    }
    StringBuilder text = new StringBuilder(Ask.count(findings.size(), "finding", "findings"));
    String separator = ": ";
    for (Weight weight : List.of(Weight.HIGH, Weight.MEDIUM, Weight.LOW)) {
      long count = findings.stream().filter(f -> f.weight() == weight).count();
      if (count > 0) {
        text.append(separator).append(count).append(' ').append(weight.word());
        separator = ", ";
      }
    }
    return text.append('.').toString();
  }
}
