package org.sobercompass.report.page;

import gg.jte.ContentType;
import gg.jte.TemplateEngine;
import gg.jte.output.StringOutput;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.problem.Gap;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.report.answers.AdviceWords;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.report.answers.ListAnswers;
import org.sobercompass.report.answers.ListAnswers.Line;

/**
 * One self-contained HTML page: the answer in words, the findings with their routes drawn, a matrix
 * of accounts and roles, a field to search. It loads nothing and runs only its own few lines.
 */
public final class Page {
  private static final int SUBJECTS = 30;
  private static final int LINES = 400;

  private final AnswerContext ask;
  private final Triage sorted;
  private final List<Finding> findings;
  private final Assessment assessment;

  /**
   * A page of findings.
   *
   * @param sorted the open ones, and apart those that somebody accepted
   * @param assessment what they were found in, for the least removals
   */
  public Page(AnswerContext ask, Triage sorted, Assessment assessment) {
    this.ask = ask;
    this.sorted = sorted;
    this.findings = sorted.open();
    this.assessment = assessment;
  }

  /** A finding as the template shows it. */
  public record Item(
      String id,
      String weight,
      String kind,
      String sentence,
      List<String> why,
      List<String> subjects,
      List<String> evidence,
      String advice,
      Ending ending,
      String key,
      String drawing) {}

  /** What ends a finding, as the template shows it: removals, how sure it is, what else changes. */
  public record Ending(
      String mend, List<String> removals, String proof, List<String> ends, List<String> gives) {}

  /** A finding that somebody accepted, as the template shows it. */
  public record Accepted(
      String weight,
      String kind,
      String sentence,
      String by,
      String until,
      String reason,
      String control) {}

  /** A tree of files or tables as the template shows it. */
  public record Tree(String name, int leftOut, List<Line> lines) {}

  private List<Tree> trees() {
    return ask.model().systems().stream()
        .filter(view -> view.system().isOfLists())
        .map(
            view ->
                new Tree(
                    view.system().name(),
                    Math.max(0, view.resources().size() - LINES),
                    ListAnswers.lines(view, LINES)))
        .toList();
  }

  /** The page as text. */
  public String html() {
    Map<String, Object> values = new LinkedHashMap<>();
    values.put("lead", lead());
    values.put("facts", facts());
    values.put("items", items());
    values.put("accepted", accepted());
    values.put(
        "told", sorted.told().stream().map(line -> new FindingAnswers(ask).named(line)).toList());
    values.put("matrix", Matrix.of(ask.model()));
    values.put("trees", trees());
    values.put(
        "gaps",
        assessment.gaps().stream().map(gap -> FindingAnswers.capital(gap.words())).toList());
    values.put("problems", ask.problems().stream().map(Problem::toString).toList());
    StringOutput out = new StringOutput();
    TemplateEngine.createPrecompiled(
            null, ContentType.Html, null, "org.sobercompass.report.generated")
        .render("page.jte", values, out);
    return withItsScriptOnly(out.toString());
  }

  /** Lets the page run the script it came with and no other (CSP Level 3 section 2.3.1). */
  private static String withItsScriptOnly(String html) {
    int begin = html.lastIndexOf("<script>") + "<script>".length();
    String script = html.substring(begin, html.indexOf("</script>", begin));
    try {
      byte[] digest =
          MessageDigest.getInstance("SHA-256").digest(script.getBytes(StandardCharsets.UTF_8));
      return html.replaceFirst(
          "script-src 'unsafe-inline'",
          "script-src 'sha256-" + Base64.getEncoder().encodeToString(digest) + "'");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }

  private String lead() {
    AccessModel model = ask.model();
    long high = findings.stream().filter(f -> f.weight() == Weight.HIGH).count();
    return AnswerContext.count(model.facts().accounts(), "account", "accounts")
        + " and "
        + AnswerContext.count(model.facts().groups(), "group", "groups")
        + ", seen by "
        + AnswerContext.count(model.systems().size(), "application", "applications")
        + ": "
        + (findings.isEmpty()
            ? assessment.gaps().stream().anyMatch(Gap::isMendable)
                ? "nothing was found that should not be in what was read."
                : "nothing was found that should not be."
            : AnswerContext.count(findings.size(), "thing was found", "things were found")
                + " that should not be, "
                + high
                + " of them of high weight"
                + (sorted.waived().isEmpty()
                    ? "."
                    : "; " + sorted.waived().size() + " more accepted."));
  }

  private List<String> facts() {
    List<String> facts = new ArrayList<>();
    ask.begin("page/1").build().facts().forEach((name, value) -> facts.add(name + " " + value));
    return facts;
  }

  private List<Item> items() {
    List<Item> items = new ArrayList<>();
    for (Finding finding : findings) {
      List<String> subjects =
          new ArrayList<>(finding.subjects().stream().limit(SUBJECTS).map(ask::name).toList());
      if (finding.subjects().size() > SUBJECTS) {
        subjects.add("and " + (finding.subjects().size() - SUBJECTS) + " more");
      }
      items.add(
          new Item(
              finding.id(),
              finding.weight().word(),
              finding.kind().id(),
              FindingAnswers.capital(finding.sentence()),
              finding.why(),
              subjects,
              finding.evidence().stream().map(Finding.Evidence::text).toList(),
              FindingAnswers.capital(finding.advice()),
              ending(finding),
              finding.key().text(),
              new RouteDrawing(ask.model()).draw(finding.evidence())));
    }
    return items;
  }

  private Ending ending(Finding finding) {
    AdviceWords words = new AdviceWords(assessment);
    Advice advice =
        findings.size() > FindingAnswers.ADVISED ? Advice.NONE : Advice.of(assessment, finding);
    return new Ending(
        finding.kind().mend().words(),
        words.changes(advice.changes()),
        words.proof(advice),
        words.endsInBrief(advice),
        words.givesInBrief(advice));
  }

  private List<Accepted> accepted() {
    return sorted.waived().stream()
        .map(
            waived ->
                new Accepted(
                    waived.finding().weight().word(),
                    waived.finding().kind().id(),
                    FindingAnswers.capital(waived.finding().sentence()),
                    waived.waiver().acceptedBy(),
                    waived.waiver().until().toString(),
                    waived.waiver().reason(),
                    waived.waiver().control()))
        .toList();
  }
}
