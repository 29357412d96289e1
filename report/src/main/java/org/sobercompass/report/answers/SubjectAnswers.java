package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Dangling;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.membership.MembershipPaths;
import org.sobercompass.core.readiness.HostCheck;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.HostLimits;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.report.data.AnswerTable;

/** Answers about groups, roles and nodes. Not thread-safe. */
public final class SubjectAnswers {
  /** So many members are named; the others are counted. */
  private static final int NAMED = 25;

  private final AnswerContext ask;
  private final Facts facts;

  /** Answers about what is in a model. */
  public SubjectAnswers(AnswerContext ask) {
    this.ask = ask;
    this.facts = ask.model().facts();
  }

  /** What a group brings its members, and by which group above it. */
  public AnswerTable group(int group) {
    AnswerTable.Builder sheet =
        ask.begin("group/1", "application", "role", "where", "given to", "state", "stands at");
    int brings = 0;
    for (SystemView view : ask.model().systems()) {
      MembershipPaths paths = new MembershipPaths(view.memberships());
      for (Grant grant : view.grants()) {
        boolean reaches =
            grant.subject() >= facts.firstGroup()
                && facts.kind(grant.subject()) == facts.kind(group)
                && !paths.find(group, grant.subject(), 1).list().isEmpty();
        if (reaches) {
          brings++;
          sheet.row(grantRow(view, grant));
        }
      }
    }
    MembershipGraph graph = ask.model().graph();
    IntList accounts = new IntList();
    ask.model().widest().walker().accounts(group, accounts);
    int nested = 0;
    for (int i = 0; i < graph.downCount(group); i++) {
      boolean sure = graph.downVia(group, i).isSure();
      nested += sure && graph.downMember(group, i) >= facts.firstGroup() ? 1 : 0;
    }
    IntList candidates = new IntList();
    ask.model().widest().walker().candidates(group, candidates);
    int perhaps = candidates.size() - accounts.size();
    sheet.heading(
        "The group "
            + Words.subject(facts, group)
            + " has "
            + AnswerContext.count(accounts.size(), "account", "accounts")
            + ", "
            + AnswerContext.count(nested, "nested group", "nested groups")
            + " and "
            + AnswerContext.count(brings, "assignment", "assignments")
            + ".");
    members(group, accounts, sheet);
    above(group, sheet);
    if (facts.isOpen(group)) {
      sheet.note(
          "Its members were withheld from the account that read them: whoever is not listed here"
              + " may be one.");
    } else if (perhaps > 0) {
      sheet.note(
          "Of "
              + AnswerContext.count(perhaps, "more account", "more accounts")
              + " it is not known whether they are in it: members were withheld, or a rule is"
              + " undefined for them.");
    }
    for (Dangling dangling : facts.arrays().dangling()) {
      if (dangling.subject() == group) {
        sheet.note("It lists " + dangling.text() + ", which does not exist.");
      }
    }
    return ask.finish(sheet);
  }

  /**
   * Who is in it directly, who through other groups, and who is listed and does not surely count.
   */
  private void members(int group, IntList accounts, AnswerTable.Builder sheet) {
    MembershipGraph graph = ask.model().graph();
    Set<Integer> direct = new TreeSet<>();
    List<Integer> groups = new ArrayList<>();
    List<Integer> unsure = new ArrayList<>();
    for (int i = 0; i < graph.downCount(group); i++) {
      int member = graph.downMember(group, i);
      if (!graph.downVia(group, i).isSure()) {
        unsure.add(member);
      } else if (member < facts.firstGroup()) {
        direct.add(member);
      } else {
        groups.add(member);
      }
    }
    List<Integer> nested = new ArrayList<>();
    for (int i = 0; i < accounts.size(); i++) {
      if (!direct.contains(accounts.get(i))) {
        nested.add(accounts.get(i));
      }
    }
    unsure.removeIf(direct::contains);
    named("Direct members", List.copyOf(direct), sheet);
    named("Groups in it", groups, sheet);
    named("Members through these groups", nested, sheet);
    named("Perhaps members", unsure, sheet);
  }

  private void named(String what, List<Integer> subjects, AnswerTable.Builder sheet) {
    if (!subjects.isEmpty()) {
      String names =
          subjects.stream()
              .limit(NAMED)
              .map(s -> Words.subject(facts, s))
              .collect(java.util.stream.Collectors.joining(", "));
      int more = subjects.size() - NAMED;
      sheet.note(
          what
              + " ("
              + subjects.size()
              + "): "
              + names
              + (more > 0 ? " and " + more + " more; all: sober list memberships" : "")
              + ".");
    }
  }

  private void above(int group, AnswerTable.Builder sheet) {
    MembershipGraph graph = ask.model().graph();
    List<String> names = new ArrayList<>();
    for (int i = 0; i < graph.upCount(group); i++) {
      if (graph.upVia(group, i).isSure()) {
        names.add(facts.label(graph.upGroup(group, i)));
      }
    }
    if (!names.isEmpty()) {
      sheet.note("It is itself in " + String.join(", ", names) + ".");
    }
  }

