package org.sobercompass.sources.files;

import java.nio.file.Files;
import java.nio.file.Path;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.disk.Ending;
import org.sobercompass.sources.text.TextFiles;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Paths with lists as JSON lines: {@code {"path": ..., "kind": ..., "list": ...}}, of any tool. A
 * file that this program collected says so first, and how long it is last.
 */
final class JsonRows {
  /** The first line of what this program collected. */
  static final String COLLECTED = "{\"kind\":\"collected\"}";

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
    boolean ends =
        !Files.isRegularFile(file) || Ending.check(file, name, Ending.Form.JSON, problems);
    boolean[] ours = new boolean[1];
    TextFiles.lines(
        file,
        name,
        problems,
        (line, place) -> {
          if (line.strip().equals(COLLECTED)) {
            ours[0] = true;
          } else if (!Ending.Form.JSON.is(line)) {
            row(line, place, take);
          }
        });
    if (ours[0] && !ends) {
      problems.error(
          Place.of(name),
          "the file is cut off: its last line, which says how long it is, is missing",
          "the file as `sober collect share` wrote it; collect it again");
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
