package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.readiness.Given;
import org.sobercompass.core.readiness.Readiness;
import org.sobercompass.core.readiness.ReadinessCheck;
import org.sobercompass.core.readiness.Shortfall;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Stopped;
import org.sobercompass.report.data.AnswerTable;

/** What an account would meet, without anyone signing in as it. Not thread-safe. */
public final class TrialAnswers {
  private final AnswerContext ask;
  private final Asker asker;
  private final Facts facts;
  private final ReadinessCheck check;

  /**
   * Answers about readiness.
   *
   * @param from the host somebody would sign in from, if that is asked
   */
  public TrialAnswers(AnswerContext ask, Optional<String> from) {
    this.ask = ask;
    this.asker = ask.model().asker();
    this.facts = ask.model().facts();
    this.check = new ReadinessCheck(asker, from);
  }

  /** Whether an account can use a system. */
  public Truth ready(SystemView view, int account) {
    return check.of(view, account).ready();
  }

  /** The conditions for one account in one system, in order. */
  public AnswerTable one(SystemView view, int account) {
    Readiness readiness = check.of(view, account);
    AnswerTable.Builder sheet = ask.begin("trial/1", "step", "met", "condition", "what was found");
    Optional<Readiness.Step> first = readiness.firstFailure();
    int number = 0;
    for (Readiness.Step step : readiness.steps()) {
      boolean stops = first.filter(step::equals).isPresent();
      sheet.row(
          ++number,
          sign(step.met()) + (stops ? "  <- stops here" : ""),
          step.condition().words(),
          step.detail());
    }
    sheet.heading(heading(view, account, readiness));
    if (!readiness.signInName().isEmpty()) {
      sheet.fact("name to type", readiness.signInName() + " (" + letters(readiness) + ")");
    }
    return ask.finish(sheet, view);
  }

  private static String letters(Readiness readiness) {
    return readiness
        .caseCounts()
        .map(counts -> counts ? "exactly so: upper and lower case differ" : "upper or lower case")
        .orElse("as written; nothing says whether upper and lower case differ");
  }

  private String heading(SystemView view, int account, Readiness readiness) {
    String who = Words.subject(facts, account);
    String app = view.system().name();
    int steps = readiness.steps().size();
    return switch (readiness.ready()) {
      case TRUE -> who + " can use " + app + ": all " + steps + " conditions are met.";
      case UNDEFINED -> {
        List<String> open =
            readiness.steps().stream()
                .filter(step -> step.met() == Truth.UNDEFINED)
                .map(step -> step.condition().words())
                .toList();
        yield "It is not known whether "
            + who
            + " can use "
            + app
            + ": "
            + String.join("; ", open)
            + "?";
      }
      case FALSE -> {
        long failing = readiness.steps().stream().filter(step -> step.met() == Truth.FALSE).count();
        Readiness.Step first = readiness.firstFailure().orElseThrow();
        yield who
            + " cannot use "
            + app
            + ": "
            + (first.detail().isEmpty() ? first.condition().failing() : first.detail())
            + (failing > 1 ? ", and " + (failing - 1) + " more after that." : ".");
      }
    };
  }

  /** What it could do there, once all conditions are met. */
  public AnswerTable rights(SystemView view, int account) {
    AnswerTable.Builder sheet = ask.begin("trial-rights/1", "permission", "where");
    List<Holding> holdings = asker.holdings(view, account);
    for (Holding holding : strongest(view, holdings)) {
      sheet.row(view.rights().text(holding.right()), Words.place(view, holding));
    }
    return sheet
        .heading(
            holdings.isEmpty()
                ? "It could do nothing there."
                : (ready(view, account) == Truth.TRUE
                        ? "What it could do there"
                        : "What it could do there if all conditions were met")
                    + " (the highest level of each area):")
        .build();
  }

