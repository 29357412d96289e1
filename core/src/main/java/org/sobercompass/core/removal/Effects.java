package org.sobercompass.core.removal;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Cells;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Impact;

/**
 * What changes give and end: the accounts they can concern are asked before and after.
 *
 * @param ends what is held before and not, or less surely, after
 * @param gives what is held after and not, or less surely, before
 */
public record Effects(List<Effect> ends, List<Effect> gives) {

  /** From so many accounts on, all processors are used. */
  private static final int MANY = 2_000;

  /** One permission of one account at the top of where it differs. */
  public record Effect(int account, int system, int right, int resource) {}

  /**
   * The effects of changes on a model. O(accounts concerned x their holdings), on all processors
   * where many are concerned.
   */
  public static Effects of(AccessModel before, List<Change> changes) {
    AccessModel after = before.with(changes);
    List<BitSet> concerned = new ArrayList<>();
    BitSet accounts = new BitSet();
    Touched touched = new Touched(before, after);
    Map<Memberships, Memberships.Walker> walkers = new IdentityHashMap<>();
    for (SystemView view : before.systems()) {
      BitSet here = new BitSet();
      for (Change change : changes) {
        boolean matters =
            change.fold(
                moved -> touched.is(view, moved),
                own -> own.system() == view.number(),
                account -> true);
        if (matters) {
          concerned(after, view, change, walkers, here);
        }
      }
      concerned.add(here);
      accounts.or(here);
    }
    int[] all = accounts.stream().toArray();
    if (all.length < MANY) {
      return of(all, concerned, before.asker(), after.asker());
    }
    after.systems().forEach(view -> view.memberships().prepare());
    ThreadLocal<Asker> now = ThreadLocal.withInitial(after::asker);
    Effects found = new Effects(new ArrayList<>(), new ArrayList<>());
    before
        .bulk()
        .<Effects>each(
            all.length,
            (then, range) ->
                of(Arrays.copyOfRange(all, range.from(), range.to()), concerned, then, now.get()),
            some -> {
              found.ends.addAll(some.ends);
              found.gives.addAll(some.gives);
            });
    return new Effects(List.copyOf(found.ends), List.copyOf(found.gives));
  }

  /** The same for some accounts, ascending. */
  private static Effects of(int[] accounts, List<BitSet> concerned, Asker then, Asker now) {
    List<Effect> ends = new ArrayList<>();
    List<Effect> gives = new ArrayList<>();
    for (int account : accounts) {
      for (SystemView view : then.model().systems()) {
        if (concerned.get(view.number()).get(account)) {
          compare(account, view, then, now, ends, gives);
        }
      }
    }
    return new Effects(List.copyOf(ends), List.copyOf(gives));
  }

  /** Adds the accounts for which a system may answer otherwise after a change. */
  private static void concerned(
      AccessModel after,
      SystemView view,
      Change change,
      Map<Memberships, Memberships.Walker> walkers,
      BitSet into) {
    Impact impact = view.decider().impact(change);
    for (int i = 0; i < impact.subjects().size() && !impact.isNone(); i++) {
      int subject = impact.subjects().get(i);
      if (after.facts().kind(subject) == SubjectKind.IMPLICIT) {
        into.set(0, after.facts().accounts());
      } else {
        accounts(view, subject, walkers, into);
        accounts(after.view(view.number()), subject, walkers, into);
      }
    }
  }

  private static void accounts(
      SystemView view, int subject, Map<Memberships, Memberships.Walker> walkers, BitSet into) {
    IntList found = new IntList();
    walkers.computeIfAbsent(view.memberships(), Memberships::walker).candidates(subject, found);
    found.setIn(into);
  }

  private static void compare(
      int account, SystemView view, Asker then, Asker now, List<Effect> ends, List<Effect> gives) {
    SystemView viewNow = now.model().systems().get(view.number());
    List<Holding> before = then.holdings(view, account);
    List<Holding> after = now.holdings(viewNow, account);
    if (before.equals(after)) {
      return;
    }
    Set<Long> cells = new TreeSet<>();
    Cells.add(view, before, cells);
    Cells.add(view, after, cells);
    for (long cell : cells) {
      int right = Cells.right(cell);
      int resource = Cells.resource(cell);
      int was = Cells.rank(then.can(view, account, right, resource));
      int is = Cells.rank(now.can(viewNow, account, right, resource));
      if (is != was) {
        (is < was ? ends : gives).add(new Effect(account, view.number(), right, resource));
      }
    }
  }

  /** Whether nothing differs. */
  public boolean isNone() {
    return ends.isEmpty() && gives.isEmpty();
  }
}
