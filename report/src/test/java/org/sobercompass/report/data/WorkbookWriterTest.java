package org.sobercompass.report.data;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.util.List;
import java.util.zip.ZipFile;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.Row;
import org.dhatim.fastexcel.reader.Sheet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Answers as a workbook, read again by a reader of workbooks. */
class WorkbookWriterTest {
  private static final String HOSTILE = "=HYPERLINK(\"http://x.example\";\"a\")";

  @TempDir Path folder;

  private static AnswerTable.Builder sheet() {
    return AnswerTable.of("findings/1", "who", "count", "day", "all", "yes")
        .heading("2 findings.")
        .fact("as of", "2026-11-20")
        .note("One problem.");
  }

  private static byte[] written(AnswerTable... tables) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    WorkbookWriter.write(List.of(tables), out);
    return out.toByteArray();
  }

  private static List<Row> rows(byte[] workbook, String name) throws IOException {
    try (ReadableWorkbook read = new ReadableWorkbook(new ByteArrayInputStream(workbook))) {
      Sheet sheet = read.findSheet(name).orElseThrow();
      return sheet.read();
    }
  }

  private String part(byte[] workbook, String name) throws IOException {
    Path file = Files.write(folder.resolve("x.xlsx"), workbook);
    try (ZipFile zip = new ZipFile(file.toFile())) {
      return new String(
          zip.getInputStream(zip.getEntry(name)).readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  @Test
  void numbersAreNumbersDaysAreDaysAndTextIsText() throws IOException {
    byte[] workbook =
        written(
            sheet()
                .row("Ilse", 12, "2026-11-20", List.of("a", "b"), true)
                .row(HOSTILE, -3, "2026-13-40", List.of(), false)
                .build());
    List<Row> rows = rows(workbook, "findings");
    assertThat(rows).hasSize(3);
    assertThat(rows.get(0).getCellText(0)).isEqualTo("who");
    assertThat(rows.get(1).getCellAsNumber(1).orElseThrow()).isEqualByComparingTo("12");
    assertThat(rows.get(1).getCellAsDate(2)).contains(LocalDateTime.of(2026, 11, 20, 0, 0));
    assertThat(rows.get(1).getCellText(3)).isEqualTo("a; b");
    assertThat(rows.get(1).getCellText(4)).isEqualTo("yes");
    Cell hostile = rows.get(2).getCell(0);
    assertThat(hostile.getType()).isEqualTo(CellType.STRING);
    assertThat(hostile.getText()).isEqualTo(HOSTILE);
    assertThat(rows.get(2).getCell(2).getType()).isEqualTo(CellType.STRING);
    assertThat(part(workbook, "xl/worksheets/sheet2.xml")).doesNotContain("<f>");
  }

  @Test
  void theHeaderStaysAndCanBeFilteredByAndTheFirstSheetSaysWhatItIs() throws IOException {
    byte[] workbook = written(sheet().row("a", 1, "", List.of(), true).build());
    String xml = part(workbook, "xl/worksheets/sheet2.xml");
    assertThat(xml).contains("state=\"frozen\"").contains("<autoFilter ref=\"A1:E2\"");
    assertThat(rows(workbook, "about"))
        .extracting(row -> row.getCellText(0))
        .containsExactly("2 findings.", "as of: 2026-11-20", "One problem.");
  }

  @Test
  void sheetsOfOneKindHaveNamesOfTheirOwnAndEmptyOnesAreLeftOut() throws IOException {
    AnswerTable one = sheet().row("a", 1, "", List.of(), true).build();
    AnswerTable longer =
        AnswerTable.of("a-very-long-name-that-no-sheet-can-have/1", "x").row("y").build();
    byte[] workbook = written(one, sheet().build(), one, longer, longer);
    try (ReadableWorkbook read = new ReadableWorkbook(new ByteArrayInputStream(workbook))) {
      assertThat(read.getSheets().map(Sheet::getName))
          .hasSize(5)
          .contains("about", "findings", "findings 2")
          .allMatch(name -> name.length() <= 31)
          .doesNotHaveDuplicates();
    }
  }

  @Test
  void whatNoCellHoldsIsCutAndControlCharactersAreShownHarmless() throws IOException {
    byte[] workbook =
        written(
            AnswerTable.of("x/1", "text")
                .row("a".repeat(40_000))
                .row("bell \u0007 and \u202e turned")
                .build());
    List<Row> rows = rows(workbook, "x");
    assertThat(rows.get(1).getCellText(0)).hasSize(32_767).endsWith("a…");
    assertThat(rows.get(2).getCellText(0)).doesNotContain("\u0007").doesNotContain("\u202e");
  }
}
