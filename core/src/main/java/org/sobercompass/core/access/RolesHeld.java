package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Token;

/**
 * Which roles of one system each account is given, and how: a row for each account that is given
 * any, a cell for each role. Immutable.
 *
 * @param rows in the order of the accounts
 */
public record RolesHeld(List<Row> rows) {
  /** Copies. */
  public RolesHeld {
    rows = List.copyOf(rows);
  }

  /** How an account comes by a role; the first that fits is told. */
  public enum How {
    /** The role is given to the account itself. */
    DIRECT,
    /** It is given to a group, a unit, or everyone. */
    THROUGH_GROUP,
    /** Another role that is given includes it. */
    INCLUDED
  }

  /**
   * A role of an account.
   *
   * @param whole whether it reaches the whole system; else a part of it
   * @param resource where, the first of several
   * @param denies whether the role takes rights away
   */
  public record Cell(How how, boolean whole, int resource, boolean denies) {}

  /**
   * One account, or group.
   *
   * @param account its number
   * @param blocked whether it cannot use any of it
   * @param cells one a role, by number; empty where it is not given
   */
  public record Row(int account, boolean blocked, List<Optional<Cell>> cells) {
    /** Copies. */
    public Row {
      cells = List.copyOf(cells);
    }
  }

  /**
   * The roles of some accounts in a system. O(accounts x (their grants + roles)).
   *
   * @param accounts their numbers
   */
  public static RolesHeld of(Asker asker, SystemView view, Iterable<Integer> accounts) {
    List<Row> rows = new ArrayList<>();
    Finder finder = new Finder(asker, view);
    for (int account : accounts) {
      finder.row(account).ifPresent(rows::add);
    }
    return new RolesHeld(rows);
  }

  /** Finds the roles of one account after the other in a system. Not thread-safe. */
  public static final class Finder {
    private final Asker asker;
    private final SystemView view;
    private final List<List<Integer>> included;
    private final long asOf;

    /** In a system. O(roles squared), once. */
    public Finder(Asker asker, SystemView view) {
      this.asker = asker;
      this.view = view;
      this.included = included(view);
      this.asOf = asker.model().asOf().getEpochSecond();
    }

    /** Whether an account is given any. */
    public boolean isAny(int account) {
      IntList grants = view.decider().grantsOf(asker.token(view, account));
      for (int i = 0; i < grants.size(); i++) {
        if (view.grants().get(grants.get(i)).activeAt(asOf)) {
          return true;
        }
      }
      return false;
    }

    /** The roles of an account; empty when it is given none. */
    public Optional<Row> row(int account) {
      return row(account, view.decider().grantsOf(asker.token(view, account)))
          .map(
              cells -> {
                boolean blocked = asker.standing(view, account).state() == Standing.State.BLOCKED;
                return new Row(account, blocked, cells);
              });
    }

    /** The roles that a group brings its members; empty when it brings none. */
    public Optional<Row> group(int group) {
      SubjectSet subjects = new SubjectSet();
      view.memberships().walker().subjects(group, subjects);
      return row(group, view.decider().grantsOf(new Token(group, subjects, asOf)))
          .map(cells -> new Row(group, false, cells));
    }

    private Optional<List<Optional<Cell>>> row(int subject, IntList grants) {
      @Nullable Cell[] cells = new Cell[view.system().roles().size()];
      boolean any = false;
      for (int i = 0; i < grants.size(); i++) {
        Grant grant = view.grants().get(grants.get(i));
        if (grant.activeAt(asOf)) {
          any = true;
          How how = grant.subject() == subject ? How.DIRECT : How.THROUGH_GROUP;
          put(cells, grant.role(), cell(view, grant, how));
          for (int role : included.get(grant.role())) {
            put(cells, role, cell(view, grant, How.INCLUDED));
          }
        }
      }
      return any
          ? Optional.of(Arrays.stream(cells).map(Optional::ofNullable).toList())
          : Optional.empty();
    }
  }

  private static Cell cell(SystemView view, Grant grant, How how) {
    boolean whole = grant.resource() == 0 && (grant.descends() || view.resources().size() == 1);
    RoleInfo role = view.system().roles().get(grant.role());
    boolean denies = Arrays.stream(role.denies()).anyMatch(word -> word != 0);
    return new Cell(how, whole, grant.resource(), denies);
  }

  /** What is given wins over what is only included; then the wider one, then the more direct. */
  private static void put(@Nullable Cell[] cells, int role, Cell cell) {
    Cell there = cells[role];
    if (there == null || ORDER.compare(cell, there) < 0) {
      cells[role] = cell;
    }
  }

  private static final Comparator<Cell> ORDER =
      Comparator.<Cell, Boolean>comparing(cell -> cell.how == How.INCLUDED)
          .thenComparing(cell -> !cell.whole)
          .thenComparing(Cell::how);

  /** The roles that each role includes, directly or not. */
  private static List<List<Integer>> included(SystemView view) {
    List<RoleInfo> roles = view.system().roles();
    if (view.system().isOfLists()) {
      return Collections.nCopies(roles.size(), List.of());
    }
    List<List<Integer>> included = new ArrayList<>();
    roles.forEach(role -> included.add(new ArrayList<>()));
    for (int role = 0; role < roles.size(); role++) {
      int inner = role;
      RoleInfo.including(roles, role).stream()
          .filter(outer -> outer != inner)
          .forEach(outer -> included.get(outer).add(inner));
    }
    return included;
  }
}
