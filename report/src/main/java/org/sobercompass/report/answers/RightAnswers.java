package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.Drift;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.Holders.Holder;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.Routes;
import org.sobercompass.core.access.SideBySide;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Unknown;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.report.data.AnswerTable;

/** Answers about permissions: holders, routes, can, drift, side by side. Not thread-safe. */
public final class RightAnswers {
  private final AnswerContext ask;
  private final Asker asker;
  private final Facts facts;

  /** Answers about the permissions of a model. */
  public RightAnswers(AnswerContext ask) {
    this.ask = ask;
    this.asker = ask.model().asker();
    this.facts = ask.model().facts();
  }

  /** Who holds a permission at a node, or also anywhere below it. */
  public AnswerTable holders(SystemView view, int right, int node, boolean below) {
    List<Holder> holders = new Holders(asker).find(view, right, node, below);
    AnswerTable.Builder sheet =
        ask.begin("holders/1", "account", "login", "name", "node", "state", "reasons");
    int blocked = 0;
    java.util.Set<Integer> sure = new java.util.HashSet<>();
    java.util.Set<Integer> open = new java.util.HashSet<>();
    for (Holder holder : holders) {
      blocked += holder.state() == Standing.State.BLOCKED ? 1 : 0;
      (holder.state() == Standing.State.UNDECIDED ? open : sure).add(holder.account());
      sheet.row(
          facts.key(holder.account()).text(), facts.login(holder.account()),
          facts.label(holder.account()), view.resources().id(holder.resource()),
          holder.state().word(), holder.reasons());
    }
    open.removeAll(sure);
    sheet.heading(
        AnswerContext.count(sure.size(), "account holds ", "accounts hold ")
            + Words.permission(view, right)
            + (below ? " at or below " + view.resources().name(node) : at(view, node))
            + (blocked == 0 ? "" : ", " + blocked + " of them not usable")
            + (open.isEmpty()
                ? "."
                : "; of "
                    + AnswerContext.count(open.size(), "account", "accounts")
                    + " it is undecided."));
    return ask.finish(sheet, view);
  }

  /** The numbers of the accounts that hold a permission at a node, surely or perhaps. */
  public List<Integer> accounts(SystemView view, int right, int node) {
    return new Holders(asker)
        .find(view, right, node, false).stream().map(Holder::account).distinct().toList();
  }

  /** The same for a terminal: names before ids, and through what. */
  public AnswerTable holdersBrief(SystemView view, int right, int node, boolean below) {
    AnswerTable full = holders(view, right, node, below);
    AnswerTable.Builder sheet =
        ask.begin("holders-brief/1", "name", "login", "where", "state", "through")
            .heading(full.heading());
    RouteFinder finder = new RouteFinder(asker, Limits.ONE);
    for (Holder holder : new Holders(asker).find(view, right, node, below)) {
      List<Route> routes = finder.find(view, holder.account(), right, holder.resource()).open();
      String why =
          holder.reasons().isEmpty() ? "" : " (" + String.join("; ", holder.reasons()) + ")";
      sheet.row(
          facts.label(holder.account()),
          facts.login(holder.account()),
          view.resources().name(holder.resource()),
          AnswerContext.sign(holder.state()),
          (routes.isEmpty() ? "" : last(view, routes.get(0))) + why);
    }
    return ask.finish(sheet, view);
  }

  private String last(SystemView view, Route route) {
    Grant grant = view.grants().get(route.grant());
    String role = view.system().roles().get(grant.role()).name();
    return (grant.subject() == route.subjects().get(0)
            ? "given to the account itself"
            : grant.subject() < 0 ? Words.trustee(facts, grant) : facts.label(grant.subject()))
        + " → "
        + role;
  }

  /** Why an account can or cannot do something: open routes, then stopped ones. */
  public AnswerTable routes(SystemView view, int account, int right, int node) {
    Routes routes = new RouteFinder(asker, Limits.USUAL).find(view, account, right, node);
    AnswerTable.Builder sheet = ask.begin("routes/1", "state", "route", "stands at", "stopped by");
    for (Route route : routes.open()) {
      boolean sure = routes.decision().verdict() == Verdict.YES;
      sheet.row(
          sure ? "open" : "undecided",
          Words.route(ask.model(), view, route),
          view.grants().get(route.grant()).place().toString(),
          "");
    }
    for (Route.StoppedRoute stopped : routes.stopped()) {
      sheet.row(
          "stopped",
          Words.route(ask.model(), view, stopped.route()),
          view.grants().get(stopped.route().grant()).place().toString(),
          by(view, stopped));
    }
    sheet.heading(
        sentence(routes, view, account, right, node)
            + " "
            + AnswerContext.count(routes.open().size(), "route", "routes")
            + (routes.stopped().isEmpty() ? "." : ", " + routes.stopped().size() + " stopped."));
    if (routes.more()) {
      sheet.note("There are more routes than are shown; the limit was reached.");
    }
    return ask.finish(sheet, view);
  }

