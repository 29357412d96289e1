package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Question;
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
    boolean certain = isCertain(view);
    if (!below) {
      Optional<Crowd> crowd = crowd(view, Question.of(resource, right));
      if (crowd.isPresent()) {
        return holders(view, resource, crowd.get());
      }
    }
    BitSet candidates = candidates(view, right, resource, below);
    boolean settled = !below && view.decider().isMonotone() && certain;
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

  /** The holders of several rights together, ascending by account. */
  public List<Holder> together(SystemView view, Question question) {
    return holders(view, question.resource(), all(view, question));
  }

  /** Who holds rights together, surely or perhaps, whatever the standing of the accounts. */
  public Crowd all(SystemView view, Question question) {
    return crowd(view, question).orElseGet(() -> oneByOne(view, question));
  }

  private Crowd oneByOne(SystemView view, Question question) {
    BitSet candidates = candidates(view, question.allOf()[0], question.resource(), false);
    for (int right : question.allOf()) {
      candidates.and(candidates(view, right, question.resource(), false));
    }
    Crowd found = new Crowd(new BitSet(), new BitSet());
    for (int a = candidates.nextSetBit(0); a >= 0; a = candidates.nextSetBit(a + 1)) {
      Verdict verdict = asker.decide(view, a, question);
      found.yes().set(a, verdict == Verdict.YES);
      found.perhaps().set(a, verdict == Verdict.UNDECIDED);
    }
    return found;
  }

  /**
   * Who may do something, all at once, whatever the standing of the accounts; empty for systems
   * that have no quicker way than to ask for one account after another.
   */
  public Optional<Crowd> crowd(SystemView view, Question question) {
    return view.decider().crowd(question, members(view), model.asOf().getEpochSecond());
  }

  /**
   * Who counts as which subject in a system. Keeps a bit an account for each subject asked about,
   * as long as it is kept itself.
   */
  public Crowd.Members members(SystemView view) {
    return new Counted(view);
  }

  private static boolean isCertain(SystemView view) {
    return view.memberships().isCertain() && !view.admission().namesUnread();
  }

  /** Who counts as which subject in one system. */
  private final class Counted implements Crowd.Members {
    private final SystemView view;
    private final Memberships.Walker walker;
    private final Map<Integer, BitSet> sure = new HashMap<>();
    private final Map<Integer, BitSet> most = new HashMap<>();

    Counted(SystemView view) {
      this.view = view;
      this.walker = view.memberships().walker();
    }

    @Override
    public BitSet surely(int subject) {
      return areCertain() ? atMost(subject) : sure.computeIfAbsent(subject, s -> find(s, true));
    }

    @Override
    public BitSet atMost(int subject) {
      return most.computeIfAbsent(subject, s -> find(s, false));
    }

    @Override
    public boolean areCertain() {
      return isCertain(view);
    }

    private BitSet find(int subject, boolean surely) {
      IntList accounts = new IntList();
      members(view, walker, subject, surely, accounts);
      BitSet members = new BitSet(model.facts().accounts());
      for (int i = 0; i < accounts.size(); i++) {
        members.set(accounts.get(i));
      }
      return members;
    }
  }

  private List<Holder> holders(SystemView view, int resource, Crowd crowd) {
    List<Holder> holders = new ArrayList<>();
    for (int a = 0; a < model.facts().accounts(); a++) {
      if (crowd.yes().get(a)) {
        holders.add(holder(view, a, resource, Verdict.YES));
      } else if (crowd.perhaps().get(a)) {
        holders.add(holder(view, a, resource, Verdict.UNDECIDED));
      }
    }
    return holders;
  }

  private Holder holder(SystemView view, int account, int resource, Verdict verdict) {
    Standing standing = asker.standing(view, account);
    boolean unsure = verdict == Verdict.UNDECIDED && standing.state() == Standing.State.USABLE;
    return unsure
        ? new Holder(account, resource, Standing.State.UNDECIDED, Unknown.ofMemberships())
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
    if (view.decider().isOpen(resource, below)) {
      for (int account = 0; account < model.facts().accounts(); account++) {
        found.set(account, isSeen(view, account));
      }
      return found;
    }
    Memberships.Walker walker = view.memberships().walker();
    BitSet asked = new BitSet();
    IntList accounts = new IntList();
    IntList giving = view.decider().giving(resource, right, below);
    for (int g = 0; g < giving.size(); g++) {
      Grant grant = view.grants().get(giving.get(g));
      int subject = grant.counted(model.facts());
      boolean gives = subject >= 0 && grant.activeAt(model.asOf().getEpochSecond());
      if (gives && !asked.get(subject)) {
        asked.set(subject);
        accounts.clear();
        members(view, walker, subject, false, accounts);
        for (int i = 0; i < accounts.size(); i++) {
          found.set(accounts.get(i));
        }
      }
    }
    return found;
  }

  private void members(
      SystemView view, Memberships.Walker walker, int subject, boolean surely, IntList accounts) {
    if (view.admission().isOpen()) {
      if (subject == model.facts().implicit(Implicit.EVERYONE)) {
        all(accounts);
      }
    } else if (isEveryone(subject)) {
      seen(view, surely, accounts);
    } else if (model.facts().kind(subject) == SubjectKind.IMPLICIT) {
      for (int a = 0; a < model.facts().accounts(); a++) {
        if (asker.subjects(view, a).sure().contains(subject)
            || (!surely && asker.subjects(view, a).perhaps().contains(subject))) {
          accounts.add(a);
        }
      }
    } else {
      IntList reached = new IntList();
      if (surely) {
        walker.accounts(subject, reached);
      } else {
        walker.candidates(subject, reached);
      }
      for (int i = 0; i < reached.size(); i++) {
        int account = reached.get(i);
        if (surely ? view.memberships().visibility().sees(account) : isSeen(view, account)) {
          accounts.add(account);
        }
      }
    }
  }

  private static boolean isSeen(SystemView view, int account) {
    return view.memberships().visibility().sees(account)
        || view.memberships().visibility().perhapsSees(account);
  }

  /** Whether all that are seen count as it, and nobody need be asked one by one. */
  private boolean isEveryone(int subject) {
    return subject == model.facts().implicit(Implicit.EVERYONE)
        || subject == model.facts().implicit(Implicit.SIGNED_IN);
  }

  private void seen(SystemView view, boolean surely, IntList accounts) {
    for (int a = 0; a < model.facts().accounts(); a++) {
      if (surely ? view.memberships().visibility().sees(a) : isSeen(view, a)) {
        accounts.add(a);
      }
    }
  }

  private void all(IntList accounts) {
    for (int a = 0; a < model.facts().accounts(); a++) {
      if (!model.facts().isAbsent(a)) {
        accounts.add(a);
      }
    }
  }
}
