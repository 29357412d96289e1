package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.store.IntList;
import org.sobercompass.report.answers.AccountAnswers;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.DelegationAnswers;
import org.sobercompass.report.answers.ScopeAnswers;
import org.sobercompass.report.answers.SubjectAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.page.Section.Picture;
import org.sobercompass.report.page.ThingSections.Part;
import org.sobercompass.report.picture.RouteDrawing;

/** Sections about an account, a group, an organizational unit, an admin scope. */
final class SubjectSections {
  private static final String COUNTED =
      "How many permissions each account can use; blocked ones it has, but cannot use now.";

  private final PageContext context;
  private final Facts facts;

  SubjectSections(PageContext context) {
    this.context = context;
    this.facts = context.facts();
  }

  /** The accounts of the person whose account it is, this one first. */
  List<Integer> person(int account) {
    Set<Integer> all = new LinkedHashSet<>(List.of(account));
    for (int other : context.assessment().persons().accounts(account)) {
      all.add(other);
    }
    return List.copyOf(all);
  }

  Part account(int account) {
    AccountAnswers answers = new AccountAnswers(context.ask().whole());
    List<Section> sections = new ArrayList<>();
    List<String> leads = new ArrayList<>();
    for (int one : person(account)) {
      boolean other = one != account;
      String who = Words.subject(facts, one);
      String login = facts.login(one);
      AnswerTable held = answers.brief(one);
      leads.add((other ? "The same person: " : "") + held.heading());
      sections.add(
          Section.of("holds-" + one, "What " + who + " can do, and through what")
              .saying(held.notes())
              .drawn(routes(one))
              .with(List.of(table("holdings-" + login, held, "sober show account " + login))));
      AnswerTable member = answers.memberships(one);
      sections.add(
          Section.of("member-" + one, "Groups and units of " + who)
              .with(
                  List.of(
                      table(
                          "memberships-" + login,
                          member,
                          "sober show account " + login + " --memberships"))));
      peers(one).ifPresent(sections::add);
      AnswerTable powers = context.powers().powers(one, Optional.empty());
      if (!powers.rows().isEmpty()) {
        sections.add(
            Section.of("acts-" + one, "What " + who + " can do to others' accounts and groups")
                .saying(powers.notes())
                .with(List.of(table("powers-" + login, powers, "sober show powers " + login))));
      }
    }
    return new Part(Words.subject(facts, account), String.join(" ", leads), sections);
  }

  private List<Picture> routes(int account) {
    RouteDrawing drawing = context.drawings().routes(account);
    String svg = drawing.draw();
    String more = drawing.leftOut() == 0 ? "" : "; " + drawing.leftOut() + " are not drawn";
    return svg.isEmpty()
        ? List.of()
        : List.of(
            new Picture(
                "A shortest route to each permission at its highest level" + more + ".", svg));
  }

  /** What those hold who are expected to hold the same. */
  private Optional<Section> peers(int account) {
    List<Picture> pictures = new ArrayList<>();
    for (SystemView view : context.model().systems()) {
      String svg =
          view.system().isOfLists() || view.assigned().isEmpty()
              ? ""
              : context.drawings().peers(account, view);
      if (!svg.isEmpty()) {
        pictures.add(new Picture("What its peers hold in " + view.system().name() + ".", svg));
      }
    }
    return Optional.of(Section.of("peers-" + account, "Beside its peers").drawn(pictures))
        .filter(section -> !section.pictures().isEmpty());
  }

  Part group(int group) {
    AnswerTable brings = new SubjectAnswers(context.ask().whole()).group(group);
    String name = Words.subject(facts, group);
    IntList accounts = new IntList();
    context.model().widest().walker().accounts(group, accounts);
    List<Integer> members = new ArrayList<>();
    for (int i = 0; i < accounts.size(); i++) {
      members.add(accounts.get(i));
    }
    List<Section> sections = new ArrayList<>();
    sections.add(
        Section.of("brings", "What membership in " + name + " brings")
            .saying(brings.notes())
            .with(List.of(table("group-" + name, brings, "sober show group " + name))));
    sections.add(people("Who is in " + name, members));
    List<Integer> owners = context.owners().ofGroup(group);
    String owned =
        owners.isEmpty()
            ? " Its directory names no owner."
            : " Its owner is " + names(owners) + ".";
    return new Part("the group " + name, brings.heading() + owned, sections);
  }

