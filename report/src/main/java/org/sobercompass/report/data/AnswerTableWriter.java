package org.sobercompass.report.data;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.util.List;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.util.DefaultPrettyPrinter;

/** Writes a sheet in one of the formats. */
public final class AnswerTableWriter {
  private AnswerTableWriter() {}

  /**
   * Writes a sheet.
   *
   * @param width of the terminal, for tables
   * @param colour whether a table may use colour
   */
  public static void write(
      AnswerTable sheet, Format format, int width, boolean colour, Writer out) {
    try {
      switch (format) {
        case table -> out.write(new TablePrinter(sheet, width, colour).text());
        case csv -> rows(sheet, RowWriter.csv(out, sheet.columns()));
        case jsonl -> rows(sheet, RowWriter.jsonl(out, sheet.columns()));
        case json -> json(sheet, out);
      }
      out.flush();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static void rows(AnswerTable sheet, RowWriter writer) {
    try (writer) {
      sheet.rows().forEach(row -> writer.row(row.toArray()));
    }
  }

  private static void json(AnswerTable sheet, Writer out) throws IOException {
    ObjectWriteContext pretty =
        new ObjectWriteContext.Base() {
          @Override
          public tools.jackson.core.PrettyPrinter getPrettyPrinter() {
            return new DefaultPrettyPrinter();
          }
        };
    try (JsonGenerator json = Json.factory().build().createGenerator(pretty, out)) {
      json.writeStartObject();
      json.writeStringProperty("schema", "sober-compass/" + sheet.schema());
      json.writeStringProperty("heading", sheet.heading());
      json.writeName("facts");
      Json.value(json, sheet.facts());
      json.writeName("notes");
      Json.value(json, sheet.notes());
      json.writeName("rows");
      json.writeStartArray();
      for (List<Object> row : sheet.rows()) {
        Json.object(json, sheet.columns(), row.toArray());
      }
      json.writeEndArray();
      json.writeEndObject();
    }
    out.write('\n');
  }
}
