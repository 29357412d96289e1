package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.membership.MembershipPaths;
import org.sobercompass.core.membership.MembershipPaths.Path;
import org.sobercompass.core.membership.MembershipPaths.Paths;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.ShortestPaths;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.AccessSystem.RoleChain;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.FactRef;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Proof;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Stopped;

/**
 * Joins the proofs of a decision with the chains of memberships that lead to them. Nothing of it is
 * stored. Not thread-safe, like its asker.
 */
public final class RouteFinder {
  private final Asker asker;
  private final AccessModel model;
  private final Limits limits;
  private final Map<Memberships, ShortestPaths> shortest = new IdentityHashMap<>();
  private boolean more;
  private Memberships.@Nullable Walker wideWalker;

  /** Finds routes within limits. */
  public RouteFinder(Asker asker, Limits limits) {
    this.asker = asker;
    this.model = asker.model();
    this.limits = limits;
  }

  /** The routes of one account to one right on one resource, open and stopped. */
  public Routes find(SystemView view, int account, int right, int resource) {
    Decision decision = asker.explain(view, account, Question.of(resource, right), limits);
    more = decision.more();
    List<Route> open = new ArrayList<>();
    for (Proof proof : decision.proofs()) {
      List<Route.Leg> also = legs(view, account, proof);
      for (Route route : routes(view, view.memberships(), account, proof.grant(), proof.right())) {
        open.add(also.isEmpty() ? route : with(route, also));
      }
    }
    for (int grant : decision.unknowns()) {
      if (view.system().roles().get(view.grants().get(grant).role()).allows(right)) {
        open.addAll(routes(view, view.memberships(), account, grant, right));
      }
    }
    open.sort(Comparator.comparingInt(route -> route.subjects().size()));
    List<Route.StoppedRoute> stopped = new ArrayList<>();
    for (Stopped stop : decision.stopped()) {
      for (Route route : routes(view, view.memberships(), account, stop.grant(), stop.right())) {
        stopped.add(new Route.StoppedRoute(route, stop.reason(), stop.by()));
      }
    }
    unseen(view, account, right, resource, stopped);
    return new Routes(
        asker.can(view, account, right, resource),
        decision,
        List.copyOf(open),
        List.copyOf(stopped),
        more);
  }

  private static Route with(Route route, List<Route.Leg> also) {
    return new Route(
        route.subjects(),
        route.vias(),
        route.grant(),
        route.roles(),
        route.entry(),
        route.right(),
        also);
  }

  /** The shortest open route by the first proof, without what is stopped; quicker than all. */
  public Optional<Route> first(SystemView view, int account, int right, int resource) {
    Decision decision = asker.explain(view, account, Question.of(resource, right), limits);
    for (Proof proof : decision.proofs()) {
      List<Route.Leg> also = legs(view, account, proof);
      for (Route route : routes(view, view.memberships(), account, proof.grant(), proof.right())) {
        return Optional.of(also.isEmpty() ? route : with(route, also));
      }
    }
    for (int grant : decision.unknowns()) {
      if (view.system().roles().get(view.grants().get(grant).role()).allows(right)) {
        for (Route route : routes(view, view.memberships(), account, grant, right)) {
          return Optional.of(route);
        }
      }
    }
    return Optional.empty();
  }

  /** What a proof needs besides its own grant, each by the shortest chain. */
  private List<Route.Leg> legs(SystemView view, int account, Proof proof) {
    List<Route.Leg> legs = new ArrayList<>();
    for (FactRef fact : proof.present()) {
      if (fact instanceof FactRef.GrantFact other && other.grant() != proof.grant()) {
        int subject = view.grants().get(other.grant()).counted(model.facts());
        boolean before = more;
        for (Path path : paths(view.memberships(), account, subject, 1)) {
          legs.add(new Route.Leg(path.subjects(), path.vias(), other.grant()));
        }
        more = before;
      }
    }
    return List.copyOf(legs);
  }

  /** The chains from an account to the subject of one grant, as routes. */
  public List<Route> routes(
      SystemView view, Memberships memberships, int account, int grant, int right) {
    Grant given = view.grants().get(grant);
    RoleChain chain = view.system().roleChain(given.role(), right);
    List<Route> routes = new ArrayList<>();
    for (Path path : paths(memberships, account, given.counted(model.facts()), limits.paths())) {
      routes.add(
          new Route(
              path.subjects(), path.vias(), grant, chain.roles(), chain.entry(), right, List.of()));
    }
    return routes;
  }

  private List<Path> paths(Memberships memberships, int account, int subject, int most) {
    if (subject < 0) {
      return List.of();
    }
    if (model.facts().kind(subject) == SubjectKind.IMPLICIT) {
      return List.of(new Path(List.of(account, subject), List.of(Via.IMPLICIT)));
    }
    if (most == 1 && account != subject && model.facts().kind(subject) == SubjectKind.GROUP) {
      Optional<Path> one =
          shortest.computeIfAbsent(memberships, ShortestPaths::new).find(account, subject);
      more |= one.isPresent();
      return one.map(List::of).orElse(List.of());
    }
    Paths paths = new MembershipPaths(memberships).find(account, subject, most);
    more |= paths.more();
    return paths.list();
  }

  /** Grants that the widest memberships would bring and the system's own do not. */
  private void unseen(
      SystemView view, int account, int right, int resource, List<Route.StoppedRoute> stopped) {
    SubjectSet own = asker.subjects(view, account);
    SubjectSet wide = new SubjectSet();
    Memberships.Walker walker = wideWalker;
    if (walker == null) {
      walker = model.widest().walker();
      wideWalker = walker;
    }
    walker.subjects(account, wide);
    IntList subjects = wide.sure();
    IntList giving = view.decider().giving(resource, right, false);
    for (int g = 0; g < giving.size(); g++) {
      int grant = giving.get(g);
      Grant given = view.grants().get(grant);
      if (given.activeAt(model.asOf().getEpochSecond())
          && subjects.contains(given.subject())
          && !own.sure().contains(given.subject())
          && !own.perhaps().contains(given.subject())
          && stopped.size() < limits.proofs()) {
        for (Route route : routes(view, model.widest(), account, grant, right)) {
          stopped.add(new Route.StoppedRoute(route, why(view, route), OptionalInt.empty()));
        }
      }
    }
  }

  private static Stopped.Reason why(SystemView view, Route route) {
    for (int subject : route.subjects()) {
      if (!view.memberships().visibility().sees(subject)) {
        return Stopped.Reason.NOT_SEEN;
      }
    }
    return Stopped.Reason.NOT_COUNTED;
  }
}
