package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.PrimitiveIterator;
import java.util.TreeSet;
import java.util.stream.IntStream;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Token;

/**
 * Which grants are redundant: taking the one away alone changes nothing at any time left in its
 * window. Outcomes change only where a window of the account's grants begins or ends, so those
 * times are tried. Two grants that cover each other are both redundant; one of which it is not
 * known whether it reaches somebody is not.
 */
public final class Redundancy {
  private static final int FIRST_ROUND = 4;

  private final Asker asker;
  private final long asOf;

  /** Asks with this asker. */
  public Redundancy(Asker asker) {
    this.asker = asker;
    this.asOf = asker.model().asOf().getEpochSecond();
  }

  /** The grants that are redundant for one account in one system, ascending. */
  public List<Integer> of(SystemView view, int account) {
    List<Integer> redundant = new ArrayList<>();
    IntList grants = view.decider().grantsOf(asker.token(view, account));
    for (int i = 0; i < grants.size(); i++) {
      int grant = grants.get(i);
      if (isRedundant(view, asker.subjects(view, account), account, grant, grants)) {
        redundant.add(grant);
      }
    }
    return redundant;
  }

  /**
   * Whether a grant is redundant for every account it reaches, and reaches at least one. O(accounts
   * that count as its subject), and mostly less: the first for which it matters ends it.
   */
  public boolean isEverywhere(SystemView view, int grant) {
    Facts facts = asker.model().facts();
    int subject = view.grants().get(grant).counted(facts);
    if (subject < 0) {
      return false;
    }
    if (facts.kind(subject) != SubjectKind.IMPLICIT) {
      IntList accounts = new IntList();
      view.memberships().walker().candidates(subject, accounts);
      return isEverywhere(view, grant, Arrays.stream(accounts.toArray()));
    }
    return isEverywhere(view, grant, IntStream.range(0, facts.accounts()));
  }

  private boolean isEverywhere(SystemView view, int grant, IntStream accounts) {
    BitSet reached = new BitSet();
    boolean[] need = new boolean[view.grants().size()];
    Arrays.fill(need, true);
    need[grant] = false;
    PrimitiveIterator.OfInt each = accounts.iterator();
    while (each.hasNext() && !need[grant]) {
      mark(view, each.nextInt(), reached, need);
    }
    return reached.get(grant) && !need[grant];
  }

  private boolean isRedundant(
      SystemView view, SubjectSet subjects, int account, int number, IntList grants) {
    Grant grant = view.grants().get(number);
    if (!grant.on() || grant.until() <= asOf || grant.declared()) {
      return false;
    }
    for (long time : times(view, grant, grants)) {
      Projected who = view.decider().project(new Token(account, subjects, time));
      if (!view.decider().isIdle(who, number)) {
        return false;
      }
    }
    return true;
  }

  /** The moments from now on, inside the window of a grant, at which something begins or ends. */
  private TreeSet<Long> times(SystemView view, Grant grant, IntList grants) {
    TreeSet<Long> times = new TreeSet<>();
    times.add(Math.max(asOf, grant.from()));
    for (int i = 0; i < grants.size(); i++) {
      Grant other = view.grants().get(grants.get(i));
      times.add(other.from());
      times.add(other.until());
    }
    return new TreeSet<>(times.subSet(Math.max(asOf, grant.from()), true, grant.until(), false));
  }

  /**
   * The grants of a system that are redundant for every account they reach, and reach at least one.
   * A grant is dropped at the first account for which it matters, so most are asked about once.
   */
  public static BitSet everywhere(AccessModel model, SystemView view) {
    return everywhere(model).get(view.number());
  }

