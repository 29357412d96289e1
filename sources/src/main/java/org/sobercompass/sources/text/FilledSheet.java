package org.sobercompass.sources.text;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.dhatim.fastexcel.reader.ExcelReaderException;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;

/**
 * Reads a sheet that somebody filled in: CSV, or a workbook (ECMA-376) of which the sheet with the
 * columns is taken. Columns may stand in any order, further ones are left alone. Not thread-safe.
 */
public final class FilledSheet {
  /** A workbook may not grow larger than this when it is unpacked. */
  private static final long LARGEST = 256L << 20;

  private static final int MOST_ROWS = 500_000;

  private final String name;
  private final List<String> known;
  private final List<String> needed;
  private final Set<String> days;
  private final Problems problems;

  /** A row with values by the names of columns, in lower case. */
  public record Row(Map<String, String> values, Place place) {
    /** The value of a column without spaces around it; empty when it is not there. */
    public String get(String column) {
      return values.getOrDefault(column, "").strip();
    }
  }

  /**
   * A reader.
   *
   * @param name how the user names the file
   * @param known the columns there may be, in lower case
   * @param needed those there must be
   * @param days those whose numbers are days, as spreadsheets keep them
   */
  public FilledSheet(
      String name, List<String> known, List<String> needed, Set<String> days, Problems problems) {
    this.name = name;
    this.known = known;
    this.needed = needed;
    this.days = days;
    this.problems = problems;
  }

  /** The rows of a file. */
  public List<Row> read(Path file) {
    List<Row> rows = new ArrayList<>();
    if (name.toLowerCase(Locale.ROOT).endsWith(".xlsx")) {
      workbook(file, rows);
    } else {
      new CsvReader(name, known, needed, problems)
          .read(
              file,
              row -> {
                Map<String, String> values = new HashMap<>();
                known.forEach(column -> values.put(column, unguarded(row.get(column))));
                rows.add(new Row(values, row.place()));
              });
    }
    return rows;
  }

  /** What a spreadsheet would take for a formula was written with an apostrophe before it. */
  private static String unguarded(String value) {
    boolean guarded = value.length() > 1 && value.startsWith("'") && isFormula(value.charAt(1));
    return guarded ? value.substring(1) : value;
  }

  private static boolean isFormula(char c) {
    return "=+-@\t\r".indexOf(c) >= 0;
  }

  private void workbook(Path file, List<Row> rows) {
    try {
      if (!isSmall(file)) {
        problems.error(
            Place.of(name),
            "the workbook is too large when unpacked",
            "a table of people and what they decided");
        return;
      }
      try (InputStream in = Files.newInputStream(file);
          ReadableWorkbook workbook = new ReadableWorkbook(in)) {
        boolean found = false;
        for (var sheet : workbook.getSheets().toList()) {
          found |= sheet(sheet, rows);
        }
        if (!found) {
          problems.error(
              Place.of(name),
              "no sheet of the workbook has the columns that are looked for",
              "a sheet with " + String.join(", ", needed));
        }
      }
    } catch (IOException | ExcelReaderException | IllegalArgumentException e) {
      problems.error(Place.of(name), "it cannot be read as a workbook", "an .xlsx file");
    }
  }

  private static boolean isSmall(Path file) throws IOException {
    try (ZipFile zip = new ZipFile(file.toFile())) {
      return zip.stream().mapToLong(ZipEntry::getSize).sum() <= LARGEST;
    }
  }

  private boolean sheet(org.dhatim.fastexcel.reader.Sheet sheet, List<Row> into)
      throws IOException {
    Map<Integer, String> columns = new HashMap<>();
    try (Stream<org.dhatim.fastexcel.reader.Row> rows = sheet.openStream()) {
      for (var row : (Iterable<org.dhatim.fastexcel.reader.Row>) rows::iterator) {
        if (columns.isEmpty()) {
          header(row, columns);
        } else if (into.size() < MOST_ROWS) {
          Map<String, String> values = new HashMap<>();
          columns.forEach((at, column) -> values.put(column, text(row, at, days.contains(column))));
          if (values.values().stream().anyMatch(value -> !value.isBlank())) {
            into.add(new Row(values, Place.of(name, row.getRowNum())));
          }
        }
      }
    }
    return !columns.isEmpty();
  }

  private void header(org.dhatim.fastexcel.reader.Row row, Map<Integer, String> columns) {
    Map<Integer, String> met = new HashMap<>();
    for (int at = 0; at < row.getCellCount(); at++) {
      String column = text(row, at, false).strip().toLowerCase(Locale.ROOT);
      if (known.contains(column)) {
        met.put(at, column);
      }
    }
    if (met.values().containsAll(needed)) {
      columns.putAll(met);
    }
  }

  /**
   * A cell as text.
   *
   * @param day whether a number is a day, as spreadsheets keep them
   */
  private static String text(org.dhatim.fastexcel.reader.Row row, int at, boolean day) {
    Optional<Cell> cell = at < row.getCellCount() ? row.getOptionalCell(at) : Optional.empty();
    return cell.map(
            one -> {
              return day && one.getType() == CellType.NUMBER
                  ? one.asDate().toLocalDate().toString()
                  : one.getType() == CellType.STRING ? one.asString() : one.getText();
            })
        .orElse("");
  }

  /** A problem with a row. */
  public static Problem wrong(Row row, String what, String expected) {
    return Problem.error(row.place(), what, expected);
  }
}
