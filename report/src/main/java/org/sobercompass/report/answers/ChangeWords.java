package org.sobercompass.report.answers;

import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.EntryWords;
import org.sobercompass.core.delegation.TrusteeNames;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.Setting;

/** Changes in words. Immutable and thread-safe. */
final class ChangeWords {
  /** What a setting is that says all of something. */
  private static final Map<String, String> WHOLE =
      Map.of("roles", "the role ", "scopes", "the scope ");

  private final AccessModel model;
  private final Powers powers;
  private final ZoneId zone;
  private final boolean done;

  /** Of the changes of a model with its powers, as what is to be done; times in a zone. */
  ChangeWords(Powers powers, ZoneId zone) {
    this(powers, zone, false);
  }

  private ChangeWords(Powers powers, ZoneId zone, boolean done) {
    this.powers = powers;
    this.model = powers.model();
    this.zone = zone;
    this.done = done;
  }

  /** The same of changes that were made. */
  ChangeWords done() {
    return new ChangeWords(powers, zone, true);
  }

  /** What is to be done to something, or was. */
  private String say(String verb, String participle, String what, String rest) {
    return done ? what + " was " + participle + rest : verb + " " + what + rest;
  }

  /** What is to be done, or was done. */
  String of(Change change) {
    return change.fold(
        moved ->
            moved.byKind(
                added -> membership("put", "put", added, " into "),
                removed -> membership("take", "taken", removed, " out of ")),
        own -> own.byKind(this::given, this::removed, this::redefined),
        self -> self.byKind(this::account, this::presence));
  }

  private String presence(Change.PresenceChanged change) {
    Facts facts = model.facts();
    String what =
        "the "
            + facts.kind(change.subject()).words()
            + " "
            + facts.title(change.subject())
            + " ("
            + facts.dn(change.subject())
            + ")";
    return change.isThere()
        ? say("create", "created", what, "")
        : say("delete", "deleted", what, "");
  }

  private String membership(
      String verb, String participle, Change.OfMembership change, String preposition) {
    return say(
        verb,
        participle,
        Words.subject(model.facts(), change.member()),
        preposition
            + (change.via() == Via.PRIMARY ? "the primary group " : "")
            + Words.subject(model.facts(), change.group()));
  }

  private String given(Change.AssignmentAdded added) {
    SystemView view = model.view(added.system());
    if (view.system() instanceof AdminRoles roles) {
      return say(
          "give",
          "given",
          "the admin role " + view.system().roles().get(added.role()).name(),
          " over "
              + (added.node() < 0 ? "everything" : roles.defined().get(added.node()).name())
              + " to "
              + Words.subject(model.facts(), added.subject())
              + window(added));
    }
    return say(
        "give",
        "given",
        "the role "
            + view.system().roles().get(added.role()).name()
            + " of "
            + view.system().name(),
        " to "
            + Words.subject(model.facts(), added.subject())
            + (added.node() > 0
                ? " at " + view.resources().id(added.node())
                : view.resources().size() > 1 ? ", everywhere" : "")
            + window(added));
  }

  private String window(Change.AssignmentAdded added) {
    return added.from().map(at -> ", from " + Words.day(at, zone, false)).orElse("")
        + added.until().map(at -> ", until " + Words.day(at, zone, true)).orElse("")
        + (added.on() ? "" : ", switched off");
  }

  private String account(Change.AccountChanged change) {
    String who = Words.subject(model.facts(), change.subject());
    if (change.hosts().isPresent()) {
      List<String> hosts = change.hosts().get();
      String from = hosts.isEmpty() ? "from all hosts" : "only from " + String.join(", ", hosts);
      return say("let", "let", who, " sign in " + from);
    }
    return change
        .disabled()
        .map(off -> off ? say("disable", "disabled", who, "") : say("enable", "enabled", who, ""))
        .orElseGet(
            () ->
                change.expires().filter(at -> at < Facts.NEVER).isEmpty()
                    ? say("take", "taken", "the end", " off " + who)
                    : say(
                        "let",
                        "set",
                        done ? "the end of " + who : who,
                        (done ? " to " : " end after ")
                            + Words.day(
                                Instant.ofEpochSecond(change.expires().get()), zone, true)));
  }

