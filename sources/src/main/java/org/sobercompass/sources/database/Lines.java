package org.sobercompass.sources.database;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import java.util.function.BiConsumer;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
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
    int number = 0;
    boolean whole = false;
    try (BufferedReader lines = Files.newBufferedReader(file, StandardCharsets.UTF_8)) {
      for (String line = lines.readLine(); line != null; line = lines.readLine()) {
        number++;
        if (!line.isBlank()) {
          whole |= line(line, Place.of(name, number), take);
        }
      }
    } catch (IOException e) {
      problems.error(
          Place.of(name, number + 1),
          "cannot be read on: " + e.getMessage(),
          "JSON lines in UTF-8");
    }
    if (!whole && problems.errors() == 0) {
      problems.error(
          Place.of(name), "the collection names no roles", "what `sober collect database` wrote");
    }
  }

  private boolean line(String line, Place place, BiConsumer<JsonNode, Place> take) {
    try {
      JsonNode node = JSON.readTree(line);
      if (!node.path("kind").isString()) {
        problems.error(place, "the line has no kind", "what `sober collect database` wrote");
        return false;
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
