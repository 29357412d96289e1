package org.sobercompass.core.comparison;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Cells;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Counterparts;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Resources;

/**
 * All permissions that differ between two models, whose accounts, systems, permissions and
 * resources may have other numbers: they are matched by key, id and text. Frozen and thread-safe.
 */
final class Shifts {
  private static final int UNSURE = 2;

  private final AccessModel before;
  private final AccessModel now;
  private final List<Pair> pairs = new ArrayList<>();

  /**
   * One system in both models.
   *
   * @param same whether permissions and resources have the same numbers
   * @param moved the ids of resources that stand below another than before
   */
  private record Pair(
      @Nullable SystemView before, @Nullable SystemView now, boolean same, List<String> moved) {
    SystemView any() {
      return now != null ? now : Objects.requireNonNull(before);
    }
  }

  private record Cell(String right, String where) implements Comparable<Cell> {
    @Override
    public int compareTo(Cell other) {
      int byRight = right.compareTo(other.right);
      return byRight != 0 ? byRight : where.compareTo(other.where);
    }
  }

  Shifts(AccessModel before, AccessModel now) {
    this.before = before;
    this.now = now;
    Map<String, SystemView> was = new LinkedHashMap<>();
    before.systems().forEach(view -> was.put(view.id(), view));
    for (SystemView view : now.systems()) {
      SystemView then = was.remove(view.id());
      boolean same = then != null && isSame(then, view);
      pairs.add(new Pair(then, view, same, then == null ? List.of() : moved(then, view)));
    }
    was.values().forEach(then -> pairs.add(new Pair(then, null, false, List.of())));
  }

  private static List<String> moved(SystemView before, SystemView now) {
    List<String> moved = new ArrayList<>();
    Resources is = now.resources();
    Resources was = before.resources();
    for (int r = 0; r < is.size(); r++) {
      Optional<Integer> then = was.find(is.id(r));
      int above = is.parent(r);
      if (then.isPresent()) {
        int aboveThen = was.parent(then.get());
        String id = above < 0 ? "" : is.id(above);
        if (!id.equals(aboveThen < 0 ? "" : was.id(aboveThen))) {
          moved.add(is.id(r));
        }
      }
    }
    return moved;
  }

  private static boolean isSame(SystemView a, SystemView b) {
    return a.rights().texts().equals(b.rights().texts())
        && a.resources().size() == b.resources().size()
        && a.resources().ids().equals(b.resources().ids())
        && moved(a, b).isEmpty();
  }

  /**
   * All of them, on all processors. O(accounts x what they are given), twice; only where that is
   * otherwise, holdings are worked out.
   */
  List<Shift> all() {
    Counterparts earlier = Counterparts.of(now.facts(), before.facts());
    SweptDigests had = SweptDigests.of(before, salts(before));
    SweptDigests has = SweptDigests.of(now, salts(now));
    boolean anyOther = pairs.stream().anyMatch(pair -> !pair.same);
    IntList differing = new IntList();
    for (int account = 0; account < now.facts().accounts(); account++) {
      int was = earlier.at(account);
      if (anyOther || was < 0 || !has.isSame(account, had, was)) {
        differing.add(account);
      }
    }
    List<Shift> all = new ArrayList<>();
    ThreadLocal<Look> looks = ThreadLocal.withInitial(() -> new Look(before.asker(), now.asker()));
    now.bulk()
        .<List<Shift>>each(
            differing.size(),
            (asker, range) -> {
              Look look = looks.get();
              List<Shift> some = new ArrayList<>();
              for (int i = range.from(); i < range.to(); i++) {
                int account = differing.get(i);
                int was = earlier.at(account);
                boolean same = was >= 0 && has.isSame(account, had, was);
                look.account(now.facts().key(account), was, account, !same, some);
              }
              return some;
            },
            all::addAll);
    Look look = new Look(before.asker(), now.asker());
    Counterparts later = Counterparts.of(before.facts(), now.facts());
    for (int account = 0; account < before.facts().accounts(); account++) {
      if (later.at(account) < 0) {
        look.account(before.facts().key(account), account, -1, true, all);
      }
    }
    return all;
  }

  /** A number for each system of a model that the other has too, with the same numbers in it. */
  private long[] salts(AccessModel model) {
    long[] salts = new long[model.systems().size()];
    for (int i = 0; i < pairs.size(); i++) {
      SystemView view = model == now ? pairs.get(i).now : pairs.get(i).before;
      if (pairs.get(i).same && view != null) {
        salts[view.number()] = (i + 1) * 0x9e3779b97f4a7c15L;
      }
    }
    return salts;
  }

