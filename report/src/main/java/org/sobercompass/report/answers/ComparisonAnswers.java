package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.audit.ActEffects.Act;
import org.sobercompass.core.comparison.Cause;
import org.sobercompass.core.comparison.Comparison;
import org.sobercompass.core.comparison.Shift;
import org.sobercompass.core.comparison.SubjectChange;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.findings.FindingWords;

/** What differs between two readings, in words and tables. */
public final class ComparisonAnswers {
  /** Of more rows a terminal shows the first. */
  private static final int MOST_ROWS = 40;

  private final AnswerContext then;
  private final AnswerContext now;
  private final ComparisonWords words;

  /**
   * Answers about a comparison.
   *
   * @param before what was judged before
   * @param then how answers about it are given
   * @param now how answers about what is now are given
   */
  public ComparisonAnswers(Assessment before, AnswerContext then, AnswerContext now) {
    this.then = then;
    this.now = now;
    this.words = new ComparisonWords(before, then, now);
  }

  /**
   * For a terminal: what did it, then who is new or gone, then findings, then the rest.
   *
   * @param routine how many changes are left out, since they are routine
   */
  public List<AnswerTable> brief(Comparison comparison, int routine) {
    List<AnswerTable.Builder> all = new ArrayList<>();
    AnswerTable.Builder causes =
        begin(comparison, "changes-brief/1", "change", "gained", "lost", "what");
    int shown = 0;
    for (Cause cause : comparison.causes()) {
      if (isTold(cause) && shown++ < MOST_ROWS) {
        causes.row(
            words.sentence(cause) + ComparisonWords.by(cause),
            ComparisonWords.gained(cause),
            ComparisonWords.lost(cause),
            words.sample(cause));
      }
    }
    if (shown > MOST_ROWS) {
      causes.note((shown - MOST_ROWS) + " more changes; -f csv has each.");
    }
    all.add(causes.heading(words.heading(comparison)));
    subjects(comparison, all);
    findings(comparison, all);
    AnswerTable.Builder last = all.get(all.size() - 1);
    comparison.otherwise().forEach(line -> last.note(FindingAnswers.capital(line) + "."));
    if (routine > 0) {
      last.note(
          AnswerContext.count(routine, "change is", "changes are")
              + " routine and not shown; --all shows them.");
    }
    if (!comparison.alone()) {
      last.note("The effects of each change by itself were not worked out: there are too many.");
    }
    List<AnswerTable> built = new ArrayList<>();
    all.subList(0, all.size() - 1).forEach(part -> built.add(part.build()));
    built.add(now.finish(last));
    return built;
  }

  private static void findings(Comparison comparison, List<AnswerTable.Builder> all) {
    AnswerTable.Builder findings =
        AnswerTable.of("changes-findings/1", "finding", "weight", "kind", "what");
    comparison.begun().stream().limit(MOST_ROWS).forEach(f -> finding("began", f, findings));
    comparison.ended().stream().limit(MOST_ROWS).forEach(f -> finding("ended", f, findings));
    if (findings.size() > 0) {
      int more = comparison.begun().size() + comparison.ended().size() - findings.size();
      if (more > 0) {
        findings.note(more + " more; -f csv has each.");
      }
      all.add(findings.heading("Findings:"));
    }
  }

  /** Who is new or gone without any right is told with the accounts, not with the changes. */
  static boolean isTold(Cause cause) {
    boolean ofSubject = cause.kind() == Cause.Kind.NEW || cause.kind() == Cause.Kind.GONE;
    return !ofSubject || cause.size() > 0;
  }

  /** Everything, one row each: each effect with its cause, then accounts, findings, the rest. */
  public AnswerTable all(Comparison comparison) {
    AnswerTable.Builder sheet =
        begin(
            comparison,
            "changes/1",
            "what",
            "change",
            "by",
            "amendment",
            "account",
            "login",
            "application",
            "permission",
            "where",
            "finding",
            "sentence");
    for (Cause cause : comparison.causes()) {
      String change = words.sentence(cause);
      if (cause.size() == 0) {
        sheet.row("change", change, cause.by(), cause.carriedOut(), "", "", "", "", "", "", "");
      }
      cause.shifts().forEach(s -> effect(cause, change, s, sheet));
      cause.acts().forEach(act -> act("gained", cause, change, act, sheet));
      cause.lostActs().forEach(act -> act("lost", cause, change, act, sheet));
    }
    for (SubjectChange one : comparison.subjects()) {
      String key = one.key().text();
      sheet.row(one.kind().word(), "", "", "", key, one.name(), "", "", "", "", subject(one));
    }
    comparison.begun().forEach(f -> finding("finding began", f, comparison, sheet));
    comparison.ended().forEach(f -> finding("finding ended", f, comparison, sheet));
    comparison
        .otherwise()
        .forEach(
            line ->
                sheet.row(
                    "otherwise", "", "", "", "", "", "", "", "", "", FindingAnswers.capital(line)));
    return now.finish(sheet.heading(words.heading(comparison)));
  }

  private AnswerTable.Builder begin(Comparison comparison, String schema, String... columns) {
    return now.begin(schema, columns).fact("since", now.moment(comparison.from()));
  }

  private void effect(Cause cause, String change, Shift shift, AnswerTable.Builder into) {
    into.row(
        shift.unsure() ? "undecided" : shift.gained() ? "gained" : "lost",
        change,
        cause.by(),
        cause.carriedOut(),
        shift.account().text(),
        words.name(shift.account()),
        shift.system(),
        shift.right(),
        shift.where(),
        "",
        "");
  }

  private void act(String what, Cause cause, String change, Act act, AnswerTable.Builder into) {
    into.row(
        what,
        change,
        cause.by(),
        cause.carriedOut(),
        then.model().facts().key(act.account()).text(),
        then.model().facts().login(act.account()),
        "",
        act.action().id(),
        act.object().text(),
        "",
        "");
  }

  private static void finding(
      String what, Finding finding, Comparison comparison, AnswerTable.Builder into) {
    into.row(
        what,
        "",
        "",
        "",
        "",
        "",
        "",
        "",
        "",
        finding.key().text(),
        FindingAnswers.capital(FindingWords.sentence(finding)));
  }

  private static void finding(String what, Finding finding, AnswerTable.Builder into) {
    into.row(
        what,
        finding.weight().word(),
        finding.kind().id(),
        FindingAnswers.capital(FindingWords.sentence(finding)));
  }

  private static void subjects(Comparison comparison, List<AnswerTable.Builder> all) {
    AnswerTable.Builder sheet = AnswerTable.of("changes-subjects/1", "who", "what");
    comparison.subjects().stream()
        .limit(MOST_ROWS)
        .forEach(one -> sheet.row(one.name(), subject(one)));
    if (sheet.size() > 0) {
      int more = comparison.subjects().size() - sheet.size();
      if (more > 0) {
        sheet.note(more + " more; -f csv has each.");
      }
      all.add(sheet.heading("Accounts and groups:"));
    }
  }

  private static String subject(SubjectChange one) {
    String kind = one.of().words();
    return switch (one.kind()) {
      case NEW -> "is a new " + kind;
      case GONE -> "is gone";
      case RENAMED -> "was called " + one.was();
      case MOVED -> "was moved from " + one.was() + " to " + one.is();
    };
  }
}
