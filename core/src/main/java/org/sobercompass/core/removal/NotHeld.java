package org.sobercompass.core.removal;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;

/**
 * The goal that an account holds none of some rights of a system, at a resource or anywhere.
 *
 * @param account the account
 * @param system the number of the system
 * @param rights the rights
 * @param resource where, or -1 for anywhere
 */
public record NotHeld(int account, int system, List<Integer> rights, int resource) implements Goal {

  /** So many routes are told in one round. */
  private static final int MOST = 256;

  /** That an account cannot have what is asked of a system. */
  public static NotHeld of(int account, int system, Question asked) {
    List<Integer> rights = Arrays.stream(asked.allOf()).boxed().toList();
    return new NotHeld(account, system, rights, asked.resource());
  }

  @Override
  public List<Still> stills(AccessModel model, List<Change> made) {
    Asker asker = model.asker();
    SystemView view = model.systems().get(system);
    RouteFinder finder = new RouteFinder(asker, new Limits(MOST, 8));
    List<Still> found = new ArrayList<>();
    for (Holding holding : asker.holdings(view, account)) {
      boolean asked =
          rights.contains(holding.right())
              && (resource < 0 || view.resources().covers(holding.resource(), resource));
      if (asked && found.size() < MOST) {
        int at = resource < 0 ? holding.resource() : resource;
        finder
            .find(view, account, holding.right(), at)
            .open()
            .forEach(route -> found.add(still(asker, view, route)));
      }
    }
    return found.isEmpty() ? still(model, made).map(List::of).orElse(List.of()) : found;
  }

  @Override
  public Optional<Still> still(AccessModel model, List<Change> made) {
    Asker asker = model.asker();
    SystemView view = model.systems().get(system);
    RouteFinder finder = new RouteFinder(asker, Limits.ONE);
    boolean unknown = false;
    for (Holding holding : asker.holdings(view, account)) {
      boolean asked =
          rights.contains(holding.right())
              && (resource < 0 || view.resources().covers(holding.resource(), resource));
      if (asked) {
        int at = resource < 0 ? holding.resource() : resource;
        Optional<Route> route = finder.first(view, account, holding.right(), at);
        if (route.isPresent()) {
          return Optional.of(still(asker, view, route.get()));
        }
        int right = holding.right();
        unknown |= asker.decide(view, account, Question.of(at, right)) != Verdict.NO;
      }
    }
    // Not known, and by nothing that could be taken away: a list that was not read.
    return unknown ? Optional.of(Still.of(List.of())) : Optional.empty();
  }

  /** A route, and the enrolment that makes the account one of the members, where that counts. */
  private Still still(Asker asker, SystemView view, Route route) {
    int members = asker.model().facts().implicit(Implicit.MEMBERS);
    List<int[]> edges =
        route.subjects().contains(members) ? Enrolments.edges(asker, view, account) : List.of();
    return new Still(List.of(new Part(system, route)), edges, List.of(), List.of(), true);
  }
}
