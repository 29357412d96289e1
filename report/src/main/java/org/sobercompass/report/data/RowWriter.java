package org.sobercompass.report.data;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.util.List;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.StreamWriteFeature;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.dataformat.csv.CsvFactory;
import tools.jackson.dataformat.csv.CsvSchema;

/**
 * Writes rows one by one as JSON Lines or CSV, so that an answer of any length takes no memory. Not
 * thread-safe. Closing it does not close the writer behind it.
 */
public interface RowWriter extends AutoCloseable {
  /** Writes one row, one value for each column. */
  void row(Object... values);

  /** Writes what is left. */
  @Override
  void close();

  /** A writer of one JSON object a line. */
  static RowWriter jsonl(Writer out, List<String> columns) {
    JsonFactory factory = Json.factory().rootValueSeparator("\n").build();
    JsonGenerator generator = factory.createGenerator(ObjectWriteContext.empty(), out);
    return new RowWriter() {
      private boolean any;

      @Override
      public void row(Object... values) {
        any = true;
        Json.object(generator, columns, values);
      }

      @Override
      public void close() {
        generator.close();
        try {
          out.write(any ? "\n" : "");
        } catch (IOException e) {
          throw new UncheckedIOException(e);
        }
      }
    };
  }

  /** A value as the text that it is in CSV, where a spreadsheet opens it and does nothing else. */
  static String csvText(Object value) {
    return Safe.cell(Safe.flat(value));
  }

  /** A writer of CSV with a line of column names and CRLF ends (RFC 4180). */
  static RowWriter csv(Writer out, List<String> columns) {
    CsvSchema.Builder schema = CsvSchema.builder();
    columns.forEach(schema::addColumn);
    CsvFactory factory = CsvFactory.builder().disable(StreamWriteFeature.AUTO_CLOSE_TARGET).build();
    CsvSchema full = schema.build().withUseHeader(true).withLineSeparator("\r\n");
    JsonGenerator generator =
        factory.createGenerator(
            new ObjectWriteContext.Base() {
              @Override
              public tools.jackson.core.FormatSchema getSchema() {
                return full;
              }
            },
            out);
    generator.writeStartArray();
    return new RowWriter() {
      @Override
      public void row(Object... values) {
        generator.writeStartObject();
        for (int i = 0; i < values.length; i++) {
          generator.writeStringProperty(columns.get(i), csvText(values[i]));
        }
        generator.writeEndObject();
      }

      @Override
      public void close() {
        generator.writeEndArray();
        generator.close();
      }
    };
  }
}
