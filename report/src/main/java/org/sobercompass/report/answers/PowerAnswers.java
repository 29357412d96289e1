package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.admin.ActReadiness;
import org.sobercompass.core.admin.AdminModel;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Console;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.readiness.Condition;
import org.sobercompass.core.readiness.Readiness;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.report.data.AnswerTable;

/** Answers about who can do what to whom. Not thread-safe. */
public final class PowerAnswers {
  private static final int FEW = 5;
  private static final int MANY = 50;

  private final AnswerContext ask;
  private final AnswerContext gaps;
  private final Powers powers;
  private final Facts facts;
  private final DelegationAnswers delegations;
  private final java.util.function.Function<Ace, String> text;

  /** Answers over powers; {@code text} shows an entry as proof. */
  public PowerAnswers(
      AnswerContext ask,
      Powers powers,
      DelegationAnswers delegations,
      java.util.function.Function<Ace, String> text) {
    this.ask = ask.whole();
    this.gaps = ask;
    this.powers = powers;
    this.facts = ask.model().facts();
    this.delegations = delegations;
    this.text = text;
  }

  private String name(Powers.Thing object) {
    return object.subject() >= 0
        ? Words.subject(facts, object.subject())
        : object.spot().map(s -> s.tree().label(s.object())).orElse("?");
  }

  /** Whether an account can do an action to an object, with the ways, or the nearest miss. */
  public AnswerTable can(
      int account,
      AdminAction action,
      Powers.Thing object,
      Optional<DirectoryTrees.Spot> destination) {
    Can can = powers.usable(account, action, object, destination);
    Verdict verdict = can.verdict();
    AnswerTable.Builder sheet = ask.begin("can-act/1", "answer", "way", "stands on", "entry");
    for (Powers.Way way : powers.ways(account, action, object, destination)) {
      boolean gives = way.gives();
      sheet.row(
          !gives ? "x stops" : can.held() == Verdict.YES ? "+ gives" : "- not enough",
          chain(way),
          way.spot().map(s -> DelegationAnswers.place(s.tree(), s.object())).orElse("admin role"),
          entry(way).map(text).orElse(""));
    }
    String who = Words.subject(facts, account);
    String what = name(object) + ": " + action.name() + ".";
    sheet.heading(
        switch (verdict) {
          case YES -> "Yes: " + who + " can do this to " + what;
          case NO ->
              "No: "
                  + who
                  + " cannot do this to "
                  + what
                  + (can.held() == Verdict.YES
                      ? " The right is held, but "
                          + String.join("; ", can.standing().reasons())
                          + "."
                      : "");
          case UNDECIDED -> "Undecided: " + who + " may be able to do this to " + what;
        });
    notes(can, account, action, object, sheet);
    String never = powers.never(action, object);
    if (never.isEmpty() && can.held() != Verdict.YES) {
      sheet.note(miss(account, action, object, destination));
    }
    if (!powers.fits(action, object)) {
      sheet.note("That cannot be done to an object of this class at all.");
    }
    return ask.about(sheet, List.of());
  }

  private void notes(
      Can can, int account, AdminAction action, Powers.Thing object, AnswerTable.Builder sheet) {
    if (can.held() == Verdict.UNDECIDED) {
      sheet.note(capital(unknown(account, action, object)) + ".");
    } else if (can.verdict() == Verdict.UNDECIDED) {
      sheet.note(capital(String.join("; ", can.standing().reasons())) + ".");
    }
    String never = powers.never(action, object);
    if (!never.isEmpty()) {
      sheet.note("Nobody can: " + never + ".");
    }
  }

  private static String capital(String text) {
    return FindingAnswers.capital(text);
  }

  /** Why it is not known whether an account can do something. */
  public String unknown(int account, AdminAction action, Powers.Thing object) {
    if (object.spot().isEmpty()) {
      return "the access rules of "
          + facts.source(object.subject())
          + " were not read, and no admin role gives it";
    }
    DirectoryTrees.Spot spot = object.spot().get();
    if (spot.tree().descriptor(spot.object()).isEmpty()) {
      return "the access control list of " + name(object) + " was not read";
    }
    if (powers.trees().sid(account).isEmpty()) {
      return "the id of " + Words.subject(facts, account) + " (objectSid) was not read";
    }
    if (powers.lists().isUnsure(account)) {
      return "members of a group on the way were withheld, a rule is undefined, or an entry is for"
          + " somebody of a domain that was not read";
    }
    return "an entry, or a list on the way, cannot be judged, or the schema does not know "
        + action.name();
  }

  /** The entry that a way stands on; none for an admin role and for ownership. */
  private static Optional<Ace> entry(Powers.Way way) {
    return way.spot()
        .filter(spot -> way.grant() >= spot.tree().entryNumber(spot.object(), 0))
        .flatMap(
            spot -> {
              int entry = way.grant() - spot.tree().entryNumber(spot.object(), 0);
              return spot.tree().descriptor(spot.object()).map(list -> list.entries().get(entry));
            });
  }

