package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.system.Standing;

/**
 * How far accounts get in each area of one system: the highest level they hold there, whatever role
 * gives it. Immutable.
 *
 * @param areas the areas that anybody holds something in, in the byte order of their names
 * @param rows in the order of the accounts; an account that holds nothing has none
 */
public record LevelsHeld(List<String> areas, List<Row> rows) {
  /** Copies. */
  public LevelsHeld {
    areas = List.copyOf(areas);
    rows = List.copyOf(rows);
  }

  /**
   * What an account holds in an area.
   *
   * @param levels the highest level, or several that do not contain one another; actions too
   * @param whole whether everywhere in the system; else in a part of it
   * @param blocked whether it cannot be used
   */
  public record Cell(List<String> levels, boolean whole, boolean blocked) {}

  /** One account; a cell for each area, empty where it holds nothing. */
  public record Row(int account, List<Optional<Cell>> cells) {
    /** Copies. */
    public Row {
      cells = List.copyOf(cells);
    }
  }

  /** The levels of some accounts in a system. O(a run over their holdings). */
  public static LevelsHeld of(Asker asker, SystemView view, Iterable<Integer> accounts) {
    Map<Integer, Map<String, Cell>> held = new LinkedHashMap<>();
    Map<String, Boolean> areas = new TreeMap<>(Key::compareUtf8);
    for (int account : accounts) {
      Map<String, Cell> own = cells(view, asker.holdings(view, account));
      if (!own.isEmpty()) {
        held.put(account, own);
        own.keySet().forEach(area -> areas.put(area, true));
      }
    }
    List<String> names = List.copyOf(areas.keySet());
    List<Row> rows = new ArrayList<>();
    held.forEach(
        (account, own) ->
            rows.add(
                new Row(
                    account, names.stream().map(n -> Optional.ofNullable(own.get(n))).toList())));
    return new LevelsHeld(names, rows);
  }

  private static Map<String, Cell> cells(SystemView view, List<Holding> holdings) {
    Map<String, List<Holding>> byArea = new LinkedHashMap<>();
    for (Holding one : holdings) {
      boolean lower =
          holdings.stream().anyMatch(o -> view.rights().contains(o.right()).contains(one.right()));
      if (!lower && !view.rights().isMinor(one.right())) {
        byArea.computeIfAbsent(area(view, one.right()), k -> new ArrayList<>()).add(one);
      }
    }
    Map<String, Cell> cells = new LinkedHashMap<>();
    byArea.forEach((area, own) -> cells.put(area, cell(view, area, own)));
    return cells;
  }

  private static Cell cell(SystemView view, String area, List<Holding> own) {
    List<String> levels =
        own.stream()
            .map(one -> view.rights().text(one.right()))
            .distinct()
            .map(text -> text.length() == area.length() ? text : text.substring(area.length() + 1))
            .toList();
    boolean whole =
        own.stream()
            .allMatch(
                one ->
                    one.resource() == 0
                        && one.excluded().isEmpty()
                        && (one.reach() == Holding.Reach.SUBTREE || view.resources().size() == 1));
    boolean blocked = own.stream().allMatch(one -> one.state() == Standing.State.BLOCKED);
    return new Cell(levels, whole, blocked);
  }

  /** The area of a right: what stands before its level; the right itself where it has none. */
  private static String area(SystemView view, int right) {
    String text = view.rights().text(right);
    int colon = text.lastIndexOf(':');
    return colon < 0 ? text : text.substring(0, colon);
  }
}