  private String by(SystemView view, Route.StoppedRoute stopped) {
    StringBuilder text = new StringBuilder(stopped.reason().words());
    if (stopped.by().isPresent()) {
      Grant grant = view.grants().get(stopped.by().getAsInt());
      text.append(": ").append(view.system().roles().get(grant.role()).name()).append(" to ");
      text.append(Words.trustee(facts, grant)).append(", ").append(Words.place(view, grant));
      text.append(" (").append(grant.place()).append(')');
    }
    return text.toString();
  }

  /** "Yes: Ilse Brandt can …", "No: …", "Undecided: … , since …". */
  public String sentence(Routes routes, SystemView view, int account, int right, int node) {
    Can can = routes.can();
    String what =
        Words.subject(facts, account)
            + (can.verdict() == Verdict.YES ? " can" : " cannot")
            + " use "
            + Words.permission(view, right)
            + at(view, node);
    return switch (can.verdict()) {
      case YES -> "Yes: " + what + ".";
      case UNDECIDED ->
          "Undecided: "
              + what.replace(" cannot use", " may be able to use")
              + ", since "
              + String.join("; ", Unknown.reasons(asker, view, account, right, node, routes))
              + ".";
      case NO ->
          "No: "
              + what
              + (can.held() == Verdict.NO
                  ? "."
                  : ", though the right is held: "
                      + String.join("; ", can.standing().reasons())
                      + ".");
    };
  }

  /** Where, in words; what has no places is said without one. */
  private static String at(SystemView view, int node) {
    String name = view.resources().name(node);
    return name.equals("everywhere") ? "" : " at " + name;
  }

  /** Whether an account can use several permissions together, and each of them alone. */
  public AnswerTable canTogether(SystemView view, int account, Question question) {
    Can can = asker.can(view, account, question);
    AnswerTable.Builder sheet =
        ask.begin("can/1", "account", "permission", "node", "answer", "held", "state", "why");
    String permission = together(view, question.allOf());
    sheet.row(
        facts.key(account).text(),
        permission,
        view.resources().id(question.resource()),
        can.verdict().name().toLowerCase(java.util.Locale.ROOT),
        can.held().name().toLowerCase(java.util.Locale.ROOT),
        can.standing().state().word(),
        List.of(alone(view, account, question)));
    String what =
        Words.subject(facts, account)
            + switch (can.verdict()) {
              case YES -> " can use ";
              case NO -> " cannot use ";
              case UNDECIDED -> " may be able to use ";
            }
            + permission
            + " together"
            + at(view, question.resource());
    String answer =
        switch (can.verdict()) {
          case YES -> "Yes: ";
          case NO -> "No: ";
          case UNDECIDED -> "Undecided: ";
        };
    return ask.finish(sheet.heading(answer + what + "."), view);
  }

  /** The same for a terminal: the sentence, then the reasons as lines. */
  public AnswerTable canTogetherBrief(SystemView view, int account, Question question) {
    AnswerTable.Builder sheet =
        ask.begin("can-brief/1", "why").heading(canTogether(view, account, question).heading());
    sheet.row(alone(view, account, question));
    return ask.finish(sheet, view);
  }

  private static String together(SystemView view, int[] rights) {
    List<String> texts = new ArrayList<>();
    for (int right : rights) {
      texts.add(view.rights().text(right));
    }
    return view.id() + ":" + String.join("+", texts);
  }

  /** What each of several permissions is alone, in words. */
  public String alone(SystemView view, int account, Question question) {
    List<String> each = new ArrayList<>();
    for (int right : question.allOf()) {
      Can one = asker.can(view, account, right, question.resource());
      each.add(
          view.rights().text(right)
              + " alone: "
              + one.verdict().name().toLowerCase(java.util.Locale.ROOT));
    }
    boolean apart =
        asker.can(view, account, question).held() == Verdict.NO
            && !view.decider().isAdditive()
            && each.stream().allMatch(one -> one.endsWith("yes"));
    return String.join("; ", each) + (apart ? "; no single entry gives all of it" : "");
  }

  /** Who holds several permissions together. */
  public AnswerTable together(SystemView view, Question question) {
    AnswerTable.Builder sheet =
        ask.begin("holders/1", "account", "login", "name", "node", "state", "reasons");
    List<Holder> holders = new Holders(asker).together(view, question);
    for (Holder holder : holders) {
      sheet.row(
          facts.key(holder.account()).text(),
          facts.login(holder.account()),
          facts.label(holder.account()),
          view.resources().id(holder.resource()),
          holder.state().word(),
          holder.reasons());
    }
    int open = (int) holders.stream().filter(h -> h.state() == Standing.State.UNDECIDED).count();
    sheet.heading(
        AnswerContext.count(holders.size() - open, "account holds ", "accounts hold ")
            + together(view, question.allOf())
            + " together"
            + at(view, question.resource())
            + (open == 0
                ? "."
                : "; of "
                    + AnswerContext.count(open, "account", "accounts")
                    + " it is undecided."));
    return ask.finish(sheet, view);
  }