  private String chain(Powers.Way way) {
    String subjects =
        way.chain().stream().map(s -> Words.subject(facts, s)).collect(Collectors.joining(" → "));
    if (way.spot().isEmpty()) {
      Administration all = powers.roles().administration();
      AdminGrant grant = all.grants().get(way.grant());
      return subjects
          + " → admin role "
          + all.roles().get(grant.role()).name()
          + " over "
          + scopeName(grant.scope());
    }
    if (!way.note().isEmpty()) {
      return subjects + ": " + way.note();
    }
    Ace ace = entry(way).orElseThrow();
    boolean named = powers.trees().subject(ace.trustee()).isPresent();
    return subjects + (named ? "" : " → " + delegations.holder(ace.trustee()));
  }

  private String scopeName(int scope) {
    return scope < 0 ? "everything" : powers.roles().scopes().all().get(scope).name();
  }

  private String miss(
      int account,
      AdminAction action,
      Powers.Thing object,
      Optional<DirectoryTrees.Spot> destination) {
    Crowd who = powers.who(action, object, destination);
    String others =
        who.yes().isEmpty()
            ? who.perhaps().isEmpty() ? "Nobody can." : "Nobody is known to be able to."
            : "Who could: " + delegations.names(who.yes(), FEW) + ".";
    if (object.subject() < 0) {
      return others;
    }
    AdminModel.Miss miss = powers.roles().miss(account, action.id(), object.subject());
    Administration all = powers.roles().administration();
    String near =
        miss.grant()
            .map(
                g -> {
                  AdminGrant grant = all.grants().get(g);
                  String role = all.roles().get(grant.role()).name();
                  String scope = scopeName(grant.scope());
                  return switch (miss.nearness()) {
                    case OTHER_SCOPE ->
                        "Nearest: "
                            + role
                            + " over "
                            + scope
                            + " has the action, but "
                            + name(object)
                            + " is not in it"
                            + excepted(grant.scope(), object.subject())
                            + ". ";
                    case OTHER_ACTION ->
                        "Nearest: " + role + " over " + scope + " does not have the action. ";
                    case NOT_NOW -> "Nearest: " + role + " over " + scope + " does not hold now. ";
                    case NO_ROLE -> "";
                  };
                })
            .orElse("");
    return near + others;
  }

  private String excepted(int scope, int object) {
    return scope < 0
        ? ""
        : powers
            .roles()
            .scopes()
            .excepted(scope, object)
            .map(line -> " (excepted by " + line + ")")
            .orElse("");
  }

  /** Who can do an action to an object. */
  public AnswerTable who(
      AdminAction action, Powers.Thing object, Optional<DirectoryTrees.Spot> destination) {
    Crowd answer = powers.who(action, object, destination);
    AnswerTable.Builder sheet = ask.begin("who-can/1", "account", "login", "key", "known", "way");
    answer.yes().stream().forEach(a -> sheet.row(row(a, "+ yes", action, object, destination)));
    boolean anybody = answer.perhaps().cardinality() > MANY;
    answer.perhaps().stream()
        .limit(anybody ? 0 : MANY)
        .forEach(a -> sheet.row(row(a, "? not known", action, object, destination)));
    if (anybody) {
      sheet.note(
          "The "
              + answer.perhaps().cardinality()
              + " accounts of which it is not known are not listed: "
              + unknown(answer.perhaps().nextSetBit(0), action, object)
              + ".");
    }
    if (!powers.fits(action, object)) {
      sheet.note("That cannot be done to an object of this class at all.");
    }
    return ask.about(
        sheet.heading(
            (answer.yes().isEmpty() && !answer.perhaps().isEmpty()
                    ? "Undecided: nobody is known to be able to"
                    : AnswerContext.count(
                        answer.yes().cardinality(), "account can", "accounts can"))
                + " do this to "
                + name(object)
                + ": "
                + action.name()
                + (answer.perhaps().isEmpty()
                    ? "."
                    : "; of " + answer.perhaps().cardinality() + " others it is not known.")),
        List.of());
  }

  /** The first way that gives something, in words; empty when there is none. */
  public String way(int account, AdminAction action, Powers.Thing object) {
    return powers.ways(account, action, object, Optional.empty()).stream()
        .filter(Powers.Way::gives)
        .map(w -> chain(w) + w.spot().map(s -> " (" + s.tree().label(s.object()) + ")").orElse(""))
        .findFirst()
        .orElse("");
  }

  private Object[] row(
      int account,
      String known,
      AdminAction action,
      Powers.Thing object,
      Optional<DirectoryTrees.Spot> destination) {
    String way = destination.isPresent() ? "" : way(account, action, object);
    return new Object[] {
      facts.label(account),
      facts.login(account),
      facts.key(account).text(),
      known + state(account),
      way
    };
  }

  /** What keeps an account from acting at all, after a comma. */
  private String state(int account) {
    Standing standing = powers.standing(account);
    return standing.state() == Standing.State.USABLE
        ? ""
        : ", but " + String.join("; ", standing.reasons());
  }

