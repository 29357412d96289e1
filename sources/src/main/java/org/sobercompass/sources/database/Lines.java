package org.sobercompass.sources.database;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.BiConsumer;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.disk.Ending;
import org.sobercompass.sources.text.TextFiles;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The lines of a collection: one object each, with its kind. */
final class Lines {
  private static final JsonMapper JSON = JsonMapper.shared();

  private final String name;
  private final Problems problems;

  Lines(String name, Problems problems) {
    this.name = name;
    this.problems = problems;
  }

  void read(Path file, BiConsumer<JsonNode, Place> take) {
    ending(file);
    boolean[] whole = new boolean[1];
    TextFiles.lines(
        file,
        name,
        problems,
        (line, place) -> {
          if (!Ending.Form.JSON.is(line)) {
            whole[0] |= line(line, place, take);
          }
        });
    if (!whole[0] && problems.errors() == 0) {
      problems.error(
          Place.of(name), "the collection names no roles", "what `sober collect database` wrote");
    }
  }

  private void ending(Path file) {
    if (Files.isRegularFile(file) && !Ending.check(file, name, Ending.Form.JSON, problems)) {
      problems.warning(
          Place.of(name),
          "the last line, which says how long the file is, is missing: the file may be cut off",
          "the whole file as `sober collect database` wrote it");
    }
  }

  /** What is yes or no in a line of a kind; anything else there is an error. */
  private static final Set<String> BOOLEANS =
      Set.of(
          "superuser",
          "inherits",
          "login",
          "creates_roles",
          "creates_databases",
          "replicates",
          "bypasses_rows",
          "admin",
          "switches",
          "open",
          "rows",
          "rows_forced",
          "updatable",
          "triggered",
          "invoker",
          "permissive",
          "definer");

  private boolean line(String line, Place place, BiConsumer<JsonNode, Place> take) {
    try {
      JsonNode node = JSON.readTree(line);
      if (!node.path("kind").isString()) {
        problems.error(place, "the line has no kind", "what `sober collect database` wrote");
        return false;
      }
      for (String name : BOOLEANS) {
        JsonNode value = node.path(name);
        // Some of these names are also those of numbers: how many rows a view may change, say.
        if (value.isString()) {
          problems.error(
              place,
              name + ": " + Problem.quote(value.asString()) + " is a text",
              "true or false, without quotes");
        }
      }
      take.accept(node, place);
      return text(node, "kind").equals("role");
    } catch (JacksonException e) {
      problems.error(
          place,
          "this is no JSON: " + Problem.quote(e.getOriginalMessage()) + "; the file may be cut off",
          "one object a line");
      return false;
    }
  }

  static String text(JsonNode node, String name) {
    return node.path(name).asString("");
  }

  static boolean yes(JsonNode node, String name) {
    return node.path(name).asBoolean(false);
  }

  static List<String> texts(JsonNode node, String name) {
    List<String> texts = new ArrayList<>();
    node.path(name).forEach(item -> texts.add(item.asString("")));
    return texts;
  }

  /** When the password of a role ends, epoch second; empty when it does not, or is no instant. */
  static OptionalLong until(JsonNode role) {
    String text = text(role, "until");
    try {
      return text.isEmpty()
          ? OptionalLong.empty()
          : OptionalLong.of(Instant.parse(text).getEpochSecond());
    } catch (DateTimeParseException e) {
      return OptionalLong.empty();
    }
  }
}
