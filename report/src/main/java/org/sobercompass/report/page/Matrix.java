package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.RolesHeld;
import org.sobercompass.core.access.SystemView;

/**
 * Who is given which role: a row for each account, a column for each role. A mark says how far: all
 * of the application or a part of it; an account that is blocked has hollow marks.
 *
 * @param applications names with the number of their roles, as column heads
 * @param roles the roles, by application
 * @param rows the accounts that are given something
 * @param leftOut how many accounts did not fit
 */
public record Matrix(List<Head> applications, List<Head> roles, List<Row> rows, int leftOut) {
  private static final int MOST = 400;

  /** More columns than these nobody reads side by side. */
  private static final int COLUMNS = 200;

  /** Whether the roles of all applications can be read side by side. */
  static boolean fits(AccessModel model) {
    return views(model).stream().mapToInt(view -> view.system().roles().size()).sum() <= COLUMNS;
  }

  private static List<SystemView> views(AccessModel model) {
    return model.systems().stream()
        .filter(view -> !view.admission().isOpen() && !view.system().isOfLists())
        .toList();
  }

  /** A column head over some columns. */
  public record Head(String name, int columns, String hint) {}

  /** One account. */
  public record Row(String name, String login, String site, List<Mark> marks) {}

  /** One cell: a sign and what it says; both empty when there is nothing. */
  public record Mark(String sign, String says) {
    /** Nothing. */
    static final Mark NONE = new Mark("", "");
  }

  /** The matrix of a model. */
  static Matrix of(AccessModel model) {
    List<Head> applications = new ArrayList<>();
    List<Head> roles = new ArrayList<>();
    List<SystemView> views = views(model);
    for (SystemView view : views) {
      applications.add(new Head(view.system().name(), view.system().roles().size(), ""));
      view.system()
          .roles()
          .forEach(
              role ->
                  roles.add(new Head(role.name(), 1, view.system().name() + ": " + role.name())));
    }
    List<Row> rows = new ArrayList<>();
    int leftOut = 0;
    Asker asker = model.asker();
    List<RolesHeld.Finder> finders =
        views.stream().map(view -> new RolesHeld.Finder(asker, view)).toList();
    for (int account = 0; account < model.facts().accounts(); account++) {
      int who = account;
      if (rows.size() == MOST) {
        leftOut += finders.stream().anyMatch(finder -> finder.isAny(who)) ? 1 : 0;
        continue;
      }
      List<Mark> marks = new ArrayList<>();
      for (int v = 0; v < views.size(); v++) {
        marks.addAll(marks(views.get(v), finders.get(v).row(account)));
      }
      if (marks.stream().anyMatch(mark -> !mark.sign().isEmpty())) {
        rows.add(row(model, account, marks));
      }
    }
    rows.sort(Comparator.comparing(Row::site).thenComparing(Row::name).thenComparing(Row::login));
    return new Matrix(applications, roles, rows, leftOut);
  }

  private static Row row(AccessModel model, int account, List<Mark> marks) {
    int unit = model.facts().container(account);
    return new Row(
        model.facts().label(account),
        model.facts().login(account),
        unit < 0 ? "" : model.facts().label(unit),
        marks);
  }

  private static List<Mark> marks(SystemView view, Optional<RolesHeld.Row> row) {
    int roles = view.system().roles().size();
    return row.map(own -> marks(view, own)).orElseGet(() -> Collections.nCopies(roles, Mark.NONE));
  }

  /** Roles that are only in other roles are not given themselves. */
  private static List<Mark> marks(SystemView view, RolesHeld.Row row) {
    List<Mark> marks = new ArrayList<>();
    for (int role = 0; role < row.cells().size(); role++) {
      String name = view.system().roles().get(role).name();
      marks.add(
          row.cells()
              .get(role)
              .filter(cell -> cell.how() != RolesHeld.How.INCLUDED)
              .map(
                  cell -> {
                    boolean whole = cell.whole();
                    String where =
                        whole ? "everywhere" : "at " + view.resources().name(cell.resource());
                    boolean blocked = row.blocked();
                    return new Mark(
                        blocked ? (whole ? "○" : "◌") : (whole ? "●" : "◐"),
                        name + " " + where + (blocked ? ", blocked" : ""));
                  })
              .orElse(Mark.NONE));
    }
    return marks;
  }
}
