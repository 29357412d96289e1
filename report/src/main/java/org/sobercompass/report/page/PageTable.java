package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.report.data.AnswerTable;

/**
 * A table of a page: sorted, filtered and saved by whoever reads it.
 *
 * @param name what is saved under this name
 * @param words the heading of the answer, or empty where the section says it
 * @param columns their names
 * @param rows the rows
 * @param notes what must be said with it: limits, what is left out and which command gives it
 */
public record PageTable(
    String name, String words, List<String> columns, List<Row> rows, List<String> notes) {
  /** Copies. */
  public PageTable {
    columns = List.copyOf(columns);
    rows = List.copyOf(rows);
    notes = List.copyOf(notes);
  }

  /**
   * A row.
   *
   * @param id what a link in the page leads to, or empty
   */
  public record Row(String id, List<Cell> cells) {}

  /**
   * A cell.
   *
   * @param isNumber whether it is sorted and set as a number
   */
  public record Cell(List<Part> parts, boolean isNumber) {
    /** A text without a link. */
    static Cell of(String text) {
      return new Cell(List.of(new Part(text, "")), false);
    }

    /** A number. */
    static Cell of(long number) {
      return new Cell(List.of(new Part(Long.toString(number), "")), true);
    }
  }

  /**
   * A text of a cell.
   *
   * @param to the id in the page it leads to, or empty
   */
  public record Part(String text, String to) {}

  /**
   * An answer as a table.
   *
   * @param most so many rows at most
   * @param command the command that gives all of them
   * @param links where names lead to
   */
  static PageTable of(String name, AnswerTable answer, int most, String command, Links links) {
    List<Row> rows = new ArrayList<>();
    AnswerTable shown = answer;
    for (String keys : List.of("key", "account", "group")) {
      shown = isKeys(shown, keys) ? shown.without(keys) : shown;
    }
    for (List<Object> row : shown.rows().subList(0, Math.min(most, shown.rows().size()))) {
      List<Cell> cells = new ArrayList<>();
      for (int c = 0; c < row.size(); c++) {
        cells.add(links.cell(shown.columns().get(c), row.get(c)));
      }
      rows.add(new Row("", cells));
    }
    List<String> notes = new ArrayList<>();
    if (rows.size() < answer.rows().size()) {
      notes.add(
          (answer.rows().size() - rows.size())
              + " more are not in this page; "
              + command
              + " gives them all.");
    }
    return new PageTable(name, answer.heading(), shown.columns(), rows, notes);
  }

  /** The same without its heading, where the section says it. */
  PageTable unnamed() {
    return new PageTable(name, "", columns, rows, notes);
  }

  /** Whether a column holds keys, which are for programs. */
  private static boolean isKeys(AnswerTable answer, String column) {
    int at = answer.columns().indexOf(column);
    return at >= 0
        && answer.rows().stream()
            .allMatch(row -> String.valueOf(row.get(at)).matches("[a-z]+:.*/.*"));
  }
}
