package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Verdict;

/**
 * Who holds a right. Candidates are found from the grants that give it, downwards; where more
 * grants never take away and everything is seen for certain, a candidate holds it, else each is
 * decided. O(candidates), times one decision where that is needed. Not thread-safe, like its asker.
 */
public final class Holders {
  private final Asker asker;
  private final AccessModel model;

  /** Asks with this asker. */
  public Holders(Asker asker) {
    this.asker = asker;
    this.model = asker.model();
  }

  /**
   * One account that holds a right at a resource.
   *
   * @param account the account
   * @param resource the resource asked for, or a breakpoint below it
   * @param state whether it can be used
   * @param reasons why not, when it cannot
   */
  public record Holder(int account, int resource, Standing.State state, List<String> reasons) {}

  /**
   * The holders of a right at a resource, ascending by account.
   *
   * @param below also whoever holds it only somewhere below the resource
   */
  public List<Holder> find(SystemView view, int right, int resource, boolean below) {
    BitSet candidates = candidates(view, right, resource, below);
    boolean settled =
        !below && view.decider().isMonotone() && view.memberships().visibility().isCertain();
    List<Holder> holders = new ArrayList<>();
    for (int a = candidates.nextSetBit(0); a >= 0; a = candidates.nextSetBit(a + 1)) {
      Verdict verdict = settled ? Verdict.YES : asker.decide(view, a, Question.of(resource, right));
      if (verdict != Verdict.NO) {
        holders.add(holder(view, a, resource, verdict));
      }
      if (below) {
        addBelow(view, a, right, resource, holders);
      }
    }
    return holders;
  }

  private Holder holder(SystemView view, int account, int resource, Verdict verdict) {
    Standing standing = asker.standing(view, account);
    boolean unsure = verdict == Verdict.UNDECIDED && standing.state() == Standing.State.USABLE;
    return unsure
        ? new Holder(
            account,
            resource,
            Standing.State.UNDECIDED,
            List.of("it is not known whether a group on the way is seen"))
        : new Holder(account, resource, standing.state(), standing.reasons());
  }

  private void addBelow(
      SystemView view, int account, int right, int resource, List<Holder> holders) {
    for (Holding holding : asker.holdings(view, account)) {
      boolean inside =
          holding.resource() > resource && view.resources().covers(resource, holding.resource());
      if (holding.right() == right && inside) {
        holders.add(new Holder(account, holding.resource(), holding.state(), holding.reasons()));
      }
    }
  }

  private BitSet candidates(SystemView view, int right, int resource, boolean below) {
    BitSet found = new BitSet(model.facts().accounts());
    Memberships.Walker walker = view.memberships().walker();
    BitSet asked = new BitSet();
    IntList accounts = new IntList();
    List<RoleInfo> roles = view.system().roles();
    for (Grant grant : view.grants()) {
      boolean here =
          grant.resource() == resource
              || (grant.descends() && view.resources().covers(grant.resource(), resource))
              || (below && view.resources().covers(resource, grant.resource()));
      boolean gives =
          here
              && grant.subject() >= 0
              && grant.activeAt(model.asOf().getEpochSecond())
              && roles.get(grant.role()).allows(right);
      if (gives && !asked.get(grant.subject())) {
        asked.set(grant.subject());
        accounts.clear();
        members(view, walker, grant.subject(), accounts);
        for (int i = 0; i < accounts.size(); i++) {
          found.set(accounts.get(i));
        }
      }
    }
    return found;
  }

  private void members(SystemView view, Memberships.Walker walker, int subject, IntList accounts) {
    if (view.admission().isOpen()) {
      if (subject == model.facts().implicit(org.sobercompass.core.facts.Implicit.EVERYONE)) {
        all(accounts);
      }
    } else if (model.facts().kind(subject) == SubjectKind.IMPLICIT) {
      for (int a = 0; a < model.facts().accounts(); a++) {
        if (asker.subjects(view, a).sure().contains(subject)
            || asker.subjects(view, a).perhaps().contains(subject)) {
          accounts.add(a);
        }
      }
    } else {
      IntList reached = new IntList();
      walker.accounts(subject, reached);
      for (int i = 0; i < reached.size(); i++) {
        int account = reached.get(i);
        if (view.memberships().visibility().sees(account)
            || view.memberships().visibility().perhapsSees(account)) {
          accounts.add(account);
        }
      }
    }
  }

  private void all(IntList accounts) {
    for (int a = 0; a < model.facts().accounts(); a++) {
      accounts.add(a);
    }
  }
}
