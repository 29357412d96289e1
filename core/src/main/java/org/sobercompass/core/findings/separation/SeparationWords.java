package org.sobercompass.core.findings.separation;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Finding.Evidence;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.findings.Side.Act;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.Side.RoleHeld;
import org.sobercompass.core.findings.Telling;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;

/** Separation of duties in words, with the routes that show it. */
final class SeparationWords {
  private final FindingContext context;
  private final SeparationTests tests;

  SeparationWords(FindingContext context, SeparationTests tests) {
    this.context = context;
    this.tests = tests;
  }

  static Key key(SeparationCauses.RoleCause role) {
    RoleInfo info = role.view().system().roles().get(role.role());
    return new Key(KeyKind.ROLE, role.view().id(), info.id());
  }

  /** Tells all conflicts. What is said of each is worked out when it is asked for. */
  void tell(List<SeparationFinder.Draft> drafts, Consumer<Finding> out) {
    ThreadLocal<SeparationWords> own =
        ThreadLocal.withInitial(() -> new SeparationWords(context.apart(), tests));
    for (SeparationFinder.Draft draft : drafts) {
      SeparationRule rule = tests.rules.get(draft.rule());
      out.accept(
          new Finding(
              FindingKind.SEPARATION_OF_DUTIES,
              rule.id(),
              draft.cause().key(),
              rule.weight(),
              Telling.later(() -> own.get().said(draft), () -> own.get().shown(draft)),
              "",
              context.keys(draft.accounts()),
              aim(draft)));
    }
  }

  private Telling.Said said(SeparationFinder.Draft draft) {
    SeparationRule rule = tests.rules.get(draft.rule());
    List<Integer> accounts = draft.accounts();
    boolean person = draft.cause().in() == SeparationFinder.Together.PERSON;
    List<String> why = new ArrayList<>();
    why.add("the rule " + rule.id() + " says " + rule.weight().word());
    why.add(Words.count(accounts.size(), "account is", "accounts are") + " concerned");
    if (rule.where() != SeparationRule.Where.ANYWHERE) {
      why.add(
          "held "
              + (rule.where() == SeparationRule.Where.SAME_NODE
                  ? "at one node"
                  : "at nodes one above the other"));
    }
    why.addAll(strength(rule));
    why.addAll(routes(draft));
    String who =
        accounts.size() == 1 || person
            ? Words.subject(context.facts, accounts.get(0)) + " holds"
            : accounts.size() + " accounts hold";
    return new Telling.Said(
        why,
        who + " rights that must be kept apart: " + rule.name() + "; " + words(draft.cause()),
        advice(draft));
  }

  /** The routes of some of the accounts; where a person has several, of all of them together. */
  private List<Evidence> shown(SeparationFinder.Draft draft) {
    List<Integer> accounts = draft.accounts();
    boolean near = tests.rules.get(draft.rule()).where() != SeparationRule.Where.ANYWHERE;
    boolean person = draft.cause().in() == SeparationFinder.Together.PERSON;
    List<Evidence> evidence = new ArrayList<>();
    for (int i = 0; i < Math.min(FindingContext.SHOWN, accounts.size()); i++) {
      evidence.addAll(
          near(draft.rule(), person && i == 0 && near ? accounts : List.of(accounts.get(i))));
    }
    return evidence;
  }

  /** What brings the sides together, in words. */
  private String words(SeparationFinder.Cause cause) {
    return switch (cause.in()) {
      case ROLE -> {
        SeparationCauses.RoleCause role = cause.role().orElseThrow();
        yield "the role "
            + role.view().system().roles().get(role.role()).name()
            + " of "
            + role.view().system().name()
            + " has both by itself";
      }
      case EVERYONE -> "everyone gets both";
      case GROUP -> "every member of " + context.facts.label(cause.subject()) + " gets both";
      case UNIT -> "every account in " + context.facts.label(cause.subject()) + " gets both";
      case ACCOUNT -> "this account has both by itself";
      case PERSON -> "they come together in " + cause.accounts() + " accounts of one person";
    };
  }

  /** A role that breaks the rule by itself is to be split; the rest can be taken apart. */
  private Remedy aim(SeparationFinder.Draft draft) {
    Set<List<Integer>> persons = new LinkedHashSet<>();
    boolean perPerson = tests.rules.get(draft.rule()).perPerson();
    for (int account : draft.accounts()) {
      List<Integer> all =
          perPerson ? context.assessment.persons().accounts(account) : List.of(account);
      persons.add(all);
    }
    return new Remedy.Kept(tests.rules.get(draft.rule()).id(), List.copyOf(persons));
  }

  private String advice(SeparationFinder.Draft draft) {
    if (draft.cause().key().kind() == KeyKind.ROLE) {
      return "split the role, so that each part can be given to somebody else";
    }
    int subject = draft.cause().subject();
    return subject < 0
        ? "take one side away from the account: end one of its routes"
        : context.facts.kind(subject) == SubjectKind.IMPLICIT
            ? "give one side to the groups that need it, instead of everyone"
            : "take one side away from the "
                + (context.facts.kind(subject) == SubjectKind.UNIT ? "unit " : "group ")
                + context.facts.label(subject);
  }

  /** How much the sides are: what the rights on them can do. */
  private List<String> strength(SeparationRule rule) {
    int strongest = 0;
    for (List<Side> side : rule.sides()) {
      strongest += side.stream().anyMatch(this::isStrongest) ? 1 : 0;
    }
    return strongest == 0
        ? List.of()
        : List.of(
            strongest
                + " of the "
                + rule.sides().size()
                + (strongest == 1 ? " sides is" : " sides are")
                + " of the strongest kind");
  }