  private String names(List<Integer> subjects) {
    return String.join(", ", subjects.stream().map(s -> Words.subject(facts, s)).toList());
  }

  /** Accounts with what they hold, counted. */
  private Section people(String title, List<Integer> accounts) {
    List<Integer> some = accounts.subList(0, Math.min(PageContext.ROWS, accounts.size()));
    AnswerTable table = new AccountAnswers(context.ask().whole()).accounts(some, "");
    int more = accounts.size() - some.size();
    return Section.of("people", title)
        .saying(
            more == 0 ? List.of(COUNTED) : List.of(COUNTED, more + " more accounts are not here."))
        .with(List.of(table("accounts", table, "sober show accounts").unnamed()));
  }

  /** Everything that is in a unit or in units below it, with the unit itself. */
  List<Integer> below(int unit) {
    List<Integer> all = new ArrayList<>();
    for (int s = 0; s < facts.subjects(); s++) {
      int above = s;
      while (above >= 0 && above != unit) {
        above = facts.container(above);
      }
      if (above == unit) {
        all.add(s);
      }
    }
    return all;
  }

  Part unit(int unit) {
    String name = Words.subject(facts, unit) + " (" + facts.source(unit) + ")";
    List<Integer> accounts = below(unit).stream().filter(s -> s < facts.accounts()).toList();
    List<Section> sections = new ArrayList<>();
    String lead =
        AnswerContext.count(accounts.size(), "account is", "accounts are") + " in " + name + ".";
    Optional<DirectoryTrees.Spot> spot =
        context.assessment().powers().thing(unit).spot().filter(s -> s.tree().size() > 0);
    if (spot.isPresent()) {
      AnswerTable delegated = delegations(spot.get());
      lead += " On it and below: " + delegated.heading();
      sections.add(
          Section.of("delegations", "Who may administer what is in " + name)
              .saying(delegated.notes())
              .drawn(tree(spot.get()))
              .with(
                  List.of(
                      table(
                          "delegations",
                          delegated,
                          "sober delegations --at '" + facts.label(unit) + "'"))));
    }
    AnswerTable given = new SubjectAnswers(context.ask().whole()).group(unit);
    if (!given.rows().isEmpty()) {
      sections.add(
          Section.of("given", "What everybody in " + name + " is given")
              .with(List.of(table("given", given, "sober list holdings"))));
    }
    sections.add(people("Accounts in " + name, accounts));
    return new Part(name, lead, sections);
  }

  private AnswerTable delegations(DirectoryTrees.Spot spot) {
    Set<Origin> origins = EnumSet.of(Origin.ADDED, Origin.CLAIMED);
    return context
        .delegations()
        .brief(
            new DelegationAnswers.Choice(Optional.of(spot), origins, d -> true, false),
            DelegationAnswers.Order.OBJECT,
            false);
  }

  private List<Picture> tree(DirectoryTrees.Spot spot) {
    return List.of(
        new Picture(
            "What was delegated where; what is handed down is not repeated below.",
            Drawings.units(context.delegations(), spot)));
  }

  Part scope(int scope) {
    ScopeAnswers answers =
        new ScopeAnswers(context.ask().whole(), context.assessment().powers().roles());
    AnswerTable objects = answers.scope(scope);
    AdminScope one = context.assessment().powers().roles().scopes().all().get(scope);
    List<Integer> owners = context.owners().ofScope(one.id());
    String owned =
        owners.isEmpty()
            ? " Nobody is named as its owner."
            : " Its owner is " + names(owners) + ".";
    Section section =
        Section.of("objects", "What is in the admin scope " + one.name())
            .saying(objects.notes())
            .with(List.of(table("scope-" + one.id(), objects, "sober show scope " + one.id())));
    return new Part("the admin scope " + one.name(), objects.heading() + owned, List.of(section));
  }

  private PageTable table(String name, AnswerTable answer, String command) {
    return PageTable.of(name, answer, PageContext.ROWS, command, context.links()).unnamed();
  }
}
