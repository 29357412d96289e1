package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Standing;

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
    List<SystemView> views =
        model.systems().stream()
            .filter(view -> !view.admission().isOpen() && !view.system().isOfLists())
            .toList();
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
    for (int account = 0; account < model.facts().accounts(); account++) {
      List<Mark> marks = new ArrayList<>();
      for (SystemView view : views) {
        marks.addAll(marks(asker, view, account));
      }
      if (marks.stream().anyMatch(mark -> !mark.sign().isEmpty())) {
        if (rows.size() < MOST) {
          rows.add(row(model, account, marks));
        } else {
          leftOut++;
        }
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

  private static List<Mark> marks(Asker asker, SystemView view, int account) {
    Mark[] marks = new Mark[view.system().roles().size()];
    java.util.Arrays.fill(marks, Mark.NONE);
    IntList grants = view.decider().grantsOf(asker.token(view, account));
    boolean blocked = asker.standing(view, account).state() == Standing.State.BLOCKED;
    long asOf = asker.model().asOf().getEpochSecond();
    for (int i = 0; i < grants.size(); i++) {
      Grant grant = view.grants().get(grants.get(i));
      if (grant.activeAt(asOf)) {
        boolean whole = grant.resource() == 0 && (grant.descends() || view.resources().size() == 1);
        String name = view.system().roles().get(grant.role()).name();
        boolean better = whole || marks[grant.role()] == Mark.NONE;
        if (better) {
          String where = whole ? "everywhere" : "at " + view.resources().name(grant.resource());
          marks[grant.role()] =
              new Mark(
                  blocked ? (whole ? "○" : "◌") : (whole ? "●" : "◐"),
                  name + " " + where + (blocked ? ", blocked" : ""));
        }
      }
    }
    return List.of(marks);
  }
}
