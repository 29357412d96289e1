package org.sobercompass.report.page;

import gg.jte.ContentType;
import gg.jte.TemplateEngine;
import gg.jte.output.StringOutput;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Owners;
import org.sobercompass.core.problem.Gap;
import org.sobercompass.core.problem.Plain;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.FindingAnswers;

/**
 * Self-contained HTML pages: of the whole organization, or of some things in it. A page says the
 * answer in words first, then draws, then lists. It loads nothing and runs only the script it came
 * with. Not thread-safe.
 *
 * <pre>{@code
 * Pages pages = new Pages(ask, assessment, owners, sorted);
 * String html = Pages.html(pages.of(List.of(new Thing.Account(17))));
 * }</pre>
 */
public final class Pages {
  /** The templates, found by whatever thread renders. */
  private static final TemplateEngine TEMPLATES =
      TemplateEngine.createPrecompiled(
          null,
          ContentType.Html,
          Pages.class.getClassLoader(),
          "org.sobercompass.report.generated");

  private final PageContext context;

  /**
   * Pages of what was judged.
   *
   * @param owners who answers for what
   * @param sorted the open findings, and apart those that somebody accepted
   */
  public Pages(AnswerContext ask, Assessment assessment, Owners owners, Triage sorted) {
    this.context = new PageContext(ask, assessment, owners, sorted);
  }

  /** The page of the whole organization. O(a run over all accounts and all findings). */
  public PageContent organization() {
    return finished(
        "Who can do what, and what is wrong with it", new OrganizationSections(context).all());
  }

  /** A page of some things, each with sections of its own, and the findings that concern them. */
  public PageContent of(List<Thing> things) {
    ThingSections sections = new ThingSections(context);
    things.forEach(sections::add);
    return finished(sections.title(), sections.all());
  }

  private PageContent finished(String title, PageContext.Draft draft) {
    List<Section> sections = new ArrayList<>(draft.sections());
    new NamedSection(context).make().ifPresent(sections::add);
    List<String> facts = new ArrayList<>();
    context
        .ask()
        .begin("page/1")
        .build()
        .facts()
        .forEach((name, value) -> facts.add(name + " " + value));
    for (Gap gap : context.assessment().gaps()) {
      facts.add(FindingAnswers.capital(gap.words()) + ".");
    }
    return new PageContent(
        title,
        draft.answers(),
        facts,
        sections,
        context.ask().problems().stream().map(Problem::toString).toList());
  }

  /** A page as text. */
  public static String html(PageContent content) {
    return render("page.jte", Map.of("page", content));
  }

  static String render(String template, Map<String, Object> values) {
    StringOutput out = new StringOutput();
    TEMPLATES.render(template, values, out);
    return withItsScriptOnly(harmless(out.toString()));
  }

  /** Nothing that turns the direction of text, and no control characters but line ends. */
  private static String harmless(String html) {
    char[] safe = html.toCharArray();
    boolean changed = false;
    for (int i = 0; i < safe.length; i++) {
      char c = safe[i];
      if (Plain.isUnsafe(c) && c != '\n' && c != '\t' && c != '\r') {
        safe[i] = '\uFFFD';
        changed = true;
      }
    }
    return changed ? new String(safe) : html;
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
}