  private String redefined(Change.Redefined change) {
    return change
        .how()
        .byKind(
            line -> {
              String scope = powers.roles().administration().scopes().get(line.scope()).name();
              String who = Words.subject(model.facts(), line.subject());
              String of = " the scope " + scope;
              if (line.added()) {
                return line.excepted()
                    ? say("except", "excepted", who, " from" + of)
                    : say("include", "included", who, " in" + of);
              }
              return line.excepted()
                  ? say("end", "ended", "the exception of " + who, " from" + of)
                  : say("take out", "taken out", "the line of " + who, " in" + of);
            },
            register -> register(model.view(change.system()), register),
            role -> role(model.view(change.system()), role),
            item -> {
              SystemView view = model.view(change.system());
              String words = view.system().entryWords(item.text());
              String where = view.resources().name(item.resource());
              if (view.system().isExclusive(item.text())) {
                return item.added()
                    ? say("set", "set", "the " + words, " of " + where)
                    : say("replace", "replaced", "the " + words, " of " + where);
              }
              return item.added()
                  ? say("add", "added", "the entry " + words, " at " + where)
                  : say("remove", "removed", "the entry " + words, " at " + where);
            },
            written -> setting(model.view(change.system()), written.setting()));
  }

  private String register(SystemView view, Redefinition.RegisterLine how) {
    String who =
        how.line().subject() < 0
            ? Problem.quote(how.line().subjectText())
            : Words.subject(model.facts(), how.line().subject());
    String as =
        (how.line().active() ? "" : ", not active")
            + (how.line().secondFactor() ? ", with a second factor" : "");
    return how.added()
        ? say("enrol", "enrolled", who, " in " + view.system().name() + as)
        : say("strike", "struck", who, " off the register of " + view.system().name());
  }

  private String role(SystemView view, Redefinition.RoleText how) {
    String role =
        "the role " + view.system().roles().get(how.role()).name() + " of " + view.system().name();
    String words = String.join(", ", how.words());
    if (how.area().isEmpty()) {
      String other = words.isEmpty() ? "no other role" : words;
      return say("let", "made to", role, " include " + other);
    }
    return words.isEmpty()
        ? say("clear", "cleared", "what " + role + " says of " + how.area(), "")
        : say("let", "made to", role, " allow " + words + " in " + how.area());
  }

  private String setting(SystemView view, Setting setting) {
    String of = " of " + view.system().name();
    String what =
        setting.path().size() == 2 && WHOLE.containsKey(setting.path().get(0))
            ? WHOLE.get(setting.path().get(0)) + setting.path().get(1)
            : setting.where();
    return setting.is().isEmpty()
        ? say("take out", "taken out", what, of)
        : say("set", "set", what, of + " to " + setting.is());
  }

  private String removed(Change.AssignmentRemoved removed) {
    return powers.isOfRole(removed)
        ? role(powers.roles().administration().grants().get(removed.grant()))
        : powers
            .spot(removed)
            .map(spot -> entry(spot, removed.grant()))
            .orElseGet(() -> withdrawn(removed));
  }

  private String withdrawn(Change.AssignmentRemoved removed) {
    SystemView view = model.systems().get(removed.system());
    Grant grant = view.grants().get(removed.grant());
    String role = view.system().roles().get(grant.role()).name();
    String whom = Words.trustee(model.facts(), grant);
    String place = Words.place(view, grant);
    String at =
        view.resources().size() == 1
            ? ""
            : place.equals("everywhere") ? ", everywhere" : " at " + place;
    return view.system().isOfLists()
        ? say(
            "remove",
            "removed",
            "the entry " + role + " for " + whom,
            " at " + view.resources().id(grant.resource()))
        : say(
            "withdraw",
            "withdrawn",
            "the role " + role + " of " + view.system().name(),
            " from "
                + whom
                + at
                + (grant.on() ? "" : ", switched off")
                + " ("
                + grant.place()
                + ")");
  }

  private String role(AdminGrant grant) {
    Administration all = powers.roles().administration();
    String whom =
        grant.subject() < 0
            ? Problem.quote(grant.subjectText())
            : Words.subject(model.facts(), grant.subject());
    return say(
        "withdraw",
        "withdrawn",
        "the admin role " + all.roles().get(grant.role()).name() + " over " + all.over(grant),
        " from " + whom + " (" + grant.place() + ")");
  }

  private String entry(DirectoryTrees.Spot spot, int grant) {
    DirectoryTree tree = spot.tree();
    int entry = grant - tree.entryNumber(spot.object(), 0);
    Ace ace = tree.descriptor(spot.object()).orElseThrow().entries().get(entry);
    return say(
        "take",
        "taken",
        "the entry of " + new TrusteeNames(powers.trees()).name(ace.trustee()),
        " off "
            + DelegationAnswers.place(tree, spot.object())
            + " ("
            + new EntryWords(tree.names()).of(ace)
            + ")");
  }
}