  private boolean isStrongest(Side side) {
    return side instanceof Permission permission
        && context
            .model
            .system(permission.system())
            .filter(view -> view.rights().isStrongest(permission.right()))
            .isPresent();
  }

  /** By how many assignments it comes together, where it does so in one account or person. */
  private List<String> routes(SeparationFinder.Draft draft) {
    if (draft.cause().subject() >= 0 || draft.cause().key().kind() == KeyKind.ROLE) {
      return List.of();
    }
    int count = 0;
    long asOf = context.model.asOf().getEpochSecond();
    for (int account : draft.accounts()) {
      for (SystemView view : tests.systems(draft.rule())) {
        IntList grants = view.decider().grantsOf(context.asker.token(view, account));
        for (int i = 0; i < grants.size(); i++) {
          Grant grant = view.grants().get(grants.get(i));
          boolean gives = tests.sides(view, grant.role(), draft.rule()) != 0;
          count += grant.activeAt(asOf) && gives ? 1 : 0;
        }
      }
    }
    return count == 0
        ? List.of()
        : List.of("it comes by " + Words.count(count, "assignment", "assignments"));
  }

  /** Routes to the sides where they meet; one a side, wherever, where that does not matter. */
  private List<Evidence> near(int number, List<Integer> accounts) {
    SeparationRule rule = tests.rules.get(number);
    if (rule.where() == SeparationRule.Where.ANYWHERE) {
      return evidence(rule, accounts.get(0));
    }
    SeparationPlaces places = new SeparationPlaces(tests, context.asker, number);
    accounts.forEach(account -> places.add(account, true));
    List<Evidence> found = new ArrayList<>();
    for (SeparationPlaces.Spot spot : places.spots(accounts)) {
      (spot.right() >= 0
              ? context.route(spot.view(), spot.account(), spot.right(), spot.node())
              : Optional.of(context.line(spot.view(), spot.view().grants().get(spot.grant()))))
          .ifPresent(found::add);
    }
    for (int side = 0; side < rule.sides().size(); side++) {
      if ((places.everywhere() >>> side & 1) != 0) {
        for (Side item : rule.sides().get(side)) {
          if (item instanceof Act act) {
            accounts.forEach(account -> act(act, account).ifPresent(found::add));
          }
        }
      }
    }
    return found.isEmpty() ? evidence(rule, accounts.get(0)) : found;
  }

  /** One route a side. */
  List<Evidence> evidence(SeparationRule rule, int account) {
    Map<Integer, Evidence> bySide = new LinkedHashMap<>();
    for (int side = 0; side < rule.sides().size(); side++) {
      for (Side item : rule.sides().get(side)) {
        Optional<Evidence> route = evidence(item, account);
        if (route.isPresent()) {
          bySide.put(side, route.get());
          break;
        }
      }
    }
    return List.copyOf(bySide.values());
  }

  Optional<Evidence> evidence(Side item, int account) {
    if (item instanceof Permission permission) {
      return context
          .model
          .system(permission.system())
          .flatMap(view -> context.route(view, account, permission.right()));
    }
    if (item instanceof RoleHeld held) {
      return context.model.system(held.system()).flatMap(view -> role(view, held, account));
    }
    return act((Act) item, account);
  }

  private Optional<Evidence> act(Act act, int account) {
    return tests.acts.stream()
        .filter(of -> of.may(account) && of.asks(act, tests.rules))
        .findFirst()
        .map(
            of ->
                of.can(account)
                    ? act.route(context.assessment.powers(), account).orElse(act.action())
                    : Words.subject(context.facts, account) + " perhaps can " + act.action())
        .map(Evidence::of);
  }

  private Optional<Evidence> role(SystemView view, RoleHeld held, int account) {
    BitSet asked = RoleInfo.including(view.system().roles(), held.role());
    long asOf = context.model.asOf().getEpochSecond();
    IntList grants = view.decider().grantsOf(context.asker.token(view, account));
    for (int i = 0; i < grants.size(); i++) {
      Grant grant = view.grants().get(grants.get(i));
      if (grant.activeAt(asOf) && asked.get(grant.role())) {
        return Optional.of(context.line(view, grant));
      }
    }
    return Optional.empty();
  }

  /** A role that nobody holds and that breaks a rule by itself. */
  Finding role(int number, SeparationCauses.RoleCause cause) {
    SeparationRule rule = tests.rules.get(number);
    RoleInfo role = cause.view().system().roles().get(cause.role());
    List<Evidence> evidence = new ArrayList<>();
    for (List<Side> side : rule.sides()) {
      for (Side item : side) {
        if (item instanceof Permission p
            && p.system().equals(cause.view().id())
            && role.allows(p.right())) {
          var chain = cause.view().system().roleChain(cause.role(), p.right());
          evidence.add(
              Evidence.of(
                  String.join(" → ", chain.roles())
                      + ": "
                      + (chain.entry().isEmpty() ? tests.words(item) : chain.entry())));
        }
      }
    }
    return new Finding(
        FindingKind.CONFLICTING_ROLE,
        rule.id(),
        key(cause),
        rule.weight() == Weight.HIGH ? Weight.MEDIUM : Weight.LOW,
        List.of("the rule " + rule.id() + " says " + rule.weight().word(), "nobody holds it today"),
        "the role "
            + role.name()
            + " of "
            + cause.view().system().name()
            + " contains rights that must be kept apart: "
            + rule.name()
            + "; nobody holds it yet",
        cause.view().id(),
        List.of(),
        evidence,
        "split the role before somebody is given it, or delete it",
        List.of());
  }
}
