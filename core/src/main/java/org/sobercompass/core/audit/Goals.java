package org.sobercompass.core.audit;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.findings.ActFacts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Entrusted;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.Reached;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.separation.KeptApart;
import org.sobercompass.core.membership.Circles;
import org.sobercompass.core.membership.MembershipPaths;
import org.sobercompass.core.removal.Each;
import org.sobercompass.core.removal.Goal;
import org.sobercompass.core.removal.NotHeld;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;

/** What findings aim at, as goals that can be asked again after any removals. */
final class Goals {
  /** Of a longer circle only so many edges are tried, and what is found is not called least. */
  private static final int LONGEST_CIRCLE = 500;

  private Goals() {}

  /** The goal that an aim is. */
  static Goal of(Assessment assessment, Remedy aim) {
    if (aim instanceof Remedy.Kept kept) {
      return new KeptApart(assessment, kept);
    }
    if (aim instanceof Remedy.Ungiven ungiven) {
      boolean any = ungiven.grants().isEmpty();
      Entrusted entrusted = any ? new Entrusted(assessment) : Entrusted.NOTHING;
      return new Nothing(assessment, ungiven, entrusted);
    }
    if (aim instanceof Remedy.Untaken untaken) {
      return (model, made) -> untaken(assessment.powers().over(model), untaken);
    }
    if (aim instanceof Remedy.Unreached unreached) {
      return (model, made) -> unreached(assessment.powers().over(model), unreached);
    }
    if (aim instanceof Remedy.Outside outside) {
      return (model, made) -> outside(assessment.powers().over(model), outside.scope());
    }
    if (aim instanceof Remedy.Unheld unheld) {
      return new Each(
          unheld.accounts().stream()
              .<Goal>map(a -> new NotHeld(a, unheld.system(), unheld.rights(), -1))
              .toList());
    }
    return (model, made) -> circle(model, ((Remedy.Uncircled) aim).groups());
  }

  /** That accounts are given nothing any more. */
  private record Nothing(Assessment assessment, Remedy.Ungiven aim, Entrusted entrusted)
      implements Goal {
    @Override
    public Optional<Still> still(AccessModel model, List<Change> made) {
      return stills(model, made).stream().findFirst();
    }

    @Override
    public List<Still> stills(AccessModel model, List<Change> made) {
      List<Still> all = new ArrayList<>();
      for (int account : aim.accounts()) {
        all.addAll(given(model, account, aim.grants()));
        if (all.size() > MOST) {
          return all;
        }
      }
      for (int account : aim.accounts()) {
        if (all.isEmpty()) {
          entrusted.first(assessment.powers().over(model), account).ifPresent(all::add);
        }
      }
      return all;
    }
  }

  /** So many grants are told in one round. */
  private static final int MOST = 256;

  /** Somebody who still comes to a power by acting as an account. */
  private static Optional<Goal.Still> untaken(Powers powers, Remedy.Untaken aim) {
    return Reached.of(powers, aim.power(), aim.ofDirectory())
        .flatMap(
            reached ->
                Optional.ofNullable(reached.direct().get(aim.target()))
                    .map(who -> steps(powers, reached, who)));
  }

  /** Somebody who still comes to it by longer ways. */
  private static Optional<Goal.Still> unreached(Powers powers, Remedy.Unreached aim) {
    return Reached.of(powers, aim.power(), aim.ofDirectory())
        .filter(reached -> !reached.longer().isEmpty())
        .map(reached -> steps(powers, reached, reached.longer()));
  }

  private static Goal.Still steps(Powers powers, Reached reached, BitSet who) {
    ActFacts facts = new ActFacts(powers);
    int account = who.nextSetBit(0);
    facts.steps(account, reached.reach().chain(account));
    return facts.still();
  }

  /** Somebody who is still set over a scope that he is in, by the admin roles that set him. */
  private static Optional<Goal.Still> outside(Powers powers, int scope) {
    BitSet inside = powers.roles().administrators(scope);
    inside.and(powers.roles().scopes().objects(scope).bits());
    if (inside.isEmpty()) {
      return Optional.empty();
    }
    int account = inside.nextSetBit(0);
    long asOf = powers.model().asOf().getEpochSecond();
    ActFacts facts = new ActFacts(powers);
    for (int number : powers.roles().grantsOf(account)) {
      AdminGrant grant = powers.roles().administration().grants().get(number);
      if (grant.scope() == scope && grant.activeAt(asOf)) {
        facts.role(account, number, account);
        break;
      }
    }
    return Optional.of(facts.still());
  }

  /** The grants that still reach the account, each by its shortest chain. */
  private static List<Goal.Still> given(
      AccessModel model, int account, List<Remedy.Ungiven.Given> grants) {
    Asker asker = model.asker();
    long asOf = model.asOf().getEpochSecond();
    List<Goal.Still> all = new ArrayList<>();
    for (SystemView view : model.systems()) {
      if (view.admission().isOpen()) {
        continue;
      }
      IntList own = view.decider().grantsOf(asker.token(view, account));
      for (int i = 0; i < own.size(); i++) {
        int number = own.get(i);
        Grant grant = view.grants().get(number);
        boolean asked =
            grants.isEmpty()
                ? FindingContext.isPersonal(model, grant, asOf)
                : grants.contains(new Remedy.Ungiven.Given(view.number(), number));
        if (asked && all.size() < MOST) {
          all.add(still(asker, view, account, number));
        }
      }
    }
    return all;
  }

  private static Goal.Still still(Asker asker, SystemView view, int account, int number) {
    RouteFinder finder = new RouteFinder(asker, Limits.ONE);
    List<Route> routes = finder.routes(view, view.memberships(), account, number, 0);
    return Goal.Still.of(List.of(new Goal.Part(view.number(), routes.get(0))));
  }

  /** A circle that is still there, edge by edge. */
  private static Optional<Goal.Still> circle(AccessModel model, List<Integer> groups) {
    BitSet asked = new BitSet();
    groups.forEach(asked::set);
    for (int[] circle : Circles.of(model.graph())) {
      if (asked.get(circle[0])) {
        List<int[]> edges = edges(model, circle);
        boolean all = edges.size() <= LONGEST_CIRCLE;
        List<int[]> some = all ? edges : edges.subList(0, LONGEST_CIRCLE);
        return Optional.of(new Goal.Still(List.of(), some, List.of(), List.of(), all));
      }
    }
    return Optional.empty();
  }

  /** The edges of one shortest circle through the first of groups that all contain each other. */
  private static List<int[]> edges(AccessModel model, int[] circle) {
    MembershipPaths paths = new MembershipPaths(model.widest());
    int from = circle[0];
    List<Integer> best = List.of();
    for (int i = 0; i < model.graph().upCount(from); i++) {
      int next = model.graph().upGroup(from, i);
      if (!model.graph().upVia(from, i).isSure()) {
        continue;
      }
      List<MembershipPaths.Path> back = paths.find(next, from, 1).list();
      if (!back.isEmpty() && (best.isEmpty() || back.get(0).subjects().size() < best.size())) {
        best = back.get(0).subjects();
      }
    }
    List<int[]> edges = new ArrayList<>();
    edges.add(new int[] {from, best.get(0)});
    for (int i = 1; i < best.size(); i++) {
      edges.add(new int[] {best.get(i - 1), best.get(i)});
    }
    return edges;
  }
}
