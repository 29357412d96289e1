package org.sobercompass.core.removal;

import java.util.Map;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.Change;

/**
 * What removals may take, and at what price. Immutable.
 *
 * @param untouched accounts and groups of which nothing is taken: no member, no membership, nothing
 *     they are given
 * @param systems the ids of systems of which nothing is taken
 * @param costs by which a removal of a kind costs more; 1 for a kind that is not named
 */
public record Wishes(Set<Integer> untouched, Set<String> systems, Map<Kind, Integer> costs) {
  /** Everything may be taken, at the usual costs. */
  public static final Wishes NONE = new Wishes(Set.of(), Set.of(), Map.of());

  /** Kinds of removals. */
  public enum Kind {
    /** A member leaves a group. */
    LEAVE("leave"),
    /** A role is withdrawn. */
    WITHDRAW("withdraw"),
    /** An entry of a list is removed. */
    REMOVE_ENTRY("remove-entry"),
    /** Somebody is excepted from an admin scope. */
    EXCEPT("except");

    private final String word;

    Kind(String word) {
      this.word = word;
    }

    /** The word that is written for it. */
    public String word() {
      return word;
    }
  }

  /** Copies. */
  public Wishes {
    untouched = Set.copyOf(untouched);
    systems = Set.copyOf(systems);
    costs = Map.copyOf(costs);
  }

  /** Whether a change leaves alone what must stay. */
  boolean allow(AccessModel model, Change change) {
    return change.fold(
        moved -> !untouched.contains(moved.member()) && !untouched.contains(moved.group()),
        own -> allow(model.view(own.system()), own),
        self -> !untouched.contains(self.subject()));
  }

  private boolean allow(SystemView view, Change.OfSystem change) {
    return !systems.contains(view.id())
        && change.byKind(
            added -> true,
            removed -> !untouched.contains(view.grants().get(removed.grant()).subject()),
            redefined -> true);
  }

  /** What a removal costs that would cost this by itself. */
  int cost(AccessModel model, Change change, int usual) {
    Kind kind =
        change.fold(
            moved -> Kind.LEAVE,
            own ->
                own.byKind(
                    added -> Kind.WITHDRAW,
                    removed -> kind(model.view(removed.system())),
                    redefined -> Kind.EXCEPT),
            account -> Kind.WITHDRAW);
    return (int) Math.min(Action.MOST, (long) usual * costs.getOrDefault(kind, 1));
  }

  private static Kind kind(SystemView view) {
    return view.system().isOfLists() ? Kind.REMOVE_ENTRY : Kind.WITHDRAW;
  }
}
