package org.sobercompass.core.carry;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Cells;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.system.Change;

/**
 * What carrying rights over does to each person, by evaluation: what the counterpart can do after
 * against what both could do before.
 *
 * @param persons one for each counterpart, ascending
 * @param others what everybody else loses and gains; nothing, if all went as it should
 */
public record LossAndGain(List<Person> persons, Effects others) {
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
   */
  public record Person(int to, List<Integer> from, List<Cell> cells) {
    /** Copies. */
    public Person {
      from = List.copyOf(from);
      cells = List.copyOf(cells);
    }

    /** How many rights come out so. */
    public int count(Outcome outcome) {
      return (int) cells.stream().filter(cell -> cell.outcome() == outcome).count();
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
    LESS
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
      int had = Math.max(old, before);
      return after == had ? Outcome.EQUAL : after > had ? Outcome.MORE : Outcome.LESS;
    }
  }

  /**
   * Works it out. O(persons x their rights), and the effects on those that the changes concern.
   *
   * @param counterparts who is whose; groups and units are left out
   * @param changes what is to be done
   */
  public static LossAndGain of(
      AccessModel before, Map<Integer, Integer> counterparts, List<Change> changes) {
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
    byTarget.forEach((to, from) -> persons.add(person(to, from, then, now)));
    Effects all = Effects.of(before, changes);
    return new LossAndGain(
        persons,
        new Effects(
            all.ends().stream().filter(effect -> !carried.get(effect.account())).toList(),
            all.gives().stream().filter(effect -> !carried.get(effect.account())).toList()));
  }

  private static Person person(int to, List<Integer> from, Asker then, Asker now) {
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
    return new Person(to, from, cells);
  }

  private static int rank(Asker asker, SystemView view, int account, long cell) {
    return Cells.rank(asker.can(view, account, Cells.right(cell), Cells.resource(cell)));
  }
}
