package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.Redundancy;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.membership.MembershipPaths;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Standing;
import org.sobercompass.report.data.AnswerTable;

/** Answers about accounts. Not thread-safe. */
public final class AccountAnswers {
  /** The columns of a holding, in every format but the table. */
  public static final List<String> HOLDING_COLUMNS =
      List.of(
          "account",
          "login",
          "application",
          "permission",
          "node",
          "reach",
          "excluded",
          "state",
          "reasons");

  private final AnswerContext ask;
  private final Asker asker;
  private final Facts facts;

  /** Answers about the accounts of a model. */
  public AccountAnswers(AnswerContext ask) {
    this.ask = ask;
    this.asker = ask.model().asker();
    this.facts = ask.model().facts();
  }

  /** One account's holdings, as a person reads them: the highest level only, and through what. */
  public AnswerTable brief(int account) {
    List<Holding> all = asker.holdings(account);
    AnswerTable.Builder sheet =
        ask.begin("holdings-brief/1", "application", "permission", "where", "state", "through");
    RouteFinder finder = new RouteFinder(asker, Limits.ONE);
    int contained = 0;
    for (Holding holding : all) {
      if (isContained(holding, all)) {
        contained++;
      } else {
        SystemView view = ask.model().systems().get(holding.system());
        sheet.row(
            view.system().name(),
            view.rights().text(holding.right()),
            Words.place(view, holding),
            AnswerContext.sign(holding.state()),
            through(finder, view, holding));
      }
    }
    sheet.heading(heading(account, all));
    if (contained > 0) {
      sheet.note(
          AnswerContext.count(contained, "permission is", "permissions are")
              + " not listed, since a higher level above contains "
              + (contained == 1 ? "it." : "them."));
    }
    reasons(all, sheet);
    nothing(account, sheet);
    redundant(account, sheet);
    return ask.finish(sheet);
  }

  /** One account's holdings, one row each. */
  public AnswerTable full(int account) {
    List<Holding> all = asker.holdings(account);
    AnswerTable.Builder sheet =
        ask.begin("holdings/1", HOLDING_COLUMNS.toArray(String[]::new))
            .heading(heading(account, all));
    all.forEach(holding -> sheet.row(row(holding)));
    return ask.finish(sheet);
  }

  /** The values of a holding for {@link #HOLDING_COLUMNS}. */
  public Object[] row(Holding holding) {
    SystemView view = ask.model().systems().get(holding.system());
    return new Object[] {
      facts.key(holding.account()).text(),
      facts.login(holding.account()),
      view.id(),
      view.rights().text(holding.right()),
      view.resources().id(holding.resource()),
      holding.reach().word(),
      holding.excluded().stream().map(view.resources()::id).toList(),
      holding.state().word(),
      holding.reasons()
    };
  }

  private String heading(int account, List<Holding> all) {
    String who = Words.subject(facts, account);
    if (all.isEmpty()) {
      return who + " holds nothing in any application.";
    }
    long applications = all.stream().map(Holding::system).distinct().count();
    StringBuilder text = new StringBuilder(who).append(" holds ");
    text.append(AnswerContext.count(all.size(), "permission", "permissions")).append(" in ");
    text.append(applications).append(" of ");
    text.append(AnswerContext.count(ask.model().systems().size(), "application", "applications"));
    List<String> states = new ArrayList<>();
    for (Standing.State state :
        List.of(Standing.State.USABLE, Standing.State.UNDECIDED, Standing.State.BLOCKED)) {
      long count = all.stream().filter(h -> h.state() == state).count();
      if (count > 0) {
        states.add((count == all.size() ? "all" : String.valueOf(count)) + " " + state.word());
      }
    }
    return text.append(": ").append(String.join(", ", states)).append(".").toString();
  }

  /**
   * A lower level is left out where a higher one holds at the same place in the same state, and a
   * minor right always.
   */
  private boolean isContained(Holding lower, List<Holding> all) {
    SystemView view = ask.model().systems().get(lower.system());
    if (view.rights().isMinor(lower.right())) {
      return true;
    }
    return all.stream()
        .anyMatch(
            higher ->
                higher.system() == lower.system()
                    && higher.resource() == lower.resource()
                    && higher.reach() == lower.reach()
                    && higher.excluded().equals(lower.excluded())
                    && higher.state() == lower.state()
                    && view.rights().contains(higher.right()).contains(lower.right()));
  }

