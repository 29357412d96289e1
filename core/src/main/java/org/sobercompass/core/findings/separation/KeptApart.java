package org.sobercompass.core.findings.separation;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.ActFacts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.separation.SeparationSweep.Hold;
import org.sobercompass.core.findings.separation.SeparationTests.OfRights;
import org.sobercompass.core.findings.separation.SeparationTests.OfRoles;
import org.sobercompass.core.removal.Enrolments;
import org.sobercompass.core.removal.Goal;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Standing;

/** The goal that nobody of some persons breaks a separation rule any more. */
public final class KeptApart implements Goal {
  private final Assessment assessment;
  private final Remedy.Kept aim;
  private final int rule;

  public KeptApart(Assessment assessment, Remedy.Kept aim) {
    this.assessment = assessment;
    this.aim = aim;
    List<SeparationRule> rules = assessment.rules().separation();
    int found = 0;
    while (!rules.get(found).id().equals(aim.rule())) {
      found++;
    }
    this.rule = found;
  }

  @Override
  public Optional<Still> still(AccessModel model, List<Change> made) {
    Assessment then = assessment.over(model);
    SeparationTests tests = new SeparationTests(then);
    SeparationSweep sweep = new SeparationSweep(tests, then, true);
    Asker asker = model.asker();
    for (List<Integer> person : aim.persons()) {
      List<Hold> holds = new ArrayList<>();
      long usable = 0;
      for (int account : person) {
        for (Hold hold : sweep.of(asker, account)) {
          if (hold.rule() == rule) {
            holds.add(hold);
            usable |= hold.usable();
          }
        }
      }
      if (tests.enough(rule, usable) && sweep.isNear(asker, rule, holds, true)) {
        return Optional.of(still(tests, sweep, asker, holds, new ActFacts(then.powers())));
      }
    }
    return Optional.empty();
  }

  /** One route for each of as many sides as make a conflict. */
  private Still still(
      SeparationTests tests, SeparationSweep sweep, Asker asker, List<Hold> person, ActFacts acts) {
    SeparationRule of = tests.rules.get(rule);
    List<Part> parts = new ArrayList<>();
    List<int[]> edges = new ArrayList<>();
    boolean exact = true;
    int sides = 0;
    long asked = ~0L;
    if (of.where() != SeparationRule.Where.ANYWHERE) {
      SeparationPlaces places = sweep.places(asker, rule, person, true);
      RouteFinder finder = new RouteFinder(asker, Limits.ONE);
      for (SeparationPlaces.Spot spot : places.spots(person.stream().map(Hold::account).toList())) {
        Optional<Part> part = part(finder, spot);
        part.ifPresent(parts::add);
        part.ifPresent(p -> edges.addAll(Enrolments.edges(asker, spot.view(), spot.account())));
        exact &= part.isPresent();
        sides++;
      }
      asked = places.everywhere();
    }
    for (int side = 0; side < of.sides().size() && sides < of.atLeast(); side++) {
      for (Hold hold : person) {
        if ((asked & hold.usable() & 1L << side) != 0) {
          Optional<Part> part =
              asked == ~0L ? part(tests, asker, hold.account(), side) : Optional.empty();
          if (part.isPresent()) {
            parts.add(part.get());
            SystemView view = asker.model().systems().get(part.get().system());
            edges.addAll(Enrolments.edges(asker, view, hold.account()));
          } else {
            exact &= act(tests, hold.account(), side, acts);
          }
          sides++;
          break;
        }
      }
    }
    edges.addAll(acts.edges());
    Still acted = acts.still();
    return new Still(parts, edges, acted.grants(), acted.scopes(), exact && acted.exact());
  }

  /** The route to what is held somewhere. */
  private static Optional<Part> part(RouteFinder finder, SeparationPlaces.Spot spot) {
    SystemView view = spot.view();
    Optional<Route> route =
        spot.right() >= 0
            ? finder.first(view, spot.account(), spot.right(), spot.node())
            : finder.routes(view, view.memberships(), spot.account(), spot.grant(), 0).stream()
                .findFirst();
    return route.map(r -> new Part(view.number(), r));
  }

  /** Whether one of the acts of a side is shown by facts. */
  private boolean act(SeparationTests tests, int account, int side, ActFacts into) {
    for (SeparationTests.OfAct of : tests.acts) {
      if (of.rule() == rule && of.side() == side && of.can(account)) {
        return into.act(account, of.action(assessment), of.act().objects(assessment.powers()));
      }
    }
    return false;
  }

  private Optional<Part> part(SeparationTests tests, Asker asker, int account, int side) {
    RouteFinder finder = new RouteFinder(asker, Limits.ONE);
    for (SystemView view : asker.model().systems()) {
      if (asker.standing(view, account).state() != Standing.State.USABLE) {
        continue;
      }
      for (OfRights test : tests.rights[view.number()]) {
        if (test.rule() == rule && test.side() == side) {
          Optional<Part> found = held(finder, asker, view, account, test);
          if (found.isPresent()) {
            return found;
          }
        }
      }
      for (OfRoles test : tests.roles[view.number()]) {
        if (test.rule() == rule && test.side() == side) {
          Optional<Part> found = role(finder, asker, view, account, test);
          if (found.isPresent()) {
            return found;
          }
        }
      }
    }
    return Optional.empty();
  }

  private static Optional<Part> held(
      RouteFinder finder, Asker asker, SystemView view, int account, OfRights test) {
    for (Holding holding : asker.holdings(view, account)) {
      int right = holding.right();
      boolean asked = (test.bits()[right >> 6] >>> right & 1) != 0;
      if (asked && holding.state() == Standing.State.USABLE) {
        Optional<Route> route = finder.first(view, account, right, holding.resource());
        if (route.isPresent()) {
          return route.map(r -> new Part(view.number(), r));
        }
      }
    }
    return Optional.empty();
  }

  private static Optional<Part> role(
      RouteFinder finder, Asker asker, SystemView view, int account, OfRoles test) {
    long asOf = asker.model().asOf().getEpochSecond();
    IntList grants = view.decider().grantsOf(asker.token(view, account));
    for (int i = 0; i < grants.size(); i++) {
      Grant grant = view.grants().get(grants.get(i));
      if (grant.activeAt(asOf) && test.roles().get(grant.role())) {
        List<Route> routes = finder.routes(view, view.memberships(), account, grants.get(i), 0);
        if (!routes.isEmpty()) {
          return Optional.of(new Part(view.number(), routes.get(0)));
        }
      }
    }
    return Optional.empty();
  }
}
