package org.sobercompass.report.picture;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.RolesHeld;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;

/**
 * Accounts by roles: accounts with the same roles in the same way are folded into one row, rows
 * that share most stand together. How a role is held is told by the form of its mark.
 */
public final class MatrixDrawing {
  private static final double ROW = 24;
  private static final double COLUMN = 40;
  private static final int MOST = 60;
  private static final int NAMED = 2;
  private static final String CONFLICT = "▲";
  private static final List<String> SIGNS = List.of("■", "●", "◇", "◐", "−", "○", CONFLICT);
  private static final List<String> WORDS =
      List.of(
          "given to the account",
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
    Map<String, List<RolesHeld.Row>> folded = new LinkedHashMap<>();
    for (RolesHeld.Row row : held.rows()) {
      folded.computeIfAbsent(pattern(row, conflicts), k -> new ArrayList<>()).add(row);
    }
    if (folded.isEmpty()) {
      return "";
    }
    List<String> patterns = new ArrayList<>(folded.keySet());
    patterns.sort(Comparator.<String>naturalOrder().reversed());
    List<String> shown = patterns.subList(0, Math.min(MOST, patterns.size()));
    List<String> names = new ArrayList<>();
    for (String pattern : shown) {
      names.add(names(facts, folded.getOrDefault(pattern, List.of())));
    }
    return draw(view, shown, names, folded, facts, patterns.size() - shown.size());
  }

  private static String draw(
      SystemView view,
      List<String> patterns,
      List<String> names,
      Map<String, List<RolesHeld.Row>> folded,
      Facts facts,
      int leftOut) {
    List<String> roles = view.system().roles().stream().map(role -> role.name()).toList();
    double left = Svg.width(names, 330) + 54;
    double head = Svg.width(roles, 190) * 0.78 + 20;
    double lean = Svg.width(roles, 190) * 0.65 + 10;
    double height = head + patterns.size() * ROW + 58;
    double width =
        Math.max(left + roles.size() * COLUMN + lean, Svg.legendWidth(SIGNS.subList(0, 4), WORDS));
    Svg out = new Svg("Accounts by roles of " + view.system().name(), width, height);
    for (int c = 0; c < roles.size(); c++) {
      out.climbing(left + c * COLUMN + COLUMN / 2, head - 8, Svg.fit(roles.get(c), 190));
    }
    for (int r = 0; r < patterns.size(); r++) {
      List<RolesHeld.Row> rows = folded.getOrDefault(patterns.get(r), List.of());
      double y = head + r * ROW;
      if (r % 2 == 0) {
        out.rect("band", 0, y, left + roles.size() * COLUMN, ROW, 0);
      }
      out.open(String.join(", ", rows.stream().map(x -> facts.label(x.account())).toList()));
      out.text("right quiet", 26, y + 17, rows.size() == 1 ? "" : rows.size() + " ×");
      out.text("left", 34, y + 17, Svg.fit(names.get(r), left - 40));
      out.close();
      marks(out, view, patterns.get(r), rows.get(0), left, y);
    }
    double end = head + patterns.size() * ROW;
    if (leftOut > 0) {
      out.text("left quiet", 34, end + 14, leftOut + " more rows are not drawn");
    }
    out.legend(0, end + 34, SIGNS.subList(0, 4), WORDS.subList(0, 4));
    out.legend(0, end + 52, SIGNS.subList(4, 7), WORDS.subList(4, 7));
    return out.end();
  }

  private static void marks(
      Svg out, SystemView view, String pattern, RolesHeld.Row row, double left, double y) {
    for (int c = 0; c < row.cells().size(); c++) {
      Optional<RolesHeld.Cell> cell = row.cells().get(c);
      if (cell.isPresent()) {
        boolean whole = cell.get().whole();
        String sign = pattern.substring(2 * c, 2 * c + 1);
        String style =
            sign.equals(CONFLICT) ? "high" : sign.equals("○") || sign.equals("−") ? "" : "mark";
        out.open(
            view.system().roles().get(c).name()
                + (whole ? ", everywhere" : ", at " + view.resources().name(cell.get().resource()))
                + ", "
                + WORDS.get(SIGNS.indexOf(sign)));
        out.text(style, left + c * COLUMN + COLUMN / 2, y + 17, sign + (whole ? "" : "◐"));
        out.close();
      }
    }
  }

  /** Two characters a role: how it is held, and how far; equal for accounts that are alike. */
  private static String pattern(RolesHeld.Row row, Set<Conflict> conflicts) {
    StringBuilder text = new StringBuilder();
    for (int role = 0; role < row.cells().size(); role++) {
      Optional<RolesHeld.Cell> cell = row.cells().get(role);
      boolean conflict = conflicts.contains(new Conflict(row.account(), role));
      text.append(cell.map(c -> sign(c, row.blocked(), conflict)).orElse(" "));
      text.append(cell.map(c -> c.whole() ? "w" : "p").orElse(" "));
    }
    return text.toString();
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

  private static String names(Facts facts, List<RolesHeld.Row> rows) {
    List<String> names = rows.stream().limit(NAMED).map(row -> facts.label(row.account())).toList();
    return String.join(", ", names)
        + (rows.size() > NAMED ? " and " + (rows.size() - NAMED) + " more" : "");
  }
}
