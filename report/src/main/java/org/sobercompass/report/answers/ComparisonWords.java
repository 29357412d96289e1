package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.ActEffects.Act;
import org.sobercompass.core.comparison.Cause;
import org.sobercompass.core.comparison.Comparison;
import org.sobercompass.core.comparison.Shift;
import org.sobercompass.core.comparison.SubjectChange;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.key.Key;

/** What differs between two readings, and by what, in words. */
final class ComparisonWords {
  private final AnswerContext then;
  private final AnswerContext now;
  private final ChangeWords changes;

  /** Of what was judged before, with how answers are given about it and about what is now. */
  ComparisonWords(Assessment before, AnswerContext then, AnswerContext now) {
    this.then = then;
    this.now = now;
    this.changes = new ChangeWords(before.powers(), now.zone()).done();
  }

  /** Names keep their case where a sentence begins with one. */
  private static String begun(String sentence) {
    return sentence.matches("(the|what|a|something|several) .*")
        ? FindingAnswers.capital(sentence)
        : sentence;
  }

  /** What a cause is, in words. */
  String sentence(Cause cause) {
    return begun(plain(cause));
  }

  private String plain(Cause cause) {
    return switch (cause.kind()) {
      case CHANGE -> changes.of(cause.change().orElseThrow());
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
  String name(Key key) {
    return now.model().facts().find(key).isPresent() ? now.name(key) : then.name(key);
  }

  static String by(Cause cause) {
    String by = cause.by().isEmpty() ? "" : ", by " + cause.by();
    return by + (cause.carriedOut().isEmpty() ? "" : ", by the amendment " + cause.carriedOut());
  }

  private static long count(Cause cause, boolean gained) {
    return cause.shifts().stream().filter(s -> !s.unsure() && s.gained() == gained).count();
  }

  static String gained(Cause cause) {
    long gained = count(cause, true) + cause.acts().size();
    return gained == 0 ? "" : "+" + gained;
  }

  static String lost(Cause cause) {
    long lost = count(cause, false) + cause.lostActs().size();
    return lost == 0 ? "" : "-" + lost;
  }

  /** Who and what, shortly. */
  String sample(Cause cause) {
    Set<Key> accounts = new HashSet<>();
    Map<String, Set<String>> rights = new LinkedHashMap<>();
    for (Shift shift : cause.shifts()) {
      accounts.add(shift.account());
      rights.computeIfAbsent(system(shift.system()), s -> new TreeSet<>()).add(shift.right());
    }
    for (List<Act> acts : List.of(cause.acts(), cause.lostActs())) {
      for (Act act : acts) {
        accounts.add(then.model().facts().key(act.account()));
        rights.computeIfAbsent("admin actions", s -> new TreeSet<>()).add(act.action().name());
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

  String heading(Comparison comparison) {
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
    int changes = (int) comparison.causes().stream().filter(ComparisonAnswers::isTold).count();
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
