package org.sobercompass.report.data;

import java.io.IOException;
import java.io.OutputStream;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.sobercompass.core.problem.Plain;

/**
 * Writes answers as a workbook for spreadsheets (ECMA-376): one sheet a table, with a header that
 * stays and can be filtered by, numbers as numbers and days as days; and a sheet that says what
 * they are. Text is text: nothing in it is worked out as a formula.
 */
public final class WorkbookWriter {
  /** What a sheet holds at most, its header among it. */
  private static final Pattern DAY = Pattern.compile("[0-9]{4}-[0-9]{2}-[0-9]{2}");

  private static final int DAY_LENGTH = 10;
  private static final int MOST_ROWS = 1 << 20;

  /** What a cell holds at most. */
  private static final int MOST_TEXT = 32_767;

  private static final int WIDEST = 60;
  private static final int LONGEST_NAME = 31;

  private final Workbook workbook;
  private final Map<String, List<String>> choices;
  private final Set<String> names = new HashSet<>();

  private WorkbookWriter(Workbook workbook, Map<String, List<String>> choices) {
    this.workbook = workbook;
    this.choices = Map.copyOf(choices);
  }

  /**
   * Writes tables.
   *
   * @param out where to; stays open
   */
  public static void write(List<AnswerTable> tables, OutputStream out) throws IOException {
    write(tables, Map.of(), out);
  }

  /**
   * The same with columns to fill in.
   *
   * @param choices what may be put into a column, by its name
   */
  public static void write(
      List<AnswerTable> tables, Map<String, List<String>> choices, OutputStream out)
      throws IOException {
    try (Workbook workbook = new Workbook(out, "Sober Compass", "0.1")) {
      WorkbookWriter writer = new WorkbookWriter(workbook, choices);
      writer.about(tables);
      tables.stream().filter(table -> !table.rows().isEmpty()).forEach(writer::table);
    }
  }

  /** What the tables say, what they were computed with, and what else must be said. */
  private void about(List<AnswerTable> tables) {
    Worksheet sheet = workbook.newWorksheet(name("about"));
    sheet.width(0, WIDEST * 2.0);
    int row = 0;
    for (AnswerTable table : tables) {
      if (!table.heading().isEmpty()) {
        text(sheet, row, 0, table.heading());
        sheet.style(row++, 0).bold().wrapText(true).set();
      }
      for (Map.Entry<String, Object> fact : table.facts().entrySet()) {
        text(sheet, row++, 0, fact.getKey() + ": " + Safe.flat(fact.getValue()));
      }
      for (String note : table.notes()) {
        text(sheet, row, 0, note);
        sheet.style(row++, 0).wrapText(true).set();
      }
    }
  }

  private void table(AnswerTable table) {
    int most = MOST_ROWS - 1;
    for (int from = 0; from < table.rows().size(); from += most) {
      rows(table, table.rows().subList(from, Math.min(from + most, table.rows().size())));
    }
  }

  private void rows(AnswerTable table, List<List<Object>> rows) {
    Worksheet sheet = workbook.newWorksheet(name(table.schema().replaceFirst("/.*", "")));
    int columns = table.columns().size();
    int[] widths = new int[columns];
    for (int c = 0; c < columns; c++) {
      text(sheet, 0, c, table.columns().get(c));
      sheet.style(0, c).bold().fillColor("E8E8E8").set();
      widths[c] = table.columns().get(c).length() + 4;
    }
    for (int r = 0; r < rows.size(); r++) {
      for (int c = 0; c < columns; c++) {
        String shown = cell(sheet, r + 1, c, rows.get(r).get(c));
        widths[c] = Math.max(widths[c], Math.min(WIDEST, shown.length() + 2));
      }
    }
    for (int c = 0; c < columns; c++) {
      sheet.width(c, widths[c]);
      List<String> some = choices.getOrDefault(table.columns().get(c), List.of());
      if (!some.isEmpty()) {
        sheet
            .range(1, c, rows.size(), c)
            .validateWithListByFormula("\"" + String.join(",", some) + "\"");
      }
    }
    sheet.freezePane(0, 1);
    sheet.setAutoFilter(0, 0, rows.size(), columns - 1);
  }

  /** Puts a value, and tells how it reads. */
  private static String cell(Worksheet sheet, int row, int column, Object value) {
    if (value instanceof Number number) {
      sheet.value(row, column, number);
      return number.toString();
    }
    String text = Safe.flat(value);
    if (text.length() == DAY_LENGTH && DAY.matcher(text).matches()) {
      try {
        sheet.value(row, column, LocalDate.parse(text));
        sheet.style(row, column).format("yyyy-mm-dd").set();
        return text;
      } catch (DateTimeParseException e) {
        // It only looks like a day.
      }
    }
    text(sheet, row, column, text);
    return text;
  }

  private static void text(Worksheet sheet, int row, int column, String text) {
    String plain = Plain.text(text);
    sheet.value(
        row, column, plain.length() <= MOST_TEXT ? plain : plain.substring(0, MOST_TEXT - 1) + "…");
  }

  /** A name that no other sheet has. */
  private String name(String wanted) {
    String name = wanted.substring(0, Math.min(wanted.length(), LONGEST_NAME));
    for (int number = 2; !names.add(name); number++) {
      String end = " " + number;
      name = wanted.substring(0, Math.min(wanted.length(), LONGEST_NAME - end.length())) + end;
    }
    return name;
  }
}
