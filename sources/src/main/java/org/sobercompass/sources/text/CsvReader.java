package org.sobercompass.sources.text;

import java.io.Reader;
import java.io.StringReader;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Consumer;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.ObjectReadContext;
import tools.jackson.dataformat.csv.CsvFactory;
import tools.jackson.dataformat.csv.CsvReadFeature;
import tools.jackson.dataformat.csv.CsvSchema;

/**
 * Reads CSV (RFC 4180) with a line of column names. Columns may stand in any order; names compare
 * without case, and a space or hyphen is the same. Rows come one by one; memory does not grow with
 * them.
 */
public final class CsvReader {
  private final String name;
  private final List<String> known;
  private final List<String> needed;
  private char separator = ',';
  private final Problems problems;

  /**
   * A reader.
   *
   * @param name how the user names the file
   * @param known the columns there may be
   * @param needed those there must be
   */
  public CsvReader(String name, List<String> known, List<String> needed, Problems problems) {
    this.name = name;
    this.known = known;
    this.needed = needed;
    this.problems = problems;
  }

  /** One row: values by column name, and where it stands. */
  public record Row(Map<String, Integer> columns, List<String> values, Place place) {
    /** The value of a column without spaces around it; empty when it is not there. */
    public String get(String column) {
      Integer at = columns.get(column);
      return at == null || at >= values.size() ? "" : values.get(at).strip();
    }
  }

  /** Reads a whole file. */
  public void read(Path file, Consumer<Row> rows) {
    TextFiles.read(file, name, TextFiles.LARGEST, problems)
        .ifPresent(
            text -> {
              separator = separator(text);
              read(new StringReader(text), rows);
              if (!text.isEmpty() && !text.endsWith("\n") && !text.endsWith("\r")) {
                problems.warning(
                    Place.of(name, (int) text.lines().count()),
                    "the last line has no end: the file may be cut off",
                    "the whole file, with a line end after its last row");
              }
            });
  }

  /** Semicolons, where the line of names has them and no comma: as some spreadsheets write. */
  static char separator(String text) {
    String first = text.lines().findFirst().orElse("");
    return first.indexOf(';') >= 0 && first.indexOf(',') < 0 ? ';' : ',';
  }

  /** Reads rows from a reader. */
  public void read(Reader input, Consumer<Row> rows) {
    try (JsonParser parser = parser(input, separator)) {
      Map<String, Integer> columns = null;
      ArrayList<String> values = new ArrayList<>();
      Place place = Place.of(name, 1);
      for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
        if (token == JsonToken.START_ARRAY) {
          values = new ArrayList<>();
        } else if (token == JsonToken.END_ARRAY) {
          if (!values.isEmpty() && columns == null) {
            int before = problems.errors();
            columns = header(values, place);
            if (problems.errors() > before) {
              return; // the rows would only repeat what is wrong with the line of names
            }
          } else if (!values.isEmpty() && columns != null) {
            row(columns, values, place, rows);
          }
          values = new ArrayList<>();
        } else {
          if (values.isEmpty()) {
            place = Place.of(name, parser.currentTokenLocation().getLineNr());
          }
          values.add(parser.getString() == null ? "" : parser.getString());
        }
      }
      if (columns == null) {
        problems.error(
            Place.of(name), "the file is empty", "a line with " + String.join(",", needed));
      }
    } catch (JacksonException e) {
      TextFiles.unparsed(e, name, "CSV", "comma-separated values as in RFC 4180", problems);
    }
  }

  /** A column as names are compared: without case, a hyphen as a space. */
  static String column(String written) {
    return written.strip().toLowerCase(Locale.ROOT).replace('-', ' ');
  }

  /** The values of one row; none when it is not CSV. */
  static List<String> values(String row, char separator) {
    List<String> values = new ArrayList<>();
    try (JsonParser parser = parser(new StringReader(row), separator)) {
      for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
        if (token.isScalarValue()) {
          values.add(parser.getString() == null ? "" : parser.getString().strip());
        }
      }
    } catch (JacksonException e) {
      return List.of();
    }
    return values;
  }

  private static JsonParser parser(Reader input, char separator) {
    CsvFactory factory =
        CsvFactory.builder()
            .enable(CsvReadFeature.WRAP_AS_ARRAY)
            .enable(CsvReadFeature.SKIP_EMPTY_LINES)
            .build();
    CsvSchema schema = CsvSchema.emptySchema().withColumnSeparator(separator);
    return factory.createParser(
        new ObjectReadContext.Base() {
          @Override
          public tools.jackson.core.FormatSchema getSchema() {
            return schema;
          }
        },
        input);
  }

  private void row(
      Map<String, Integer> columns, List<String> values, Place place, Consumer<Row> rows) {
    if (values.size() != columns.size()) {
      problems.error(
          place,
          "the row has "
              + values.size()
              + (values.size() == 1 ? " value" : " values")
              + (values.size() < columns.size() ? ": it may be cut off" : ""),
          columns.size()
              + ", as the first line says"
              + (values.size() < columns.size()
                  ? "; a value that is empty keeps its comma"
                  : "; a value with a comma needs quotes"));
    } else {
      rows.accept(new Row(columns, List.copyOf(values), place));
    }
  }

  private Map<String, Integer> header(List<String> names, Place place) {
    int before = problems.errors();
    Map<String, Integer> columns = new HashMap<>();
    for (int i = 0; i < names.size(); i++) {
      String column = column(names.get(i));
      if (!known.contains(column)) {
        problems.unknown(
            place,
            "there is no column " + Problem.quote(names.get(i)),
            "one of " + String.join(", ", known),
            column,
            known);
      } else if (columns.putIfAbsent(column, i) != null) {
        problems.error(place, "the column " + column + " stands twice", "each column once");
      }
    }
    for (String column : needed) {
      if (!columns.containsKey(column) && problems.errors() == before) {
        problems.error(
            place, "there is no column " + column, "a line with " + String.join(",", needed));
      }
    }
    return columns;
  }
}
