package org.sobercompass.report.picture;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A grid of marks: rows with the same marks are folded into one, and rows that share most stand
 * together.
 *
 * @param title what it shows
 * @param columns the heads of the columns
 * @param width how wide a column is
 * @param rows the rows
 * @param signs what the marks mean, a sign each
 * @param words the meaning of each sign
 */
record Grid(
    String title,
    List<String> columns,
    double width,
    List<Row> rows,
    List<String> signs,
    List<String> words) {
  private static final double HEIGHT = 24;
  private static final double LONGEST = 190;
  private static final int MOST = 60;
  private static final int NAMED = 2;
  private static final int LEGEND = 4;

  /**
   * A row.
   *
   * @param name whose it is
   * @param marks one a column
   */
  record Row(String name, List<Mark> marks) {}

  /**
   * A mark.
   *
   * @param text what stands there, or empty
   * @param style how it is set: mark, high, or empty
   * @param hint what it says to whoever points at it
   */
  record Mark(String text, String style, String hint) {
    static final Mark NONE = new Mark("", "", "");
  }

  /** SVG; empty when there are no rows. */
  String draw() {
    Map<String, List<Row>> folded = new LinkedHashMap<>();
    for (Row row : rows) {
      StringBuilder pattern = new StringBuilder();
      row.marks.forEach(mark -> pattern.append(mark.text).append('|'));
      folded.computeIfAbsent(pattern.toString(), k -> new ArrayList<>()).add(row);
    }
    if (folded.isEmpty()) {
      return "";
    }
    List<String> patterns = new ArrayList<>(folded.keySet());
    patterns.sort(Comparator.<String>naturalOrder().reversed());
    List<List<Row>> shown = new ArrayList<>();
    patterns.stream().limit(MOST).forEach(p -> shown.add(folded.getOrDefault(p, List.of())));
    return draw(shown, patterns.size() - shown.size());
  }

  private String draw(List<List<Row>> shown, int leftOut) {
    List<String> names = shown.stream().map(Grid::names).toList();
    double left = Svg.width(names, 330) + 54;
    double head = Svg.width(columns, LONGEST) * 0.78 + 20;
    double lean = Svg.width(columns, LONGEST) * 0.65 + 10;
    double legend = 0;
    for (int i = 0; i < signs.size(); i += LEGEND) {
      int to = Math.min(i + LEGEND, signs.size());
      legend = Math.max(legend, Svg.legendWidth(signs.subList(i, to), words.subList(i, to)));
    }
    double end = head + shown.size() * HEIGHT;
    int lines = (signs.size() + LEGEND - 1) / LEGEND;
    Svg out =
        new Svg(
            title, Math.max(left + columns.size() * width + lean, legend), end + 22 + 18 * lines);
    for (int c = 0; c < columns.size(); c++) {
      out.climbing(left + c * width + width / 2, head - 8, Svg.fit(columns.get(c), LONGEST));
    }
    for (int r = 0; r < shown.size(); r++) {
      row(out, shown.get(r), names.get(r), left, head + r * HEIGHT, r % 2 == 0);
    }
    if (leftOut > 0) {
      out.text("left quiet", 34, end + 14, leftOut + " more rows are not drawn");
    }
    for (int i = 0; i < signs.size(); i += LEGEND) {
      int to = Math.min(i + LEGEND, signs.size());
      double y = end + 34 + 18.0 * i / LEGEND;
      out.legend(0, y, signs.subList(i, to), words.subList(i, to));
    }
    return out.end();
  }

  private void row(Svg out, List<Row> alike, String name, double left, double y, boolean band) {
    if (band) {
      out.rect("band", 0, y, left + columns.size() * width, HEIGHT, 0);
    }
    out.open(String.join(", ", alike.stream().map(Row::name).toList()));
    out.text("right quiet", 26, y + 17, alike.size() == 1 ? "" : alike.size() + " ×");
    out.text("left", 34, y + 17, Svg.fit(name, left - 40));
    out.close();
    List<Mark> marks = alike.get(0).marks;
    for (int c = 0; c < marks.size(); c++) {
      Mark mark = marks.get(c);
      if (!mark.text.isEmpty()) {
        out.open(mark.hint);
        out.text(mark.style, left + c * width + width / 2, y + 17, mark.text);
        out.close();
      }
    }
  }

  private static String names(List<Row> alike) {
    List<String> names = alike.stream().limit(NAMED).map(Row::name).toList();
    return String.join(", ", names)
        + (alike.size() > NAMED ? " and " + (alike.size() - NAMED) + " more" : "");
  }
}
