package org.sobercompass.sources.files;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Paths with lists as JSON lines: {@code {"path": ..., "kind": ..., "list": ...}}. */
final class JsonRows {
  private static final JsonMapper JSON = JsonMapper.shared();

  private final String name;
  private final Problems problems;

  JsonRows(String name, Problems problems) {
    this.name = name;
    this.problems = problems;
  }

  /** Takes one row. */
  interface Take {
    /** One path with its kind and list. */
    void row(String path, String kind, String list, Place place);
  }

  void read(Path file, Take take) {
    int number = 0;
    try (BufferedReader lines = Files.newBufferedReader(file, StandardCharsets.UTF_8)) {
      for (String line = lines.readLine(); line != null; line = lines.readLine()) {
        number++;
        if (!line.isBlank()) {
          row(line, Place.of(name, number), take);
        }
      }
    } catch (IOException e) {
      problems.error(
          Place.of(name, number + 1),
          "the file cannot be read on: " + e.getMessage(),
          "JSON lines in UTF-8");
    }
  }

  private void row(String line, Place place, Take take) {
    try {
      JsonNode node = JSON.readTree(line);
      JsonNode path = node.path("path");
      JsonNode list = node.path("list");
      if (!path.isString() || !list.isString()) {
        problems.error(
            place,
            "the line has no path or no list",
            "{\"path\": ..., \"kind\": ..., \"list\": ...}");
        return;
      }
      take.row(path.stringValue(), node.path("kind").asString("file"), list.stringValue(), place);
    } catch (JacksonException e) {
      problems.error(
          place, "this is no JSON: " + Problem.quote(e.getOriginalMessage()), "one object a line");
    }
  }
}
