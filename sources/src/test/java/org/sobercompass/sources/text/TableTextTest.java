package org.sobercompass.sources.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Problems;

/** Rows are put in and taken out; all else stays byte for byte. */
class TableTextTest {
  private static final String[] VALUES = {
    "a", "", "x y", "\"q, r\"", "\"two\nlines\"", "\"say \"\"no\"\"\"", "ö", " b "
  };

  @TempDir Path folder;

  private TableText table(String text) throws IOException {
    Files.writeString(folder.resolve("a.csv"), text);
    return new TableText(folder.resolve("a.csv"), "a.csv");
  }

  /** A table with a byte order mark or not, quotes, line ends, columns that nobody knows. */
  private static String random(Random random, String end, String sep) {
    boolean quoted = random.nextInt(4) == 0;
    List<String> names = new ArrayList<>(List.of("role", "Subject", "our own", "granted by"));
    Collections.shuffle(names, random);
    List<String> rows = new ArrayList<>();
    rows.add(String.join(sep, names.stream().map(n -> quoted ? '"' + n + '"' : n).toList()));
    for (int i = random.nextInt(6); i >= 0; i--) {
      List<String> row = new ArrayList<>(List.of("k" + i));
      for (int c = 1; c < 4; c++) {
        String value = VALUES[random.nextInt(VALUES.length)];
        row.add(value.replace(",", sep).replace("\n", end));
      }
      rows.add(String.join(sep, row));
    }
    String mark = random.nextInt(3) == 0 ? "\uFEFF" : "";
    return mark + String.join(end, rows) + (random.nextBoolean() ? end : "");
  }

  @Test
  void whatIsNotConcernedStaysByteForByte() throws IOException {
    for (int seed = 0; seed < 500; seed++) {
      Random random = new Random(seed);
      String end = List.of("\n", "\r\n").get(random.nextInt(2));
      String text = random(random, end, List.of(",", ";").get(random.nextInt(2)));
      TableText table = table(text);
      assertThat(table.text()).isEqualTo(text);
      Map<String, String> added = Map.of("role", "r;1, \"x\"", "subject", "s", "until", "");
      Problems problems = new Problems();
      table.append(added, problems);
      assertThat(problems.list()).isEmpty();
      String more = table.text();
      assertThat(more).as("seed " + seed).startsWith(text).hasSizeGreaterThan(text.length());
      assertThat(more.endsWith(end)).isEqualTo(text.endsWith(end));
      String before = text.endsWith(end) ? text : text + end;
      TableText again = table(more);
      int line = (int) before.chars().filter(c -> c == '\n').count() + 1;
      assertThat(lastLine(folder.resolve("a.csv"))).as("as the reader counts").isEqualTo(line);
      assertThat(again.remove(line, Map.of("role", "r;1, \"x\"", "subject", "s"))).isTrue();
      assertThat(again.text()).as("seed " + seed).isEqualTo(text);
    }
  }

  /** Where the reader says that the last row begins. */
  private static int lastLine(Path file) {
    List<Integer> lines = new ArrayList<>(List.of(0));
    List<String> columns = List.of("role", "subject", "our own", "granted by");
    new CsvReader("a.csv", columns, List.of("role"), new Problems())
        .read(file, row -> lines.set(0, row.place().line()));
    return lines.get(0);
  }

  @Test
  void aRowThatSaysSomethingElseNowIsNotTakenOut() throws IOException {
    TableText table = table("role,subject\na,b\nc,d\n");
    assertThat(table.remove(2, Map.of("role", "c"))).isFalse();
    assertThat(table.remove(9, Map.of("role", "c"))).isFalse();
    assertThat(table.remove(3, Map.of("role", "c", "subject", "d", "until", ""))).isTrue();
    assertThat(table.text()).isEqualTo("role,subject\na,b\n");
  }

  @Test
  void aValueWithoutAColumnIsTold() throws IOException {
    Problems problems = new Problems();
    table("role,subject\n").append(Map.of("role", "a", "until", "2027-01-01"), problems);
    assertThat(problems.list().toString()).contains("no column for until");
  }

  @Test
  void aFileThatSomebodyElseChangedIsNotOverwritten() throws IOException {
    TableText table = table("role,subject\na,b\n");
    table.append(Map.of("role", "c", "subject", "d"), new Problems());
    Files.writeString(folder.resolve("a.csv"), "role,subject\na,b\nx,y\n");
    assertThatThrownBy(table::write)
        .isInstanceOf(OutsideException.class)
        .hasMessageContaining("changed by somebody else");
    assertThat(folder.resolve("a.csv")).hasContent("role,subject\na,b\nx,y\n");
  }
}
