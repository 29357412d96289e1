package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.Circles;
import org.sobercompass.core.membership.MembershipPaths;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.removal.Goal;
import org.sobercompass.core.removal.NotHeld;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.removal.Unpick;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;

/**
 * The least change that ends a finding, and what else it would end or give.
 *
 * @param result whether nothing cheaper ends it; none when it takes a decision, not a removal
 * @param changes the removals
 * @param effects what they end and give
 */
public record Advice(Optional<Removal.Result> result, List<Change> changes, Effects effects) {
  /** Nothing was worked out. */
  public static final Advice NONE =
      new Advice(Optional.empty(), List.of(), new Effects(List.of(), List.of()));

  /** Works it out. O(rounds of a preview); some milliseconds for a small organization. */
  public static Advice of(Judged judged, Finding finding) {
    if (finding.aim() instanceof Aim.Decided) {
      return NONE;
    }
    AccessModel model = judged.model();
    Removal removal =
        finding.aim() instanceof Aim.Made made
            ? new Removal(Removal.Result.PROVED_LEAST, made.changes())
            : new Unpick(model).find(goal(judged, finding.aim()));
    if (removal.changes().isEmpty()) {
      return new Advice(Optional.of(removal.result()), List.of(), NONE.effects);
    }
    return new Advice(
        Optional.of(removal.result()), removal.changes(), Effects.of(model, removal.changes()));
  }

  /** An aim as a goal that can be asked of any model. */
  static Goal goal(Judged judged, Aim aim) {
    if (aim instanceof Aim.Kept kept) {
      return new KeptApart(judged, kept);
    }
    if (aim instanceof Aim.Ungiven ungiven) {
      return model ->
          ungiven.accounts().stream()
              .flatMap(account -> given(model, account, ungiven.grants()).stream())
              .findFirst();
    }
    if (aim instanceof Aim.Unheld unheld) {
      return new NotHeld(unheld.account(), unheld.system(), unheld.rights(), -1);
    }
    return model -> circle(model, ((Aim.Uncircled) aim).groups());
  }

  /** A grant that still reaches the account, by its shortest chain. */
  private static Optional<Goal.Still> given(
      AccessModel model, int account, List<Aim.Ungiven.Given> grants) {
    Asker asker = model.asker();
    long asOf = model.asOf().getEpochSecond();
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
                ? isPersonal(model, grant, asOf)
                : grants.contains(new Aim.Ungiven.Given(view.number(), number));
        if (asked) {
          return Optional.of(still(asker, view, account, number));
        }
      }
    }
    return Optional.empty();
  }

  /** What reaches an account by name, not because it is anybody or in a place. */
  static boolean isPersonal(AccessModel model, Grant grant, long asOf) {
    return !grant.declared()
        && grant.activeAt(asOf)
        && grant.subject() >= 0
        && model.facts().kind(grant.subject()) != SubjectKind.IMPLICIT;
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
        return Optional.of(new Goal.Still(List.of(), edges(model, circle), true));
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