  /** All that an account can act on, by action; inside and outside a scope side by side. */
  public AnswerTable powers(int account, Optional<Integer> scope) {
    AnswerTable.Builder sheet =
        scope.isPresent()
            ? ask.begin("powers-scope/1", "admin action", "inside", "outside", "among them outside")
            : ask.begin("powers/1", "admin action", "objects", "among them");
    int kinds = 0;
    for (AdminAction action : powers.roles().administration().actions()) {
      List<Powers.Thing> things = things(account, action);
      if (!things.isEmpty()) {
        kinds++;
        row(action, things, scope, sheet);
      }
    }
    String where = scope.map(s -> " of " + scopeName(s)).orElse("");
    return gaps.about(
        sheet.heading(
            Words.subject(facts, account)
                + " can do "
                + AnswerContext.count(kinds, "kind of admin action", "kinds of admin action")
                + (scope.isPresent() ? ", inside and outside" + where : "")
                + "."),
        List.of());
  }

  private void row(
      AdminAction action,
      List<Powers.Thing> things,
      Optional<Integer> scope,
      AnswerTable.Builder sheet) {
    if (scope.isEmpty()) {
      sheet.row(action.name() + " (" + action.id() + ")", things.size(), some(things));
      return;
    }
    List<Powers.Thing> outside =
        things.stream()
            .filter(
                t -> t.subject() < 0 || !powers.roles().scopes().contains(scope.get(), t.subject()))
            .toList();
    sheet.row(
        action.name() + " (" + action.id() + ")",
        things.size() - outside.size(),
        outside.size(),
        some(outside));
  }

  private String some(List<Powers.Thing> things) {
    return things.stream().limit(FEW).map(this::name).collect(Collectors.joining(", "))
        + (things.size() > FEW ? " and " + (things.size() - FEW) + " more" : "");
  }

  /** The objects that an account can do an action to. O(objects); equal lists are decided once. */
  public List<Powers.Thing> things(int account, AdminAction action) {
    List<Powers.Thing> found = new ArrayList<>();
    BitSet byRole = powers.roles().objects(account, action.id());
    BitSet told = new BitSet();
    for (DirectoryTree tree : powers.trees().all()) {
      for (int object = 0; object < tree.size(); object++) {
        Powers.Thing thing = powers.thing(new DirectoryTrees.Spot(tree, object));
        if (powers.can(account, action, thing, Optional.empty()) == Verdict.YES) {
          found.add(thing);
        }
        if (thing.subject() >= 0) {
          told.set(thing.subject());
        }
      }
    }
    byRole.stream()
        .filter(s -> !told.get(s))
        .mapToObj(powers::thing)
        .filter(thing -> powers.fits(action, thing))
        .forEach(found::add);
    return found;
  }

  /** What an account would meet that wants to do something, step by step. */
  public AnswerTable trial(
      int account,
      AdminAction action,
      Powers.Thing object,
      Optional<DirectoryTrees.Spot> destination,
      Optional<String> from) {
    List<Readiness.Step> steps =
        new ActReadiness(powers, from).steps(account, action, object, destination);
    AnswerTable.Builder sheet =
        ask.begin("act-trial/1", "step", "met", "condition", "what was found");
    Optional<Readiness.Step> first =
        steps.stream().filter(step -> step.met() == Truth.FALSE).findFirst();
    int number = 0;
    for (Readiness.Step step : steps) {
      boolean stops = first.filter(step::equals).isPresent();
      sheet.row(
          ++number,
          TrialAnswers.sign(step.met()) + (stops ? "  <- stops here" : ""),
          words(step.condition()),
          step.detail());
    }
    Console console = powers.roles().administration().console();
    if (!console.name().isEmpty()) {
      sheet.fact("done with", console.name());
    }
    if (!console.signIn().isEmpty()) {
      sheet.fact("sign-in", console.signIn());
    }
    sheet.fact("connected as", facts.login(account) + " of " + facts.source(account));
    if (first.isPresent()) {
      sheet.note(miss(account, action, object, destination));
    }
    boolean open = steps.stream().anyMatch(step -> step.met() == Truth.UNDEFINED);
    String what = name(object) + ": " + action.name() + ".";
    String who = Words.subject(facts, account);
    return ask.about(
        sheet.heading(
            first.isPresent()
                ? who + " could not do this to " + what
                : open
                    ? "Undecided: " + who + " may be able to do this to " + what
                    : who + " could do this to " + what),
        List.of());
  }

  private static String words(Condition condition) {
    return switch (condition) {
      case SEEN -> "connected as an account that counts there";
      case PLACE -> "done from a host for it";
      case RIGHTS -> "it has the right";
      default -> condition.words();
    };
  }

  /** Whether an account would come through all conditions. */
  public Truth ready(
      int account,
      AdminAction action,
      Powers.Thing object,
      Optional<DirectoryTrees.Spot> destination,
      Optional<String> from) {
    Truth all = Truth.TRUE;
    for (Readiness.Step step :
        new ActReadiness(powers, from).steps(account, action, object, destination)) {
      all = all.and(step.met());
    }
    return all;
  }
}
