package org.sobercompass.report.data;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.sobercompass.core.problem.Plain;

/**
 * A sheet as text for a terminal: the heading, what it was computed with, a table that fits the
 * width, the notes. Columns with the longest texts give way first, and none becomes narrower than
 * its longest word while there is room; where there is none, each row stands as a block, a line for
 * each column.
 */
final class TablePrinter {
  private static final String BOLD = "\u001b[1m";
  private static final String DIM = "\u001b[2m";
  private static final String PLAIN = "\u001b[0m";
  private static final int NARROWEST = 8;

  /** A column is kept as wide as its longest word, up to this. */
  private static final int LONGEST_WORD = 28;

  /** The most characters of a cell, and of any other text, that are shown. */
  private static final int MOST = 4000;

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
    this.width = Math.max(width, 20);
    this.colour = colour;
  }

  String text() {
    for (String line : wrap(shown(sheet.heading()), width)) {
      out.append(style(BOLD, line)).append('\n');
    }
    if (!sheet.facts().isEmpty()) {
      List<String> facts = new ArrayList<>();
      sheet.facts().forEach((name, value) -> facts.add(name + " " + Safe.flat(value)));
      for (String line : wrap(shown(String.join(" · ", facts)), width)) {
        out.append(style(DIM, line)).append('\n');
      }
    }
    if (!sheet.rows().isEmpty()) {
      out.append('\n');
      table();
    }
    boolean first = true;
    for (String note : sheet.notes()) {
      out.append(first ? "\n" : "");
      first = false;
      wrap(shown(note), width).forEach(line -> out.append(line).append('\n'));
    }
    return out.toString();
  }

  /** Without what a terminal would act on, and cut where it is longer than anybody reads. */
  private static String shown(String text) {
    if (text.length() <= MOST) {
      return Plain.text(text);
    }
    int end = Character.isHighSurrogate(text.charAt(MOST - 1)) ? MOST - 1 : MOST;
    return Plain.text(text.substring(0, end)) + " … (" + text.length() + " characters)";
  }

  private void table() {
    List<List<String>> cells = new ArrayList<>();
    for (List<Object> row : sheet.rows()) {
      cells.add(row.stream().map(value -> shown(Safe.flat(value))).toList());
    }
    int[] shown =
        IntStream.range(0, sheet.columns().size())
            .filter(c -> cells.stream().anyMatch(row -> !row.get(c).isEmpty()))
            .toArray();
    List<String> names = pick(sheet.columns(), shown);
    List<List<String>> rows = cells.stream().map(row -> pick(row, shown)).toList();
    int[] widths = widths(names, rows);
    if (sum(widths) > width) {
      rows.forEach(row -> block(names, row));
      return;
    }
    line(names, widths, true);
    rows.forEach(row -> line(row, widths, false));
  }

  /** Columns in which nothing stands are left out. */
  private static List<String> pick(List<String> row, int[] columns) {
    return Arrays.stream(columns).mapToObj(row::get).toList();
  }

  private static int sum(int[] widths) {
    return Arrays.stream(widths).sum() + 2 * (widths.length - 1);
  }

  /**
   * The natural widths; while they do not fit, the widest column gives way, down to its longest
   * word; then, if they still do not fit, down to the narrowest.
   */
  private int[] widths(List<String> names, List<List<String>> cells) {
    int columns = names.size();
    int[] widths = new int[columns];
    int[] words = new int[columns];
    for (int c = 0; c < columns; c++) {
      widths[c] = Cells.width(names.get(c));
      words[c] = widths[c];
      for (List<String> row : cells) {
        widths[c] = Math.max(widths[c], Cells.width(row.get(c)));
        words[c] = Math.max(words[c], longestWord(row.get(c)));
      }
      words[c] = Math.min(words[c], LONGEST_WORD);
    }
    shrink(widths, words);
    int[] narrowest = new int[columns];
    Arrays.fill(narrowest, NARROWEST);
    shrink(widths, narrowest);
    return widths;
  }

  private void shrink(int[] widths, int[] least) {
    int excess = sum(widths) - width;
    while (excess > 0) {
      int widest = -1;
      for (int c = 0; c < widths.length; c++) {
        boolean gives = widths[c] > least[c];
        widest = gives && (widest < 0 || widths[c] > widths[widest]) ? c : widest;
      }
      if (widest < 0) {
        return;
      }
      // By as much as the next widest allows, so that a text of millions is not taken one by one.
      int next = least[widest];
      for (int c = 0; c < widths.length; c++) {
        boolean alike = c != widest && widths[c] == widths[widest] && widths[c] > least[c];
        next = c != widest && widths[c] < widths[widest] ? Math.max(next, widths[c]) : next;
        next = alike ? widths[widest] - 1 : next;
      }
      int by = Math.max(1, Math.min(excess, widths[widest] - next));
      widths[widest] -= by;
      excess -= by;
    }
  }

  private static int longestWord(String text) {
    int longest = 0;
    for (String word : text.split(" ", -1)) {
      for (String part : word.split("(?<=[:/,)])")) {
        longest = Math.max(longest, Cells.width(part));
      }
    }
    return longest;
  }

  /** A row as a block, for a terminal too narrow for a table. */
  private void block(List<String> names, List<String> row) {
    for (int c = 0; c < names.size(); c++) {
      if (!row.get(c).isEmpty()) {
        List<String> lines = wrap(names.get(c) + ": " + row.get(c), width - 2);
        for (int i = 0; i < lines.size(); i++) {
          out.append(c == 0 && i == 0 ? "" : "  ").append(lines.get(i)).append('\n');
        }
      }
    }
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
        String pad = " ".repeat(Math.max(0, widths[c] - Cells.width(cell)));
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

  /** Breaks at spaces; a word longer than the width is broken inside. O(characters). */
  static List<String> wrap(String text, int width) {
    List<String> lines = new ArrayList<>();
    StringBuilder line = new StringBuilder();
    int used = 0;
    for (String word : text.split(" ", -1)) {
      int length = Cells.width(word);
      if (used > 0 && used + 1 + length > width) {
        lines.add(line.toString());
        line.setLength(0);
        used = 0;
      }
      int from = 0;
      while (length > width) {
        int cut = breakAt(word, from, width);
        lines.add(word.substring(from, cut));
        from = cut;
        length = Cells.width(word.substring(from));
      }
      line.append(used == 0 ? "" : " ").append(word, from, word.length());
      used += length + (used == 0 ? 0 : 1);
    }
    lines.add(line.toString());
    return lines;
  }

  /** Where to break a long word: after a separator, or before a dot, if one is not too far left. */
  private static int breakAt(String word, int from, int room) {
    int most = Cells.fits(word, from, room);
    for (int i = most; i > from + (most - from) / 2; i--) {
      boolean dot = i < word.length() && (word.charAt(i) == '.' || word.charAt(i) == '@');
      if (dot || ":/,)-_".indexOf(word.charAt(i - 1)) >= 0) {
        return i;
      }
    }
    return most;
  }
}
