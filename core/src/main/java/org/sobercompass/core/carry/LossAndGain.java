package org.sobercompass.core.carry;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Cells;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.ActEffects;
import org.sobercompass.core.audit.ActsOfPersons;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.system.Change;

/**
 * What carrying rights over does to each person, by evaluation: what the counterpart can do after
 * against what both could do before.
 *
 * @param persons one for each counterpart, ascending
 * @param others what everybody else loses and gains; nothing, if all went as it should
 * @param othersActs which admin actions everybody else loses and gains, as far as was asked
 * @param allActs whether all admin actions of the persons were looked at; where not, none is told
 */
public record LossAndGain(
    List<Person> persons, Effects others, ActEffects othersActs, boolean allActs) {
  /** Copies. */
  public LossAndGain {
    persons = List.copyOf(persons);
  }

  /**
   * One person.
   *
   * @param to the counterpart
   * @param from the accounts whose rights it gets
   * @param cells each right of any of them, at the top of where it differs
   * @param acts each admin action of any of them
   */
  public record Person(int to, List<Integer> from, List<Cell> cells, List<ActsOfPersons.Act> acts) {
    /** Copies. */
    public Person {
      from = List.copyOf(from);
      cells = List.copyOf(cells);
      acts = List.copyOf(acts);
    }

    /** How many rights and admin actions come out so. */
    public int count(Outcome outcome) {
      return (int)
          (cells.stream().filter(cell -> cell.outcome() == outcome).count()
              + acts.stream().filter(act -> Outcome.of(act) == outcome).count());
    }

    /** Whether nothing is less and nothing more than before. */
    public boolean isEqual() {
      return count(Outcome.LESS) == 0 && count(Outcome.MORE) == 0;
    }
  }

  /** How a right comes out. */
  public enum Outcome {
    /** As the old account could, so can the new one. */
    EQUAL,
    /** The new account can what neither could before. */
    MORE,
    /** The old account could, or the new one could before, and cannot now. */
    LESS;

    private static Outcome of(int old, int before, int after) {
      int had = Math.max(old, before);
      return after == had ? EQUAL : after > had ? MORE : LESS;
    }

    /** How an admin action comes out. */
    public static Outcome of(ActsOfPersons.Act act) {
      return of(act.old(), act.before(), act.after());
    }
  }

  /**
   * One right of one person.
   *
   * @param system the number of the system
   * @param right the number of the right
   * @param resource the number of the resource
   * @param old what the old accounts could before, as {@link Cells#rank}
   * @param before what the new account could before
   * @param after what the new account can after
   */
  public record Cell(int system, int right, int resource, int old, int before, int after) {
    /** How it comes out. */
    public Outcome outcome() {
      return Outcome.of(old, before, after);
    }
  }

  /**
   * Works it out. O(persons x their rights), the effects on those that the changes concern, and
   * {@link ActsOfPersons}.
   *
   * @param counterparts who is whose; groups and units are left out
   * @param changes what is to be done
   */
  public static LossAndGain of(
      Assessment assessment, Map<Integer, Integer> counterparts, List<Change> changes) {
    AccessModel before = assessment.model();
    AccessModel after = before.with(changes);
    Map<Integer, List<Integer>> byTarget = new TreeMap<>();
    BitSet carried = new BitSet();
    counterparts.forEach(
        (from, to) -> {
          if (before.facts().kind(from) == SubjectKind.ACCOUNT) {
            byTarget.computeIfAbsent(to, t -> new ArrayList<>()).add(from);
            carried.set(from);
            carried.set(to);
          }
        });
    Asker then = before.asker();
    Asker now = after.asker();
    List<Person> persons = new ArrayList<>();
    Optional<Map<Integer, List<ActsOfPersons.Act>>> acts =
        ActsOfPersons.of(assessment, changes, byTarget);
    byTarget.forEach(
        (to, from) -> {
          List<ActsOfPersons.Act> own = acts.map(all -> all.get(to)).orElse(List.of());
          persons.add(new Person(to, from, cells(to, from, then, now), own));
        });
    Effects all = Effects.of(before, changes);
    ActEffects some = ActEffects.of(assessment, changes);
    return new LossAndGain(
        persons,
        new Effects(
            all.ends().stream().filter(effect -> !carried.get(effect.account())).toList(),
            all.gives().stream().filter(effect -> !carried.get(effect.account())).toList()),
        new ActEffects(
            some.ends().stream().filter(act -> !carried.get(act.account())).toList(),
            some.gives().stream().filter(act -> !carried.get(act.account())).toList(),
            some.asked(),
            some.concerned()),
        acts.isPresent());
  }

  /** Whether nobody else gains or loses anything, as far as was asked. */
  public boolean isNobodyElse() {
    return others.isNone() && othersActs.gives().isEmpty() && othersActs.ends().isEmpty();
  }

  private static List<Cell> cells(int to, List<Integer> from, Asker then, Asker now) {
    List<Cell> cells = new ArrayList<>();
    for (SystemView view : then.model().systems()) {
      if (view.admission().isOpen()) {
        continue; // whoever anybody is
      }
      SystemView after = now.model().systems().get(view.number());
      Set<Long> where = new TreeSet<>();
      for (int account : from) {
        Cells.add(view, then.holdings(view, account), where);
      }
      List<Holding> held = then.holdings(view, to);
      Cells.add(view, held, where);
      Cells.add(after, now.holdings(after, to), where);
      Map<Long, Integer> old = new TreeMap<>();
      for (int account : from) {
        for (long cell : where) {
          old.merge(cell, rank(then, view, account, cell), Math::max);
        }
      }
      for (long cell : where) {
        Cell one =
            new Cell(
                view.number(),
                Cells.right(cell),
                Cells.resource(cell),
                old.getOrDefault(cell, 0),
                rank(then, view, to, cell),
                rank(now, after, to, cell));
        if (one.old + one.before + one.after > 0) {
          cells.add(one);
        }
      }
    }
    return cells;
  }

  private static int rank(Asker asker, SystemView view, int account, long cell) {
    return Cells.rank(asker.can(view, account, Cells.right(cell), Cells.resource(cell)));
  }
}
