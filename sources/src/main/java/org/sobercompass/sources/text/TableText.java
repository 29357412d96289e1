package org.sobercompass.sources.text;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;

/**
 * A CSV file (RFC 4180) to which rows are added and from which rows are taken. All else stays byte
 * for byte: order, quoting, line ends, a byte order mark, columns that we do not know, a last line
 * without an end. A new row is written in the style of the line of names. Not thread-safe.
 */
public final class TableText extends EditedFile {
  private final Set<String> told = new HashSet<>();
  private final List<Row> rows = new ArrayList<>();
  private final List<String> columns = new ArrayList<>();
  private final String lineEnd;
  private final boolean endsWithLine;
  private final boolean quotesAll;
  private final char separator;

  /** A row as it stands, its end included. */
  private record Row(int line, String text) {}

  /**
   * Reads a file.
   *
   * @param name how the user names it
   * @throws org.sobercompass.core.problem.OutsideException when it cannot be read, or is not UTF-8
   */
  public TableText(Path file, String name) {
    super(file, name);
    String text = read();
    split(text);
    String head = rows.isEmpty() ? "" : rows.get(0).text.replace(MARK, "");
    String bare = head.replaceAll("[\r\n]+$", "");
    this.lineEnd = bare.length() == head.length() ? "\n" : head.substring(bare.length());
    this.endsWithLine = text.endsWith("\n") || text.endsWith("\r");
    this.separator = CsvReader.separator(bare);
    this.quotesAll = bare.startsWith("\"");
    CsvReader.values(bare, separator).forEach(column -> columns.add(CsvReader.column(column)));
  }

  /** Rows end outside quotes. */
  private void split(String text) {
    boolean quoted = false;
    int from = 0;
    int line = 1;
    int first = 1;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      quoted ^= c == '"';
      boolean end = c == '\n' || (c == '\r' && !text.startsWith("\n", i + 1));
      line += end ? 1 : 0;
      if (end && !quoted) {
        rows.add(new Row(first, text.substring(from, i + 1)));
        from = i + 1;
        first = line;
      }
    }
    if (from < text.length()) {
      rows.add(new Row(first, text.substring(from)));
    }
  }

  /**
   * Adds a row at the end.
   *
   * @param values by column; what is empty needs no column
   * @param problems told when a value has no column
   */
  public void append(Map<String, String> values, Problems problems) {
    Map<String, String> left = new HashMap<>(values);
    List<String> row = new ArrayList<>();
    for (String column : columns) {
      String value = left.remove(column);
      row.add(quote(value == null ? "" : value));
    }
    left.values().removeIf(String::isEmpty);
    if (!left.isEmpty()) {
      missing(String.join(", ", left.keySet().stream().sorted().toList()), problems);
      return;
    }
    String text = String.join(String.valueOf(separator), row);
    int last = rows.size() - 1;
    if (endsWithLine || rows.get(last).text.endsWith("\n")) {
      rows.add(new Row(0, text + lineEnd));
    } else {
      rows.set(last, new Row(rows.get(last).line, rows.get(last).text + lineEnd));
      rows.add(new Row(0, text));
    }
  }

  private String quote(String value) {
    boolean needs =
        quotesAll
            || value.indexOf(separator) >= 0
            || value.indexOf('"') >= 0
            || value.indexOf('\n') >= 0
            || value.indexOf('\r') >= 0
            || !value.equals(value.strip());
    return needs ? '"' + value.replace("\"", "\"\"") + '"' : value;
  }

  /**
   * Takes out the row that begins at a line, if it still says what is expected there.
   *
   * @param expected values by column
   * @return whether it was there
   */
  public boolean remove(int line, Map<String, String> expected) {
    int row = row(line, expected);
    if (row >= 0) {
      rows.remove(row);
    }
    return row >= 0;
  }

  /** The number of the row that begins at a line and says what is expected; else -1. */
  private int row(int line, Map<String, String> expected) {
    for (int i = 1; i < rows.size(); i++) {
      if (rows.get(i).line == line) {
        List<String> values = CsvReader.values(rows.get(i).text, separator);
        boolean same =
            expected.entrySet().stream()
                .allMatch(
                    e -> {
                      int at = columns.indexOf(e.getKey());
                      String value = at < 0 || at >= values.size() ? "" : values.get(at);
                      return value.equals(e.getValue());
                    });
        return same ? i : -1;
      }
    }
    return -1;
  }

  /**
   * Changes values of the row that begins at a line, if it still says what is expected there. Its
   * other values stay byte for byte.
   *
   * @param expected values by column
   * @param values the new ones by column; what is empty needs no column
   * @param problems told when a value has no column
   * @return whether it was there
   */
  public boolean change(
      int line, Map<String, String> expected, Map<String, String> values, Problems problems) {
    int number = row(line, expected);
    if (number < 0) {
      return false;
    }
    String text = rows.get(number).text;
    String bare = text.replaceAll("[\r\n]+$", "");
    List<String> cells = cells(bare);
    for (Map.Entry<String, String> value : values.entrySet()) {
      int at = columns.indexOf(value.getKey());
      if (at < 0 && !value.getValue().isEmpty()) {
        missing(value.getKey(), problems);
      } else if (at >= 0) {
        while (cells.size() <= at) {
          cells.add("");
        }
        boolean same = CsvReader.values(cells.get(at), separator).equals(List.of(value.getValue()));
        cells.set(at, same ? cells.get(at) : quote(value.getValue()));
      }
    }
    String changed = String.join(String.valueOf(separator), cells);
    rows.set(number, new Row(line, changed + text.substring(bare.length())));
    return true;
  }

  /** The values of a row as they stand, quotes included. */
  private List<String> cells(String row) {
    List<String> cells = new ArrayList<>();
    boolean quoted = false;
    int from = 0;
    for (int i = 0; i < row.length(); i++) {
      quoted ^= row.charAt(i) == '"';
      if (row.charAt(i) == separator && !quoted) {
        cells.add(row.substring(from, i));
        from = i + 1;
      }
    }
    cells.add(row.substring(from));
    return cells;
  }

  /** Tells that there is no column; of many rows that need the same one, once. */
  private void missing(String column, Problems problems) {
    if (told.add(column)) {
      problems.error(
          Place.of(name(), 1),
          "there is no column for " + column,
          "these columns in the line of names, to write what was asked for");
    }
  }

  @Override
  public String text() {
    String text = rows.stream().map(row -> row.text).collect(Collectors.joining());
    // A last line without an end stays one, also when the row that was the last is taken out.
    return !endsWithLine && text.endsWith(lineEnd)
        ? text.substring(0, text.length() - lineEnd.length())
        : text;
  }

  /** Whether there is a column of this name, in lower case. */
  public boolean has(String column) {
    return columns.contains(column);
  }
}
