package org.sobercompass.sources.questions;

import java.io.BufferedReader;
import java.io.IOException;
import java.util.List;
import java.util.function.Consumer;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.text.CsvReader;
import org.sobercompass.sources.text.TextFiles;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.ObjectReadContext;
import tools.jackson.core.json.JsonFactory;

/** Reads questions one by one: CSV with a header, or one JSON object a line. */
public final class QuestionReader {
  private static final List<String> COLUMNS = List.of("account", "permission", "node");

  private final String name;
  private final Problems problems;

  /** A reader; {@code name} stands in problems. */
  public QuestionReader(String name, Problems problems) {
    this.name = name;
    this.problems = problems;
  }

  /**
   * One question as written.
   *
   * @param node empty for the top
   */
  public record Question(String account, String permission, String node, Place place) {}

  /** Reads to the end. A JSON object is told by its first character. */
  public void read(BufferedReader in, Consumer<Question> out) throws IOException {
    in.mark(1);
    int first = in.read();
    if (first >= 0) {
      in.reset();
    }
    if (first == '{') {
      json(in, out);
    } else {
      new CsvReader(name, COLUMNS, List.of("account", "permission"), problems)
          .read(
              in,
              row ->
                  out.accept(
                      new Question(
                          row.get("account"),
                          row.get("permission"),
                          row.get("node"),
                          row.place())));
    }
  }

  private void json(BufferedReader in, Consumer<Question> out) {
    try (JsonParser parser = new JsonFactory().createParser(ObjectReadContext.empty(), in)) {
      while (parser.nextToken() == JsonToken.START_OBJECT) {
        out.accept(question(parser));
      }
    } catch (JacksonException e) {
      TextFiles.unparsed(
          e, name, "JSON", "one object a line with account, permission and node", problems);
    }
  }

  private Question question(JsonParser parser) {
    Place place = Place.of(name, parser.currentTokenLocation().getLineNr());
    String account = "";
    String permission = "";
    String node = "";
    while (parser.nextToken() == JsonToken.PROPERTY_NAME) {
      String key = parser.currentName();
      boolean text = parser.nextToken() == JsonToken.VALUE_STRING;
      String value = text ? parser.getString() : "";
      switch (key) {
        case "account" -> account = value;
        case "permission" -> permission = value;
        case "node" -> node = value;
        default ->
            problems.unknown(
                place,
                "there is no field " + Problem.quote(key),
                "account, permission or node",
                key,
                COLUMNS);
      }
      if (!text) {
        parser.skipChildren();
      }
    }
    return new Question(account, permission, node, place);
  }
}