  /**
   * The same for all systems at once, but for those of lists, whose entries nobody gives one by
   * one: one walk over all accounts, on all processors, in rounds. After each round only subjects
   * are looked for that are given something of which it is still open whether it is needed, and
   * most of it is found needed in the first. What one chunk finds needed the others need not ask
   * about; they may miss it for a moment, which costs time only.
   */
  public static List<BitSet> everywhere(AccessModel model) {
    boolean[][] needed =
        model.systems().stream()
            .map(view -> new boolean[view.assigned().size()])
            .toArray(boolean[][]::new);
    List<BitSet> reached = sets(model);
    int accounts = model.facts().accounts();
    int size = FIRST_ROUND;
    for (int from = 0; from < accounts; from += size, size *= 2) {
      int first = from;
      Open open = open(model, needed);
      model
          .bulk()
          .each(
              Math.min(size, accounts - from),
              (asker, range) ->
                  chunk(
                      asker,
                      new Bulk.Range(first + range.from(), first + range.to()),
                      open,
                      needed),
              part -> {
                for (int s = 0; s < part.size(); s++) {
                  reached.get(s).or(part.get(s));
                }
              });
    }
    for (int s = 0; s < needed.length; s++) {
      for (int grant = 0; grant < needed[s].length; grant++) {
        if (needed[s][grant]) {
          reached.get(s).clear(grant);
        }
      }
    }
    return reached;
  }

  /**
   * What is not known yet to be needed.
   *
   * @param naming by subject the systems with such a grant to it
   * @param systems all these systems
   */
  private record Open(IntRows naming, BitSet systems) {}

  private static Open open(AccessModel model, boolean[][] needed) {
    BitSet any = new BitSet();
    IntList subjects = new IntList();
    IntList systems = new IntList();
    for (SystemView view : model.systems()) {
      BitSet named = new BitSet();
      for (int grant = 0; grant < needed[view.number()].length; grant++) {
        int subject = view.assigned().get(grant).counted(model.facts());
        if (!needed[view.number()][grant] && subject >= 0) {
          named.set(subject);
        }
      }
      any.set(view.number(), !named.isEmpty());
      named.stream()
          .forEach(
              subject -> {
                subjects.add(subject);
                systems.add(view.number());
              });
    }
    return new Open(IntRows.ofPairs(model.facts().subjects(), subjects, systems), any);
  }

  /** Marks what the accounts of a chunk need; returns which grants reach any of them. */
  private static List<BitSet> chunk(Asker asker, Bulk.Range range, Open open, boolean[][] needed) {
    List<BitSet> reached = sets(asker.model());
    Redundancy redundancy = new Redundancy(asker);
    NamedSubjects named = new NamedSubjects(asker, open.naming, open.systems);
    for (int account = range.from(); account < range.to(); account++) {
      BitSet systems = named.systems(account);
      for (int s = systems.nextSetBit(0); s >= 0; s = systems.nextSetBit(s + 1)) {
        SystemView view = asker.model().systems().get(s);
        redundancy.mark(view, account, reached.get(s), needed[s]);
      }
    }
    return reached;
  }

  private void mark(SystemView view, int account, BitSet reached, boolean[] need) {
    Token token = asker.token(view, account);
    IntList grants = view.decider().grantsOf(token);
    for (int i = 0; i < grants.size(); i++) {
      int grant = grants.get(i);
      reached.set(grant);
      if (!need[grant] && !isRedundant(view, token.subjects(), account, grant, grants)) {
        need[grant] = true;
      }
    }
    open(view, account, token.subjects(), asOf, need);
  }

  /** Of whom it is not known whether a grant reaches him, it may be all he has. */
  private static void open(
      SystemView view, int account, SubjectSet subjects, long asOf, boolean[] need) {
    if (!subjects.perhaps().isEmpty()) {
      SubjectSet perhaps = new SubjectSet();
      for (int i = 0; i < subjects.perhaps().size(); i++) {
        perhaps.sure().add(subjects.perhaps().get(i));
      }
      IntList grants = view.decider().grantsOf(new Token(account, perhaps, asOf));
      for (int i = 0; i < grants.size(); i++) {
        need[grants.get(i)] = true;
      }
    }
  }

  private static List<BitSet> sets(AccessModel model) {
    List<BitSet> sets = new ArrayList<>();
    model.systems().forEach(view -> sets.add(new BitSet()));
    return sets;
  }
}