  /** One answer of "can", as a sheet with one row. */
  public AnswerTable can(SystemView view, int account, int right, int node) {
    Can can = asker.can(view, account, right, node);
    Routes routes = new RouteFinder(asker, new Limits(3, 1)).find(view, account, right, node);
    AnswerTable.Builder sheet =
        ask.begin("can/1", "account", "permission", "node", "answer", "held", "state", "why");
    List<String> why = why(view, routes);
    sheet.row(
        facts.key(account).text(),
        Words.permission(view, right),
        view.resources().id(node),
        can.verdict().name().toLowerCase(java.util.Locale.ROOT),
        can.held().name().toLowerCase(java.util.Locale.ROOT),
        can.standing().state().word(),
        why);
    return ask.finish(sheet.heading(sentence(routes, view, account, right, node)), view);
  }

  /** The same for a terminal: the sentence, then the reasons as lines. */
  public AnswerTable canBrief(SystemView view, int account, int right, int node) {
    AnswerTable full = can(view, account, right, node);
    AnswerTable.Builder sheet = ask.begin("can-brief/1", "why").heading(full.heading());
    Routes routes = new RouteFinder(asker, new Limits(3, 1)).find(view, account, right, node);
    why(view, routes).forEach(sheet::row);
    return ask.finish(sheet, view);
  }

  /** The shortest open routes, or what is stopped, or who could give it. */
  public List<String> why(SystemView view, Routes routes) {
    if (!routes.open().isEmpty()) {
      return routes.open().stream()
          .limit(3)
          .map(route -> Words.route(ask.model(), view, route))
          .toList();
    }
    if (!routes.stopped().isEmpty()) {
      return routes.stopped().stream()
          .limit(3)
          .map(s -> "stopped (" + by(view, s) + "): " + Words.route(ask.model(), view, s.route()))
          .toList();
    }
    return List.of("no assignment of " + view.system().name() + " gives it to this account here");
  }

  /** What was agreed against what is there. */
  public AnswerTable drift(List<SystemView> views) {
    AnswerTable.Builder sheet =
        ask.begin(
            "drift/1",
            "application",
            "difference",
            "role",
            "subject",
            "node",
            "intended",
            "actual");
    int compared = 0;
    for (SystemView view : views) {
      compared += view.system().hasBothBases() ? 1 : 0;
      for (Drift.Difference d : Drift.of(view.system())) {
        Grant grant = d.grant();
        sheet.row(
            view.id(),
            switch (d.kind()) {
              case INTENDED_ONLY -> "intended, not actual";
              case ACTUAL_ONLY -> "actual, not intended";
              case DIFFERENT -> "differs";
            },
            view.system().roles().get(grant.role()).name(),
            Words.trustee(facts, grant),
            view.resources().id(grant.resource()),
            d.intended().map(this::terms).orElse(""),
            d.actual().map(this::terms).orElse(""));
      }
    }
    sheet.heading(
        AnswerContext.count(sheet.size(), "assignment differs", "assignments differ")
            + " between what was agreed and what is there, in "
            + AnswerContext.count(compared, "application", "applications")
            + " compared.");
    return ask.about(sheet, views.stream().filter(view -> view.system().hasBothBases()).toList());
  }

  private String terms(Grant grant) {
    String from = ask.moment(grant.from());
    String until = ask.moment(grant.until());
    String window =
        (from.isEmpty() ? "" : " from " + from) + (until.isEmpty() ? "" : " before " + until);
    String below = grant.descends() ? "" : ", this node only";
    String off = grant.on() ? "" : ", switched off";
    return grant.place() + window + below + off;
  }

  /** Two accounts side by side: what differs first. */
  public AnswerTable accounts(int left, int right) {
    List<SideBySide.Line> lines = SideBySide.accounts(asker, left, right);
    String a = facts.login(left).isEmpty() ? facts.label(left) : facts.login(left);
    String b = facts.login(right).isEmpty() ? facts.label(right) : facts.login(right);
    return compare(lines, Words.subject(facts, left), Words.subject(facts, right), a, b);
  }

  /** Two roles of one system side by side. */
  public AnswerTable roles(SystemView view, RoleInfo left, RoleInfo right) {
    return compare(
        SideBySide.roles(view, left, right),
        "the role " + left.name(),
        "the role " + right.name(),
        left.id(),
        right.id());
  }

  private AnswerTable compare(
      List<SideBySide.Line> lines, String left, String right, String a, String b) {
    AnswerTable.Builder sheet = ask.begin("compare/1", "permission", "left", "right", "same");
    int same = 0;
    List<SideBySide.Line> ranked = new ArrayList<>(lines);
    ranked.sort(Comparator.comparing(SideBySide.Line::same));
    for (SideBySide.Line line : ranked) {
      SystemView view = ask.model().systems().get(line.system());
      same += line.same() ? 1 : 0;
      sheet.row(Words.permission(view, line.right()), line.first(), line.second(), line.same());
    }
    sheet.fact("left", a).fact("right", b);
    sheet.heading(
        "Of "
            + AnswerContext.count(lines.size(), "permission", "permissions")
            + ", "
            + left
            + " and "
            + right
            + " have "
            + same
            + " in common; "
            + (lines.size() - same)
            + (lines.size() - same == 1 ? " differs." : " differ."));
    return ask.finish(sheet);
  }
}
