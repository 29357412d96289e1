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
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Found;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.findings.Side.Act;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.Side.RoleHeld;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.SeparationDetails;
import org.sobercompass.core.findings.details.SeparationDetails.Near;
import org.sobercompass.core.findings.details.SeparationDetails.Together;
import org.sobercompass.core.findings.details.Who;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;

/** What is said of separation of duties, with the routes that show it. */
final class SeparationEvidence {
  private final FindingContext context;
  private final SeparationTests tests;

  SeparationEvidence(FindingContext context, SeparationTests tests) {
    this.context = context;
    this.tests = tests;
  }

  static Key key(SeparationCauses.RoleCause role) {
    RoleInfo info = role.view().system().roles().get(role.role());
    return new Key(KeyKind.ROLE, role.view().id(), info.id());
  }

  /** Tells all conflicts. What is said of each is worked out when it is asked for. */
  void tell(List<SeparationFinder.Draft> drafts, Consumer<Finding> out) {
    ThreadLocal<SeparationEvidence> own =
        ThreadLocal.withInitial(() -> new SeparationEvidence(context.apart(), tests));
    for (SeparationFinder.Draft draft : drafts) {
      SeparationRule rule = tests.rules.get(draft.rule());
      out.accept(
          new Finding(
              FindingKind.SEPARATION_OF_DUTIES,
              rule.id(),
              draft.cause().key(),
              rule.weight(),
              Found.later(
                  context.model, () -> own.get().about(draft), () -> own.get().shown(draft)),
              "",
              context.keys(draft.accounts()),
              aim(draft)));
    }
  }

  private SeparationDetails about(SeparationFinder.Draft draft) {
    SeparationRule rule = tests.rules.get(draft.rule());
    SeparationFinder.Cause cause = draft.cause();
    List<Integer> accounts = draft.accounts();
    return new SeparationDetails.Conflict(
        rule(rule),
        cause.in(),
        cause.subject(),
        cause.role().map(SeparationEvidence::role),
        new Who(accounts.size(), accounts.get(0)),
        cause.accounts(),
        strongest(rule),
        assignments(draft));
  }

  /** A rule, as far as a sentence needs it. */
  static SeparationDetails.Rule rule(SeparationRule rule) {
    Near near =
        switch (rule.where()) {
          case ANYWHERE -> Near.ANYWHERE;
          case SAME_NODE -> Near.AT_ONE_NODE;
          default -> Near.ONE_ABOVE_THE_OTHER;
        };
    return new SeparationDetails.Rule(
        rule.id(), rule.name(), rule.weight().word(), near, rule.sides().size());
  }

  private static SeparationDetails.RoleOf role(SeparationCauses.RoleCause cause) {
    return new SeparationDetails.RoleOf(cause.view().number(), cause.role());
  }

  /** The routes of some of the accounts; where a person has several, of all of them together. */
  private List<Evidence> shown(SeparationFinder.Draft draft) {
    List<Integer> accounts = draft.accounts();
    boolean near = tests.rules.get(draft.rule()).where() != SeparationRule.Where.ANYWHERE;
    boolean person = draft.cause().in() == Together.PERSON;
    List<Evidence> evidence = new ArrayList<>();
    for (int i = 0; i < Math.min(FindingContext.SHOWN, accounts.size()); i++) {
      evidence.addAll(
          near(draft.rule(), person && i == 0 && near ? accounts : List.of(accounts.get(i))));
    }
    return evidence;
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

  /** How many sides have rights of the strongest kind. */
  private int strongest(SeparationRule rule) {
    int strongest = 0;
    for (List<Side> side : rule.sides()) {
      strongest += side.stream().anyMatch(this::isStrongest) ? 1 : 0;
    }
    return strongest;
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
  private int assignments(SeparationFinder.Draft draft) {
    if (draft.cause().subject() >= 0 || draft.cause().in() == SeparationDetails.Together.ROLE) {
      return 0;
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
    return count;
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
              : Optional.of(
                  FindingContext.assigned(spot.view(), spot.view().grants().get(spot.grant()))))
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
                    ? new Evidence.CanAct(
                        act.route(context.assessment.powers(), account).orElse(act.action()))
                    : new Evidence.PerhapsCanAct(account, act.action()));
  }

  private Optional<Evidence> role(SystemView view, RoleHeld held, int account) {
    BitSet asked = RoleInfo.including(view.system().roles(), held.role());
    long asOf = context.model.asOf().getEpochSecond();
    IntList grants = view.decider().grantsOf(context.asker.token(view, account));
    for (int i = 0; i < grants.size(); i++) {
      Grant grant = view.grants().get(grants.get(i));
      if (grant.activeAt(asOf) && asked.get(grant.role())) {
        return Optional.of(FindingContext.assigned(view, grant));
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
          String entry = chain.entry().isEmpty() ? tests.words(item) : chain.entry();
          evidence.add(new Evidence.RoleContains(chain.roles(), entry));
        }
      }
    }
    return context.decision(
        FindingKind.CONFLICTING_ROLE,
        rule.id(),
        key(cause),
        FindingContext.reduced(rule.weight()),
        new SeparationDetails.ConflictingRole(rule(rule), role(cause)),
        evidence,
        cause.view().id(),
        List.of());
  }
}
