package org.sobercompass.core.removal;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.Change;

/**
 * The least removals that reach a goal, for all ways of combining: an implicit hitting set. The
 * model is evaluated with the cheapest removals so far; what still gives the goal is a conjunction
 * of facts, one of which must go, or, where grants can take away, one of the removals made must be
 * left undone, since it may have let this through; solve again; repeat. Sound because nothing is
 * ever added: a conjunction of facts and absences that holds after some removals holds after more,
 * as long as its facts are there. At most {@link #ROUNDS} evaluations.
 */
public final class Unpick {
  private static final int ROUNDS = 300;

  private final AccessModel model;
  private final Wishes wishes;
  private final Actions actions;
  private final boolean monotone;

  /** Over a model. */
  public Unpick(AccessModel model) {
    this(model, Wishes.NONE);
  }

  /** Over a model, taking only what may be taken. */
  public Unpick(AccessModel model, Wishes wishes) {
    this.model = model;
    this.wishes = wishes;
    this.actions = new Actions(model, wishes);
    boolean all = true;
    for (SystemView view : model.systems()) {
      all &= view.decider().isMonotone() && view.admission().register().isEmpty();
    }
    this.monotone = all;
  }

  /**
   * The least removals that reach a goal. O(rounds x one preview). Says that no removal reaches it
   * only where that is proved.
   */
  public Removal find(Goal goal) {
    return find(goal, Set.of());
  }

  /**
   * The cheapest sets of removals that reach a goal and differ: the least, then the least of those
   * that do without one of its removals, by cost. O(removals found) searches.
   *
   * @param most so many at most
   * @return the least first; one alone when nothing reaches the goal, or nothing else does
   */
  public List<Removal> alternatives(Goal goal, int most) {
    List<Removal> all = new ArrayList<>(List.of(find(goal)));
    for (Change barred : all.get(0).changes()) {
      Removal other = find(goal, Set.of(barred));
      if (!other.changes().isEmpty() && !all.contains(other)) {
        all.add(other);
      }
    }
    all.subList(1, all.size()).sort(Comparator.comparingLong(r -> cost(r.changes())));
    return List.copyOf(all.subList(0, Math.min(most, all.size())));
  }

  private Removal find(Goal goal, Set<Change> barred) {
    LeastSet least = new LeastSet();
    List<Action> chosen = List.of();
    boolean exact = true;
    for (int round = 0; round < ROUNDS; round++) {
      AccessModel after = after(chosen);
      List<Goal.Still> stills = goal.stills(after, changes(chosen));
      if (stills.isEmpty()) {
        boolean proved = exact && least.isProved();
        return new Removal(
            proved ? Removal.Result.PROVED_LEAST : Removal.Result.BEST_FOUND, changes(chosen));
      }
      for (Goal.Still still : stills) {
        exact &= still.exact();
        Map<String, Action> breaking = new HashMap<>(actions.of(still, after.graph()));
        breaking.values().removeIf(action -> barred.contains(action.change()));
        Set<String> undoing =
            isMonotone(still)
                ? Set.of()
                : chosen.stream().map(Action::key).collect(Collectors.toSet());
        if (breaking.isEmpty() && undoing.isEmpty()) {
          return none(exact);
        }
        least.add(breaking.values(), undoing);
      }
      List<Action> next = least.solve();
      if (next == null) {
        return none(exact && least.isProved());
      }
      chosen = next;
    }
    return none(false);
  }

  private Removal none(boolean proved) {
    Removal.Result nothing =
        actions.isBarred() ? Removal.Result.NONE_ALLOWED : Removal.Result.NONE_ENDS_IT;
    return new Removal(proved ? nothing : Removal.Result.GAVE_UP, List.of());
  }

  /** Changes that are given, where they leave alone what must stay. */
  public Removal given(List<Change> changes) {
    boolean all = changes.stream().allMatch(change -> wishes.allow(model, change));
    return all
        ? new Removal(Removal.Result.PROVED_LEAST, changes)
        : new Removal(Removal.Result.NONE_ALLOWED, List.of());
  }

  /**
   * What removals cost together: one each, and one for each assignment that each account concerned
   * loses at most. Removals that do not exist cost nothing.
   */
  public long cost(List<Change> removals) {
    return removals.stream().mapToLong(actions::cost).sum();
  }

  private boolean isMonotone(Goal.Still still) {
    boolean named = !still.parts().isEmpty() || !still.edges().isEmpty();
    boolean plain = still.grants().isEmpty() && still.scopes().isEmpty();
    return plain && (monotone || (named && still.parts().stream().allMatch(this::isMonotone)));
  }

  private boolean isMonotone(Goal.Part part) {
    SystemView view = model.systems().get(part.system());
    return view.decider().isMonotone() && view.admission().register().isEmpty();
  }

  private AccessModel after(List<Action> chosen) {
    return chosen.isEmpty() ? model : model.with(changes(chosen));
  }

  private static List<Change> changes(List<Action> chosen) {
    List<Change> changes = new ArrayList<>();
    chosen.forEach(action -> changes.add(action.change()));
    return List.copyOf(changes);
  }
}
