package org.sobercompass.core.removal;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Verdict;

/**
 * What changes give and end: the accounts they can concern are asked before and after.
 *
 * @param ends what is held before and not, or less surely, after
 * @param gives what is held after and not, or less surely, before
 */
public record Effects(List<Effect> ends, List<Effect> gives) {

  /** One permission of one account at the top of where it differs. */
  public record Effect(int account, int system, int right, int resource) {}

  /** The effects of changes on a model. O(accounts concerned x their holdings). */
  public static Effects of(AccessModel before, List<Change> changes) {
    AccessModel after = before.with(changes);
    Set<Integer> accounts = new TreeSet<>();
    for (Change change : changes) {
      concerned(before, change, accounts);
      concerned(after, change, accounts);
    }
    List<Effect> ends = new ArrayList<>();
    List<Effect> gives = new ArrayList<>();
    Asker then = before.asker();
    Asker now = after.asker();
    for (int account : accounts) {
      for (SystemView view : before.systems()) {
        compare(account, view, then, now, ends, gives);
      }
    }
    return new Effects(List.copyOf(ends), List.copyOf(gives));
  }

  private static void concerned(AccessModel model, Change change, Set<Integer> accounts) {
    int subject;
    if (change instanceof Change.OfDirectory) {
      return;
    }
    if (change instanceof Change.MembershipRemoved removed) {
      subject = removed.member();
    } else if (change instanceof Change.MembershipAdded added) {
      subject = added.member();
    } else if (change instanceof Change.AssignmentAdded added) {
      subject = added.subject();
    } else {
      Change.AssignmentRemoved removed = (Change.AssignmentRemoved) change;
      SystemView view = model.systems().get(removed.system());
      // Entries of lists hang together: the mask and the owner of a list decide for others too.
      subject = view.system().isOfLists() ? -1 : view.grants().get(removed.grant()).subject();
    }
    if (subject < 0 || model.facts().kind(subject) == SubjectKind.IMPLICIT) {
      for (int account = 0; account < model.facts().accounts(); account++) {
        accounts.add(account);
      }
      return;
    }
    IntList found = new IntList();
    model.widest().walker().accounts(subject, found);
    for (int i = 0; i < found.size(); i++) {
      accounts.add(found.get(i));
    }
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
    for (List<Holding> all : List.of(before, after)) {
      for (Holding holding : all) {
        cells.add((long) holding.right() << 32 | holding.resource());
        holding.excluded().forEach(r -> cells.add((long) holding.right() << 32 | r));
        if (holding.reach() == Holding.Reach.RESOURCE) {
          int end = view.resources().end(holding.resource());
          for (int child = holding.resource() + 1;
              child < end;
              child = view.resources().end(child)) {
            cells.add((long) holding.right() << 32 | child);
          }
        }
      }
    }
    for (long cell : cells) {
      int right = (int) (cell >> 32);
      int resource = (int) cell;
      int was = rank(then.can(view, account, right, resource));
      int is = rank(now.can(viewNow, account, right, resource));
      if (is != was) {
        (is < was ? ends : gives).add(new Effect(account, view.number(), right, resource));
      }
    }
  }

  /** Not at all, blocked, undecided, usable. */
  private static int rank(Can can) {
    if (can.held() == Verdict.NO) {
      return 0;
    }
    return can.verdict() == Verdict.NO ? 1 : can.verdict() == Verdict.UNDECIDED ? 2 : 3;
  }

  /** Whether nothing differs. */
  public boolean isNone() {
    return ends.isEmpty() && gives.isEmpty();
  }
}