  private String through(RouteFinder finder, SystemView view, Holding holding) {
    List<Route> routes =
        finder.find(view, holding.account(), holding.right(), holding.resource()).open();
    if (routes.isEmpty()) {
      return "";
    }
    Route route = routes.get(0);
    Grant grant = view.grants().get(route.grant());
    String role = view.system().roles().get(grant.role()).name();
    String groups =
        route.subjects().stream().skip(1).map(facts::label).collect(Collectors.joining(" → "));
    return (groups.isEmpty() ? "given to the account itself" : groups) + " → " + role;
  }

  private static void reasons(List<Holding> all, AnswerTable.Builder sheet) {
    Set<String> reasons = new LinkedHashSet<>();
    all.forEach(holding -> reasons.addAll(holding.reasons()));
    if (!reasons.isEmpty()) {
      sheet.note("Not usable because " + String.join("; ", reasons) + ".");
    }
  }

  private void nothing(int account, AnswerTable.Builder sheet) {
    List<String> names =
        ask.model().systems().stream()
            .filter(view -> asker.holdings(view, account).isEmpty())
            .map(view -> view.system().name())
            .toList();
    if (!names.isEmpty()) {
      sheet.note("Nothing in " + String.join(", ", names) + ".");
    }
  }

  private void redundant(int account, AnswerTable.Builder sheet) {
    Redundancy redundancy = new Redundancy(asker);
    for (SystemView view : ask.model().systems()) {
      for (int grant : redundancy.of(view, account)) {
        Grant given = view.grants().get(grant);
        sheet.note(
            "Changes nothing for this account: "
                + view.system().name()
                + " "
                + view.system().roles().get(given.role()).name()
                + " to "
                + Words.trustee(facts, given)
                + " ("
                + given.place()
                + ").");
      }
    }
  }

  /** Several accounts, one row each. */
  public AnswerTable accounts(List<Integer> accounts, String picked) {
    AnswerTable.Builder sheet =
        ask.begin(
            "accounts/1",
            "account",
            "login",
            "name",
            "usable",
            "undecided",
            "blocked",
            "applications");
    for (int account : accounts) {
      List<Holding> all = asker.holdings(account);
      int[] states = new int[Standing.State.values().length];
      all.forEach(holding -> states[holding.state().ordinal()]++);
      List<String> applications =
          all.stream()
              .map(holding -> ask.model().systems().get(holding.system()).id())
              .distinct()
              .toList();
      sheet.row(
          facts.key(account).text(),
          facts.login(account),
          facts.label(account),
          states[Standing.State.USABLE.ordinal()],
          states[Standing.State.UNDECIDED.ordinal()],
          states[Standing.State.BLOCKED.ordinal()],
          applications);
    }
    sheet.heading(
        AnswerContext.count(accounts.size(), "account has", "accounts have") + " " + picked + ".");
    return ask.finish(sheet);
  }

  /** The groups of an account, how, and where a membership does not count. */
  public AnswerTable memberships(int account) {
    AnswerTable.Builder sheet =
        ask.begin("memberships/1", "name", "how", "route", "not counted in", "group");
    SubjectSet wide = new SubjectSet();
    ask.model().widest().walker().subjects(account, wide);
    MembershipPaths paths = new MembershipPaths(ask.model().widest());
    List<Integer> subjects = new ArrayList<>();
    for (int i = 0; i < wide.sure().size(); i++) {
      if (wide.sure().get(i) != account) {
        subjects.add(wide.sure().get(i));
      }
    }
    subjects.sort(null);
    int direct = 0;
    for (int subject : subjects) {
      var found = paths.find(account, subject, 1).list();
      if (found.isEmpty()) {
        continue;
      }
      var path = found.get(0);
      direct += path.length() == 1 ? 1 : 0;
      sheet.row(
          Words.subject(facts, subject),
          path.length() == 1 ? path.vias().get(0).words() : "nested " + (path.length() - 1),
          path.subjects().stream().map(facts::label).collect(Collectors.joining(" → ")),
          notCounted(account, subject),
          facts.key(subject).text());
    }
    sheet.heading(
        Words.subject(facts, account)
            + " is in "
            + AnswerContext.count(subjects.size(), "group or unit", "groups and units")
            + ", "
            + direct
            + " of them directly.");
    return ask.about(sheet, List.of());
  }

  private List<String> notCounted(int account, int subject) {
    List<String> not = new ArrayList<>();
    for (SystemView view : ask.model().systems()) {
      boolean sameDirectory = view.system().sight().directory().equals(facts.source(account));
      if (sameDirectory
          && !view.admission().isOpen()
          && !asker.memberships(view, account).sure().contains(subject)) {
        not.add(view.id());
      }
    }
    return not;
  }
}
