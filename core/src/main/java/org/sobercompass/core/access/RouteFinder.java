package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.OptionalInt;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.membership.MembershipPaths;
import org.sobercompass.core.membership.MembershipPaths.Path;
import org.sobercompass.core.membership.MembershipPaths.Paths;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.AccessSystem.RoleChain;
import org.sobercompass.core.system.Decision;
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
  private boolean more;

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
      open.addAll(routes(view, view.memberships(), account, proof.grant(), proof.right()));
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

  /** The chains from an account to the subject of one grant, as routes. */
  public List<Route> routes(
      SystemView view, Memberships memberships, int account, int grant, int right) {
    Grant given = view.grants().get(grant);
    RoleChain chain = view.system().roleChain(given.role(), right);
    List<Route> routes = new ArrayList<>();
    for (Path path : paths(memberships, account, given.subject())) {
      routes.add(
          new Route(path.subjects(), path.vias(), grant, chain.roles(), chain.entry(), right));
    }
    return routes;
  }

  private List<Path> paths(Memberships memberships, int account, int subject) {
    if (model.facts().kind(subject) == SubjectKind.IMPLICIT) {
      return List.of(new Path(List.of(account, subject), List.of(Via.IMPLICIT)));
    }
    Paths paths = new MembershipPaths(memberships).find(account, subject, limits.paths());
    more |= paths.more();
    return paths.list();
  }

  /** Grants that the widest memberships would bring and the system's own do not. */
  private void unseen(
      SystemView view, int account, int right, int resource, List<Route.StoppedRoute> stopped) {
    SubjectSet own = asker.subjects(view, account);
    SubjectSet wide = new SubjectSet();
    model.widest().walker().subjects(account, wide);
    IntList subjects = wide.sure();
    for (int grant = 0; grant < view.grants().size(); grant++) {
      Grant given = view.grants().get(grant);
      boolean gives =
          given.activeAt(model.asOf().getEpochSecond())
              && reaches(view, given, resource)
              && view.system().roles().get(given.role()).allows(right);
      if (gives
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

  private static boolean reaches(SystemView view, Grant grant, int resource) {
    return grant.descends()
        ? view.resources().covers(grant.resource(), resource)
        : grant.resource() == resource;
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
