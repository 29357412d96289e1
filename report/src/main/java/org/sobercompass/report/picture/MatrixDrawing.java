package org.sobercompass.report.picture;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.LevelsHeld;
import org.sobercompass.core.access.RolesHeld;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.system.RoleInfo;

/**
 * Accounts or groups by roles, and accounts by areas with the level they hold there: those that are
 * alike are folded into one row. How a role is held is told by the form of its mark.
 */
public final class MatrixDrawing {
  private static final double ROLE = 40;
  private static final double AREA = 76;
  private static final String CONFLICT = "▲";
  private static final String PART = "◐";
  private static final List<String> SIGNS = List.of("■", "●", "◇", PART, "−", "○", CONFLICT);
  private static final List<String> WORDS =
      List.of(
          "given by name",
          "through a group",
          "in another role",
          "in a part only",
          "takes rights away",
          "account blocked",
          "conflict");

  private MatrixDrawing() {}

  /** An account and a role that a separation of duties speaks of. */
  public record Conflict(int account, int role) {}

  /**
   * SVG of who has which role; empty when nobody has any.
   *
   * @param conflicts marks that conflict with others of the same account
   */
  public static String draw(Facts facts, SystemView view, RolesHeld held, Set<Conflict> conflicts) {
    List<Grid.Row> rows = new ArrayList<>();
    for (RolesHeld.Row row : held.rows()) {
      List<Grid.Mark> marks = new ArrayList<>();
      for (int role = 0; role < row.cells().size(); role++) {
        boolean conflict = conflicts.contains(new Conflict(row.account(), role));
        marks.add(mark(view, row, role, conflict));
      }
      rows.add(new Grid.Row(facts.label(row.account()), marks));
    }
    return new Grid(
            "Who has which role of " + view.system().name(),
            view.system().roles().stream().map(RoleInfo::name).toList(),
            ROLE,
            rows,
            SIGNS,
            WORDS)
        .draw();
  }

  private static Grid.Mark mark(SystemView view, RolesHeld.Row row, int role, boolean conflict) {
    Optional<RolesHeld.Cell> held = row.cells().get(role);
    if (held.isEmpty()) {
      return Grid.Mark.NONE;
    }
    RolesHeld.Cell cell = held.get();
    String sign = sign(cell, row.blocked(), conflict);
    String style = sign.equals(CONFLICT) ? "high" : "○−".contains(sign) ? "" : "mark";
    String where = cell.whole() ? "everywhere" : "at " + view.resources().name(cell.resource());
    return new Grid.Mark(
        sign + (cell.whole() ? "" : PART),
        style,
        view.system().roles().get(role).name()
            + ", "
            + where
            + ", "
            + WORDS.get(SIGNS.indexOf(sign)));
  }

  private static String sign(RolesHeld.Cell cell, boolean blocked, boolean conflict) {
    if (conflict) {
      return CONFLICT;
    }
    if (blocked) {
      return "○";
    }
    if (cell.denies()) {
      return "−";
    }
    return switch (cell.how()) {
      case DIRECT -> "■";
      case THROUGH_GROUP -> "●";
      case INCLUDED -> "◇";
    };
  }

  /** SVG of how far accounts get in each area; empty when nobody holds anything. */
  public static String levels(Facts facts, SystemView view, LevelsHeld held) {
    List<Grid.Row> rows = new ArrayList<>();
    for (LevelsHeld.Row row : held.rows()) {
      List<Grid.Mark> marks = new ArrayList<>();
      for (int a = 0; a < row.cells().size(); a++) {
        String area = held.areas().get(a);
        marks.add(row.cells().get(a).map(cell -> level(area, cell)).orElse(Grid.Mark.NONE));
      }
      rows.add(new Grid.Row(facts.label(row.account()), marks));
    }
    return new Grid(
            "How far accounts get in the areas of " + view.system().name(),
            held.areas(),
            AREA,
            rows,
            List.of(PART, "○"),
            List.of("in a part only", "account blocked"))
        .draw();
  }

  private static Grid.Mark level(String area, LevelsHeld.Cell cell) {
    String all = String.join(", ", cell.levels());
    String first = cell.levels().size() == 1 ? cell.levels().get(0) : cell.levels().get(0) + " …";
    String ends = (cell.whole() ? "" : PART) + (cell.blocked() ? "○" : "");
    String text = Svg.fit(first, AREA - 8 - ends.length() * 13) + ends;
    String hint =
        area
            + ": "
            + all
            + (cell.whole() ? ", everywhere" : ", in a part")
            + (cell.blocked() ? ", blocked" : "");
    return new Grid.Mark(text, cell.blocked() ? "" : "mark", hint);
  }
}
