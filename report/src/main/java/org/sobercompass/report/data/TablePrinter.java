package org.sobercompass.report.data;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.sobercompass.core.problem.Plain;

/**
 * A sheet as text for a terminal: the heading, what it was computed with, a table that fits the
 * width (the widest columns wrap), the notes.
 */
final class TablePrinter {
  private static final String BOLD = "\u001b[1m";
  private static final String DIM = "\u001b[2m";
  private static final String PLAIN = "\u001b[0m";
  private static final int NARROWEST = 8;
  private static final Map<String, String> COLOURS =
      Map.of(
          "+ usable",
          "\u001b[38;5;29m",
          "x blocked",
          "\u001b[38;5;166m",
          "? undecided",
          "\u001b[38;5;133m",
          "! high",
          "\u001b[38;5;160m",
          "* medium",
          "\u001b[38;5;166m");

  private final AnswerTable sheet;
  private final int width;
  private final boolean colour;
  private final StringBuilder out = new StringBuilder();

  TablePrinter(AnswerTable sheet, int width, boolean colour) {
    this.sheet = sheet;
    this.width = Math.max(width, 40);
    this.colour = colour;
  }

  String text() {
    for (String line : wrap(Plain.text(sheet.heading()), width)) {
      out.append(style(BOLD, line)).append('\n');
    }
    if (!sheet.facts().isEmpty()) {
      List<String> facts = new ArrayList<>();
      sheet.facts().forEach((name, value) -> facts.add(name + " " + Safe.flat(value)));
      for (String line : wrap(Plain.text(String.join(" · ", facts)), width)) {
        out.append(style(DIM, line)).append('\n');
      }
    }
    if (!sheet.rows().isEmpty()) {
      out.append('\n');
      table();
    }
    for (String note : sheet.notes()) {
      out.append(sheet.notes().indexOf(note) == 0 ? "\n" : "");
      wrap(Plain.text(note), width).forEach(line -> out.append(line).append('\n'));
    }
    return out.toString();
  }

  private void table() {
    List<List<String>> cells = new ArrayList<>();
    for (List<Object> row : sheet.rows()) {
      cells.add(row.stream().map(value -> Plain.text(Safe.flat(value))).toList());
    }
    int[] shown =
        IntStream.range(0, sheet.columns().size())
            .filter(c -> cells.stream().anyMatch(row -> !row.get(c).isEmpty()))
            .toArray();
    List<String> names = pick(sheet.columns(), shown);
    List<List<String>> rows = cells.stream().map(row -> pick(row, shown)).toList();
    int[] widths = widths(names, rows);
    line(names, widths, true);
    rows.forEach(row -> line(row, widths, false));
  }

  /** Columns in which nothing stands are left out. */
  private static List<String> pick(List<String> row, int[] columns) {
    return Arrays.stream(columns).mapToObj(row::get).toList();
  }

  /** The natural widths; while they do not fit, the widest column gives way. */
  private int[] widths(List<String> names, List<List<String>> cells) {
    int columns = names.size();
    int[] widths = new int[columns];
    for (int c = 0; c < columns; c++) {
      widths[c] = length(names.get(c));
      for (List<String> row : cells) {
        widths[c] = Math.max(widths[c], length(row.get(c)));
      }
    }
    int excess = Arrays.stream(widths).sum() + 2 * (columns - 1) - width;
    while (excess > 0) {
      int widest = 0;
      for (int c = 1; c < columns; c++) {
        widest = widths[c] > widths[widest] ? c : widest;
      }
      if (widths[widest] <= NARROWEST) {
        break;
      }
      widths[widest]--;
      excess--;
    }
    return widths;
  }

  private void line(List<String> row, int[] widths, boolean header) {
    List<List<String>> wrapped = new ArrayList<>();
    int height = 1;
    for (int c = 0; c < widths.length; c++) {
      List<String> lines = wrap(row.get(c), widths[c]);
      wrapped.add(lines);
      height = Math.max(height, lines.size());
    }
    for (int i = 0; i < height; i++) {
      StringBuilder line = new StringBuilder();
      for (int c = 0; c < widths.length; c++) {
        String cell = i < wrapped.get(c).size() ? wrapped.get(c).get(i) : "";
        String pad = " ".repeat(Math.max(0, widths[c] - length(cell)));
        boolean last = c == widths.length - 1;
        String shown = header ? style(DIM, cell) : style(COLOURS.getOrDefault(cell, ""), cell);
        line.append(shown).append(last ? "" : pad + "  ");
      }
      out.append(line.toString().stripTrailing()).append('\n');
    }
  }

  private String style(String code, String text) {
    return colour && !code.isEmpty() && !text.isEmpty() ? code + text + PLAIN : text;
  }

  private static int length(String text) {
    return text.codePointCount(0, text.length());
  }

  /** Breaks at spaces; a word longer than the width is broken inside. */
  static List<String> wrap(String text, int width) {
    List<String> lines = new ArrayList<>();
    StringBuilder line = new StringBuilder();
    for (String word : text.split(" ", -1)) {
      String rest = word;
      if (!line.isEmpty() && length(line.toString()) + 1 + length(rest) > width) {
        lines.add(line.toString());
        line.setLength(0);
      }
      while (length(rest) > width) {
        int cut = breakAt(rest, width - (line.isEmpty() ? 0 : length(line.toString()) + 1));
        lines.add((line.isEmpty() ? "" : line + " ") + rest.substring(0, cut));
        line.setLength(0);
        rest = rest.substring(cut);
      }
      line.append(line.isEmpty() ? "" : " ").append(rest);
    }
    lines.add(line.toString());
    return lines;
  }

  /** Where to break a long word: after a separator if there is one not too far left. */
  private static int breakAt(String word, int room) {
    int most = word.offsetByCodePoints(0, Math.max(1, room));
    for (int i = most; i > most / 2; i--) {
      if (":/,.-)".indexOf(word.charAt(i - 1)) >= 0) {
        return i;
      }
    }
    return most;
  }
}