  /** Holdings that no other one of the same place contains. */
  private static List<Holding> strongest(SystemView view, List<Holding> holdings) {
    List<Holding> kept = new ArrayList<>();
    for (Holding one : holdings) {
      boolean contained =
          view.rights().isMinor(one.right())
              || holdings.stream()
                  .anyMatch(
                      other ->
                          other.right() != one.right()
                              && view.rights().contains(other.right()).contains(one.right())
                              && other.resource() == one.resource()
                              && other.reach() == one.reach()
                              && other.excluded().equals(one.excluded()));
      if (!contained) {
        kept.add(one);
      }
    }
    return kept;
  }

  /** What others in its roles can do at the same node and it cannot. */
  public AnswerTable shortfall(SystemView view, int account) {
    AnswerTable.Builder sheet =
        ask.begin("trial-shortfall/1", "permission", "where", "role", "what stops it");
    for (Shortfall.Item item : Shortfall.of(asker, view, account)) {
      Grant grant = view.grants().get(item.grant());
      sheet.row(
          view.rights().text(item.right()),
          Words.place(view, grant),
          view.system().roles().get(grant.role()).name(),
          item.stopped().map(stop -> stop(view, stop)).orElse("not given there"));
    }
    return sheet
        .heading(
            sheet.size() == 0
                ? "It has all that its roles give."
                : "What others in the same role can do there, and it cannot:")
        .build();
  }

  private String stop(SystemView view, Stopped stop) {
    return stop.reason().words()
        + (stop.by().isEmpty()
            ? ""
            : ": "
                + view.system().roles().get(view.grants().get(stop.by().getAsInt()).role()).name()
                + " to "
                + Words.trustee(facts, view.grants().get(stop.by().getAsInt())));
  }

  /** One line for each account and system: ready, or the first condition that fails. */
  public AnswerTable all(List<SystemView> views, List<Integer> accounts) {
    AnswerTable.Builder sheet =
        ask.begin("readiness/1", "account", "login", "application", "ready", "stops at", "detail");
    int ready = 0;
    int given = 0;
    Given everybody = new Given(ask.model());
    for (int account : accounts) {
      BitSet systems = everybody.systems(account);
      for (SystemView view : views) {
        boolean meant =
            systems.get(view.number())
                && (!everybody.toAll(view) || !asker.projected(view, account).isEmpty());
        if (accounts.size() > 1 && !meant) {
          continue;
        }
        Readiness readiness = check.of(view, account);
        Optional<Readiness.Step> first = readiness.firstFailure();
        given++;
        ready += readiness.ready() == Truth.TRUE ? 1 : 0;
        Optional<Readiness.Step> open =
            first.or(
                () ->
                    readiness.steps().stream()
                        .filter(step -> step.met() == Truth.UNDEFINED)
                        .findFirst());
        sheet.row(
            facts.key(account).text(),
            facts.login(account),
            view.id(),
            sign(readiness.ready()),
            open.map(step -> step.condition().words()).orElse(""),
            open.map(Readiness.Step::detail).orElse(""));
      }
    }
    boolean one = accounts.size() == 1;
    String apps = AnswerContext.count(given, "application", "applications");
    sheet.heading(
        one
            ? Words.subject(facts, accounts.get(0)) + " can use " + ready + " of " + apps + "."
            : views.size() == 1
                ? ready
                    + " of "
                    + AnswerContext.count(given, "account", "accounts")
                    + " with a role can use "
                    + views.get(0).system().name()
                    + "."
                : ready
                    + " of "
                    + AnswerContext.count(given, "time", "times")
                    + " that an account has a role in an application, it can use it.");
    return ask.finish(sheet);
  }

  /** The same for a terminal, without keys. */
  public AnswerTable allBrief(List<SystemView> views, List<Integer> accounts) {
    AnswerTable full = all(views, accounts);
    AnswerTable.Builder sheet =
        AnswerTable.of("readiness-brief/1", "login", "application", "ready", "stops at", "detail")
            .heading(full.heading());
    full.facts().forEach(sheet::fact);
    full.rows().forEach(row -> sheet.row(row.subList(1, row.size()).toArray()));
    full.notes().forEach(sheet::note);
    return sheet.build();
  }

  static String sign(Truth met) {
    return switch (met) {
      case TRUE -> "+ yes";
      case FALSE -> "x no";
      case UNDEFINED -> "? not known";
    };
  }
}