  private Object[] grantRow(SystemView view, Grant grant) {
    boolean active = grant.activeAt(ask.model().asOf().getEpochSecond());
    return new Object[] {
      view.system().name(),
      view.system().roles().get(grant.role()).name(),
      Words.place(view, grant),
      Words.trustee(facts, grant),
      active ? "active" : grant.on() ? "outside its window" : "switched off",
      grant.place().toString()
    };
  }

  /** What a role gives, with the entry each right comes from, and to whom it is given. */
  public AnswerTable role(SystemView view, int number) {
    RoleInfo role = view.system().roles().get(number);
    AnswerTable.Builder sheet = ask.begin("role/1", "permission", "gives", "through", "entry");
    int gives = 0;
    for (int right = 0; right < view.rights().size(); right++) {
      if (role.allows(right) || role.denies(right)) {
        gives += role.allows(right) ? 1 : 0;
        var chain = view.system().roleChain(number, right);
        sheet.row(
            view.id() + ":" + view.rights().text(right),
            role.denies(right) ? "denies" : "allows",
            role.allows(right) ? String.join(" includes ", chain.roles()) : role.id(),
            role.allows(right) ? chain.entry() : "");
      }
    }
    sheet.heading(
        "The role "
            + role.name()
            + " of "
            + view.system().name()
            + " gives "
            + AnswerContext.count(gives, "permission", "permissions")
            + ".");
    if (!role.derives().isEmpty()) {
      sheet.note("It derives from " + role.derives() + ".");
    }
    for (Grant grant : view.grants()) {
      if (grant.role() == number) {
        String off = grant.activeAt(ask.model().asOf().getEpochSecond()) ? "" : " (not active)";
        sheet.note(
            "Given to "
                + Words.trustee(facts, grant)
                + ", "
                + Words.place(view, grant)
                + off
                + ".");
      }
    }
    return ask.finish(sheet, view);
  }

  /** Which assignments reach a node, from where. */
  public AnswerTable node(SystemView view, int node) {
    AnswerTable.Builder sheet = assignments(view, grant -> reaches(view, grant, node));
    sheet.heading(
        AnswerContext.count(sheet.size(), "assignment reaches ", "assignments reach ")
            + view.resources().name(node)
            + " in "
            + view.system().name()
            + ", which combines by "
            + view.system().combining()
            + ".");
    return ask.finish(sheet, view);
  }

  private static boolean reaches(SystemView view, Grant grant, int node) {
    return grant.resource() == node
        || (grant.descends() && view.resources().covers(grant.resource(), node));
  }

  /** All assignments of an application that somebody gives one by one. */
  public AnswerTable assignments(SystemView view) {
    AnswerTable.Builder sheet = assignments(view, grant -> !grant.declared());
    sheet.heading(
        AnswerContext.count(sheet.size(), "assignment", "assignments")
            + " in "
            + view.system().name()
            + ", which combines by "
            + view.system().combining()
            + ".");
    return ask.finish(sheet, view);
  }

  private AnswerTable.Builder assignments(SystemView view, Predicate<Grant> which) {
    AnswerTable.Builder sheet =
        ask.begin("node/1", "role", "given to", "at", "reaches below", "state", "stands at");
    for (Grant grant : view.grants()) {
      if (which.test(grant)) {
        Object[] row = grantRow(view, grant);
        String at = view.resources().id(grant.resource());
        sheet.row(row[1], row[3], at, grant.descends(), row[4], row[5]);
      }
    }
    return sheet;
  }

  /** Which accounts name a host among those they may sign in from. */
  public AnswerTable host(String host) {
    HostCheck.At at = new HostCheck(ask.model()).at(host);
    AnswerTable.Builder sheet = ask.begin("host/1", "account", "login", "name", "may sign in from");
    for (int account : at.named()) {
      sheet.row(
          facts.key(account).text(),
          facts.login(account),
          facts.label(account),
          String.join(", ", HostLimits.of(facts, account)));
    }
    sheet
        .heading(
            AnswerContext.count(at.named().size() + at.free(), "account", "accounts")
                + " may sign in from "
                + host
                + ": "
                + at.named().size()
                + " of them name it, "
                + at.free()
                + " may sign in from anywhere; "
                + AnswerContext.count(at.elsewhere(), "account", "accounts")
                + " may sign in from other hosts only.")
        .note("Who can use an application from there: sober trial --all --from " + host);
    if (!at.exists()) {
      sheet.note("No directory has an entry for a host " + host + ", and no application names it.");
    }
    return ask.finish(sheet);
  }

  /** All roles, of one system or of all. */
  public AnswerTable roles(List<SystemView> views) {
    AnswerTable.Builder sheet =
        ask.begin(
            "roles/1", "application", "role", "name", "permissions", "includes", "assignments");
    for (SystemView view : views) {
      for (int number = 0; number < view.system().roles().size(); number++) {
        RoleInfo role = view.system().roles().get(number);
        int gives = 0;
        for (long word : role.allows()) {
          gives += Long.bitCount(word);
        }
        int index = number;
        int given = (int) view.grants().stream().filter(g -> g.role() == index).count();
        sheet.row(view.id(), role.id(), role.name(), gives, role.includes(), given);
      }
    }
    sheet.heading(
        AnswerContext.count(sheet.size(), "role", "roles")
            + " in "
            + AnswerContext.count(views.size(), "application", "applications")
            + ".");
    return ask.about(sheet, List.of());
  }
}
