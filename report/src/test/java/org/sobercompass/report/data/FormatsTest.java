package org.sobercompass.report.data;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.StringWriter;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Every format says the same, and makes text from outside harmless. */
class FormatsTest {
  private static String write(AnswerTable sheet, Format format, int width, boolean colour) {
    StringWriter out = new StringWriter();
    AnswerTableWriter.write(sheet, format, width, colour, out);
    return out.toString();
  }

  private static AnswerTable sheet(Object... values) {
    return AnswerTable.of("test/1", "name", "count", "yes", "list")
        .heading("One line.")
        .fact("as of", "now")
        .row(values)
        .build();
  }

  @Test
  void aRowInEachFormat() {
    AnswerTable sheet = sheet("Åse \"A\"", 3, true, List.of("a", "b"));
    assertThat(write(sheet, Format.jsonl, 80, false))
        .isEqualTo(
            "{\"name\":\"Åse \\\"A\\\"\",\"count\":3,\"yes\":true,\"list\":[\"a\",\"b\"]}\n");
    assertThat(write(sheet, Format.csv, 80, false))
        .isEqualTo("name,count,yes,list\r\n\"Åse \"\"A\"\"\",3,yes,\"a; b\"\r\n");
    assertThat(write(sheet, Format.json, 80, false))
        .contains("\"schema\" : \"sober-compass/test/1\"")
        .contains("\"count\" : 3");
    assertThat(write(sheet, Format.table, 80, false)).startsWith("One line.\nas of now\n\nname");
  }

  @ParameterizedTest
  @ValueSource(strings = {"=1+1", "+1", "-1", "@x", "\tx"})
  void aCellThatStartsLikeAFormulaIsText(String cell) {
    assertThat(write(sheet(cell, 1, false, List.of()), Format.csv, 80, false))
        .contains("'" + cell.replace('\t', '\uFFFD'));
  }

  @ParameterizedTest
  @ValueSource(strings = {"a\u001b[2Jb", "a\rb", "a\u202Eb", "a\nb", "a\u0007b"})
  void aTerminalGetsNoControlCharacters(String hostile) {
    String text = write(sheet(hostile, 1, false, List.of()), Format.table, 80, false);
    assertThat(text)
        .contains("a\uFFFD")
        .doesNotContain("\u001b")
        .doesNotContain("\r")
        .doesNotContain("\u202E")
        .doesNotContain("\u0007");
  }

  @ParameterizedTest
  @CsvSource({"40", "60", "100"})
  void aTableFitsTheWidth(int width) {
    AnswerTable sheet =
        sheet(
            "a rather long name that goes on and on until it must wrap somewhere",
            12,
            true,
            List.of("aVeryLongWordWithoutAnySpaceThatMustBeBrokenInside/orAfterASeparator", "b"));
    assertThat(write(sheet, Format.table, width, false).lines())
        .allMatch(line -> line.codePointCount(0, line.length()) <= width);
  }

  @Test
  void colourComesWithASignAndOnlyWhenAsked() {
    AnswerTable sheet =
        AnswerTable.of("t/1", "state").heading("H").row("+ usable").row("x blocked").build();
    assertThat(write(sheet, Format.table, 80, true))
        .contains("\u001b[")
        .contains("+ usable")
        .contains("x blocked");
    assertThat(write(sheet, Format.table, 80, false)).doesNotContain("\u001b[");
  }

  @Test
  void columnsInWhichNothingStandsAreLeftOutOfTablesOnly() {
    AnswerTable sheet = AnswerTable.of("t/1", "a", "empty").heading("H").row("x", "").build();
    assertThat(write(sheet, Format.table, 80, false)).doesNotContain("empty");
    assertThat(write(sheet, Format.csv, 80, false)).contains("empty");
  }

  @ParameterizedTest
  @EnumSource(Format.class)
  void noRowsIsNoFault(Format format) {
    AnswerTable sheet = AnswerTable.of("t/1", "a").heading("Nothing.").note("why").build();
    assertThat(write(sheet, format, 80, false)).isNotNull();
    assertThat(write(sheet, Format.table, 80, false)).isEqualTo("Nothing.\n\nwhy\n");
  }

  @Test
  void wrappingBreaksAtSpacesAndInsideWordsThatAreTooLong() {
    assertThat(TablePrinter.wrap("one two three", 7)).containsExactly("one two", "three");
    assertThat(TablePrinter.wrap("abcdefghij", 4)).containsExactly("abcd", "efgh", "ij");
    assertThat(TablePrinter.wrap("", 5)).containsExactly("");
  }
}