  /** Looks at one account after the other. Not thread-safe. */
  private final class Look {
    private final Asker then;
    private final Asker asker;
    private final SweptCells had = new SweptCells();
    private final SweptCells has = new SweptCells();

    Look(Asker then, Asker asker) {
      this.then = then;
      this.asker = asker;
    }

    /**
     * What differs for one account.
     *
     * @param all false where systems with the same numbers in both are known to give the same
     */
    void account(Key key, int was, int is, boolean all, Collection<Shift> into) {
      for (Pair pair : pairs) {
        if (!pair.same || (all && !isAsBefore(pair, was, is))) {
          SystemView viewBefore = was < 0 ? null : pair.before;
          SystemView viewNow = is < 0 ? null : pair.now;
          differing(pair, viewBefore, viewNow, key, was, is, into);
        }
      }
    }

    /**
     * Whether an account that is in both is given nothing, or the same and may use it as before.
     * Digests of what is given differ too where a model was patched, which is swept in another
     * form.
     */
    private boolean isAsBefore(Pair pair, int was, int is) {
      if (was < 0 || is < 0) {
        return false;
      }
      SystemView viewBefore = Objects.requireNonNull(pair.before);
      SystemView viewNow = Objects.requireNonNull(pair.now);
      had.take(viewBefore, then, was);
      has.take(viewNow, asker, is);
      return had.isSame(has)
          && (has.isEmpty()
              || then.standing(viewBefore, was).state() == asker.standing(viewNow, is).state());
    }

    private void differing(
        Pair pair,
        @Nullable SystemView viewBefore,
        @Nullable SystemView viewNow,
        Key key,
        int was,
        int is,
        Collection<Shift> into) {
      Set<Cell> cells = new TreeSet<>();
      if (viewBefore != null) {
        cells(viewBefore, then.holdings(viewBefore, was), cells);
      }
      if (viewNow != null) {
        cells(viewNow, asker.holdings(viewNow, is), cells);
      }
      if (!pair.moved.isEmpty()) {
        Set<String> rights = new TreeSet<>();
        cells.forEach(cell -> rights.add(cell.right));
        rights.forEach(right -> pair.moved.forEach(id -> cells.add(new Cell(right, id))));
      }
      for (Cell cell : cells) {
        int rankBefore = rank(then, viewBefore, was, cell);
        int rankNow = rank(asker, viewNow, is, cell);
        if (rankBefore != rankNow) {
          boolean gained = rankNow > rankBefore;
          into.add(
              new Shift(key, pair.any().id(), cell.right, cell.where, gained, rankNow == UNSURE));
        }
      }
    }
  }

  /** Where a permission may begin or end to differ. */
  private static void cells(SystemView view, List<Holding> holdings, Set<Cell> into) {
    for (Holding holding : holdings) {
      String right = view.rights().text(holding.right());
      into.add(new Cell(right, view.resources().id(holding.resource())));
      holding.excluded().forEach(r -> into.add(new Cell(right, view.resources().id(r))));
      if (holding.reach() == Holding.Reach.RESOURCE) {
        int end = view.resources().end(holding.resource());
        for (int r = holding.resource() + 1; r < end; r = view.resources().end(r)) {
          into.add(new Cell(right, view.resources().id(r)));
        }
      }
    }
  }

  /** Not at all, blocked, undecided, usable. */
  private static int rank(Asker asker, @Nullable SystemView view, int account, Cell cell) {
    if (view == null) {
      return 0;
    }
    Optional<Integer> right = view.rights().find(cell.right);
    Optional<Integer> where = view.resources().find(cell.where);
    if (right.isEmpty() || where.isEmpty()) {
      return 0;
    }
    return Cells.rank(asker.can(view, account, right.get(), where.get()));
  }

  /** The rank of one permission of one account in a model; 0 where it is not there. */
  static int rank(AccessModel model, Asker asker, Shift shift) {
    Optional<Integer> account = model.facts().find(shift.account());
    Optional<SystemView> view = model.system(shift.system());
    return account.isEmpty() || view.isEmpty()
        ? 0
        : rank(asker, view.get(), account.get(), new Cell(shift.right(), shift.where()));
  }
}
