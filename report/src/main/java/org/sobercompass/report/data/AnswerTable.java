package org.sobercompass.report.data;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * One answer as rows: a heading that answers the question, what it was computed with, columns,
 * rows. A value is a text, a number, a yes or no, or a list of texts.
 *
 * @param schema name and version of the form of the rows, as in docs/schema
 * @param heading the answer in a sentence
 * @param facts what it was computed with (as of, basis, counts), in order
 * @param columns the names of the columns
 * @param rows the rows
 * @param notes what else must be said: problems, limits reached
 */
public record AnswerTable(
    String schema,
    String heading,
    Map<String, Object> facts,
    List<String> columns,
    List<List<Object>> rows,
    List<String> notes) {

  /** The same with one more note. */
  public AnswerTable withNote(String note) {
    List<String> more = new ArrayList<>(notes);
    more.add(note);
    return new AnswerTable(schema, heading, facts, columns, rows, List.copyOf(more));
  }

  /** The same without a column, for a terminal, where keys are in the way. */
  public AnswerTable without(String column) {
    int at = columns.indexOf(column);
    if (at < 0) {
      return this;
    }
    List<List<Object>> less = new ArrayList<>();
    for (List<Object> row : rows) {
      List<Object> kept = new ArrayList<>(row);
      kept.remove(at);
      less.add(kept);
    }
    List<String> names = new ArrayList<>(columns);
    names.remove(at);
    return new AnswerTable(schema, heading, facts, List.copyOf(names), List.copyOf(less), notes);
  }

  /** A builder for a sheet of this form. */
  public static Builder of(String schema, String... columns) {
    return new Builder(schema, List.of(columns));
  }

  /** Collects a sheet. Not thread-safe. */
  public static final class Builder {
    private final String schema;
    private final List<String> columns;
    private final Map<String, Object> facts = new LinkedHashMap<>();
    private final List<List<Object>> rows = new ArrayList<>();
    private final List<String> notes = new ArrayList<>();
    private String heading = "";

    private Builder(String schema, List<String> columns) {
      this.schema = schema;
      this.columns = columns;
    }

    /** The answer in a sentence. */
    public Builder heading(String text) {
      heading = text;
      return this;
    }

    /** Something it was computed with. */
    public Builder fact(String name, Object value) {
      facts.put(name, value);
      return this;
    }

    /** A row, one value for each column. */
    public Builder row(Object... values) {
      if (values.length != columns.size()) {
        throw new IllegalArgumentException(
            values.length + " values for " + columns.size() + " columns of " + schema);
      }
      rows.add(List.of(values));
      return this;
    }

    /** Something else that must be said. */
    public Builder note(String text) {
      notes.add(text);
      return this;
    }

    /** How many rows there are. */
    public int size() {
      return rows.size();
    }

    /** The finished sheet. */
    public AnswerTable build() {
      return new AnswerTable(
          schema,
          heading,
          java.util.Collections.unmodifiableMap(new LinkedHashMap<>(facts)),
          columns,
          List.copyOf(rows),
          List.copyOf(notes));
    }
  }
}
