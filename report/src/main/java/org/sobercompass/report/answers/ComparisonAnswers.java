package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.ActEffects.Act;
import org.sobercompass.core.comparison.Cause;
import org.sobercompass.core.comparison.Comparison;
import org.sobercompass.core.comparison.Reading;
import org.sobercompass.core.comparison.Shift;
import org.sobercompass.core.comparison.SubjectChange;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.key.Key;
import org.sobercompass.report.data.AnswerTable;

/** What differs between two readings, in words and tables. */
public final class ComparisonAnswers {
  /** Of more rows a terminal shows the first. */
  private static final int MOST_ROWS = 40;

  private final AnswerContext then;
  private final AnswerContext now;
  private final ChangeWords words;

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
    this.words = new ChangeWords(before.powers(), now.zone()).done();
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
      boolean told = told(cause);
      if (told && shown++ < MOST_ROWS) {
        causes.row(begun(sentence(cause)) + by(cause), gained(cause), lost(cause), sample(cause));
      }
    }
    if (shown > MOST_ROWS) {
      causes.note((shown - MOST_ROWS) + " more changes; -f csv has each.");
    }
    all.add(causes.heading(heading(comparison)));
    subjects(comparison, all);
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

  /** Who is new or gone without any right is told with the accounts, not with the changes. */
  private static boolean told(Cause cause) {
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
      String change = begun(sentence(cause));
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
    return now.finish(sheet.heading(heading(comparison)));
  }

  /**
   * Readings beside each other.
   *
   * @param readings by the name of the survey, the earliest first
   */
  public static AnswerTable timeline(AnswerContext now, Map<String, Reading> readings) {
    AnswerTable.Builder sheet =
        now.begin(
            "timeline/1",
            "survey",
            "as of",
            "accounts",
            "disabled",
            "groups",
            "assignments",
            "powerful",
            "high",
            "medium",
            "low");
    readings.forEach(
        (name, reading) ->
            sheet.row(
                name,
                reading.asOf().atZone(now.zone()).toLocalDate(),
                reading.accounts(),
                reading.disabled(),
                reading.groups(),
                reading.assignments(),
                reading.powerful(),
                reading.findings().getOrDefault(Weight.HIGH, 0),
                reading.findings().getOrDefault(Weight.MEDIUM, 0),
                reading.findings().getOrDefault(Weight.LOW, 0)));
    List<Reading> all = List.copyOf(readings.values());
    Reading first = all.get(0);
    Reading last = all.get(all.size() - 1);
    return now.finish(
        sheet.heading(
            AnswerContext.count(all.size(), "reading", "readings")
                + ": "
                + part("findings", total(first), total(last))
                + ", "
                + part("of high weight", high(first), high(last))
                + ", "
                + part("powerful accounts", first.powerful(), last.powerful())
                + "."));
  }

  private static String part(String what, int first, int last) {
    return first == last ? last + " " + what : first + " → " + last + " " + what;
  }

  private static int total(Reading reading) {
    return reading.findings().values().stream().mapToInt(Integer::intValue).sum();
  }

  private static int high(Reading reading) {
    return reading.findings().getOrDefault(Weight.HIGH, 0);
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
        name(shift.account()),
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
        FindingAnswers.capital(finding.sentence()));
  }

  private static void finding(String what, Finding finding, AnswerTable.Builder into) {
    into.row(
        what,
        finding.weight().word(),
        finding.kind().id(),
        FindingAnswers.capital(finding.sentence()));
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

  /** Names keep their case where a sentence begins with one. */
  private static String begun(String sentence) {
    return sentence.matches("(the|what|a|something|several) .*")
        ? FindingAnswers.capital(sentence)
        : sentence;
  }

  /** What a cause is, in words. */
  private String sentence(Cause cause) {
    return switch (cause.kind()) {
      case CHANGE -> words.of(cause.change().orElseThrow());
      case NEW -> cause.subject().map(this::name).orElse("") + " is new";
      case GONE -> cause.subject().map(this::name).orElse("") + " is gone";
      case TIME -> "a day came: windows began or ended, accounts ended";
      case TOGETHER -> "several of the changes together";
      case DEFINITION ->
          "something else of "
              + system(cause.system())
              + ": its roles, rules, nodes or register, or what it sees of a directory";
    };
  }

  private String system(String id) {
    return now.model()
        .system(id)
        .or(() -> then.model().system(id))
        .map(SystemView::system)
        .map(system -> system.name())
        .orElse(id);
  }

  /** The name of a key as it is now, else as it was. */
  private String name(Key key) {
    return now.model().facts().find(key).isPresent() ? now.name(key) : then.name(key);
  }

  private static String by(Cause cause) {
    String by = cause.by().isEmpty() ? "" : ", by " + cause.by();
    return by + (cause.carriedOut().isEmpty() ? "" : ", by the amendment " + cause.carriedOut());
  }

  private static long count(Cause cause, boolean gained) {
    return cause.shifts().stream().filter(s -> !s.unsure() && s.gained() == gained).count();
  }

  private static String gained(Cause cause) {
    long gained = count(cause, true) + cause.acts().size();
    return gained == 0 ? "" : "+" + gained;
  }

  private static String lost(Cause cause) {
    long lost = count(cause, false) + cause.lostActs().size();
    return lost == 0 ? "" : "-" + lost;
  }

  /** Who and what, shortly. */
  private String sample(Cause cause) {
    Set<Key> accounts = new HashSet<>();
    Map<String, Set<String>> rights = new LinkedHashMap<>();
    for (Shift shift : cause.shifts()) {
      accounts.add(shift.account());
      rights
          .computeIfAbsent(system(shift.system()), s -> new java.util.TreeSet<>())
          .add(shift.right());
    }
    for (List<Act> acts : List.of(cause.acts(), cause.lostActs())) {
      for (Act act : acts) {
        accounts.add(then.model().facts().key(act.account()));
        rights
            .computeIfAbsent("admin actions", s -> new java.util.TreeSet<>())
            .add(act.action().name());
      }
    }
    if (accounts.isEmpty()) {
      return "no effect";
    }
    long unsure = cause.shifts().stream().filter(Shift::unsure).count();
    String who =
        accounts.size() == 1 ? name(accounts.iterator().next()) : accounts.size() + " accounts";
    return (unsure > 0 ? unsure + " undecided now; " : "")
        + who
        + "; "
        + rights.entrySet().stream()
            .limit(3)
            .map(e -> e.getKey() + ": " + few(e.getValue()))
            .collect(Collectors.joining("; "))
        + (rights.size() > 3 ? "; and " + (rights.size() - 3) + " more applications" : "");
  }

  private static String few(Set<String> some) {
    String shown = some.stream().limit(3).collect(Collectors.joining(", "));
    return shown + (some.size() > 3 ? " and " + (some.size() - 3) + " more" : "");
  }

  private String heading(Comparison comparison) {
    String since = "Since " + now.moment(comparison.from()) + ": ";
    if (comparison.isNone()) {
      return since + "nothing differs.";
    }
    List<String> parts = new ArrayList<>();
    parts.add(side(comparison, true));
    parts.add(side(comparison, false));
    int unsure =
        comparison.causes().stream()
            .mapToInt(c -> (int) c.shifts().stream().filter(Shift::unsure).count())
            .sum();
    if (unsure > 0) {
      parts.add(AnswerContext.count(unsure, "permission is", "permissions are") + " undecided now");
    }
    int changes = (int) comparison.causes().stream().filter(ComparisonAnswers::told).count();
    parts.add(AnswerContext.count(changes, "change", "changes"));
    count(comparison, SubjectChange.Kind.NEW, "is new", "are new", parts);
    count(comparison, SubjectChange.Kind.GONE, "is gone", "are gone", parts);
    if (!comparison.begun().isEmpty()) {
      parts.add(AnswerContext.count(comparison.begun().size(), "finding", "findings") + " began");
    }
    if (!comparison.ended().isEmpty()) {
      parts.add(AnswerContext.count(comparison.ended().size(), "finding", "findings") + " ended");
    }
    return since + String.join("; ", parts) + ".";
  }

  private static void count(
      Comparison comparison, SubjectChange.Kind kind, String one, String many, List<String> into) {
    int count = (int) comparison.subjects().stream().filter(s -> s.kind() == kind).count();
    if (count > 0) {
      into.add(
          AnswerContext.count(count, "account or group " + one, "accounts and groups " + many));
    }
  }

  private static String side(Comparison comparison, boolean gained) {
    Set<String> accounts = new HashSet<>();
    int shifts = 0;
    int acts = 0;
    for (Cause cause : comparison.causes()) {
      for (Shift shift : cause.shifts()) {
        if (!shift.unsure() && shift.gained() == gained) {
          accounts.add(shift.account().text());
          shifts++;
        }
      }
      for (Act act : gained ? cause.acts() : cause.lostActs()) {
        accounts.add("act " + act.account());
        acts++;
      }
    }
    String verb = gained ? "gained" : "lost";
    if (shifts + acts == 0) {
      return "nobody " + verb + " anything";
    }
    List<String> what = new ArrayList<>();
    if (shifts > 0) {
      what.add(AnswerContext.count(shifts, "permission", "permissions"));
    }
    if (acts > 0) {
      what.add(AnswerContext.count(acts, "admin action", "admin actions"));
    }
    return AnswerContext.count(accounts.size(), "account", "accounts")
        + " "
        + verb
        + " "
        + String.join(" and ", what);
  }
}
