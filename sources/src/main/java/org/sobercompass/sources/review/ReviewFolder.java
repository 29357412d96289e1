package org.sobercompass.sources.review;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.review.Decision;
import org.sobercompass.sources.disk.OwnFiles;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * The folder of a review: what was asked of whom, the sheets that go out, and the answers that come
 * back into {@code answers}. Everything in it is its owner's only.
 */
public final class ReviewFolder {
  /** Where answers are put. */
  public static final String ANSWERS = "answers";

  /** Where the sheets stand that go out. */
  public static final String SHEETS = "sheets";

  private static final String MANIFEST = "review.json";
  private static final String SCHEMA = "review-folder/1";
  private static final ObjectMapper JSON = JsonMapper.builder().build();

  private final Path folder;

  /** The folder of a review, there or still to be made. */
  public ReviewFolder(Path folder) {
    this.folder = folder;
  }

  /**
   * A line that was asked.
   *
   * @param row the id of the item
   * @param check the digest of what it says
   * @param who who was asked, for people
   * @param key the key of whoever was asked
   */
  public record Asked(String row, String check, String who, String key) {}

  /** Whether a review was made here. */
  public boolean isThere() {
    return Files.exists(folder.resolve(MANIFEST));
  }

  /** Notes what was asked. */
  public void write(List<Asked> lines, String asOf) {
    ObjectNode root = JSON.createObjectNode();
    root.put("schema", SCHEMA).put("as of", asOf);
    var all = root.putArray("lines");
    for (Asked line : lines) {
      all.addObject()
          .put("row", line.row())
          .put("check", line.check())
          .put("who", line.who())
          .put("key", line.key());
    }
    OwnFiles.write(
        folder.resolve(MANIFEST),
        JSON.writerWithDefaultPrettyPrinter().writeValueAsString(root) + "\n");
  }

  /** The files that came back: all sheets in {@code answers}, in the order of their names. */
  public List<Path> answers() {
    Path answers = folder.resolve(ANSWERS);
    if (!Files.isDirectory(answers)) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(answers)) {
      return files.filter(f -> f.toString().matches("(?i).*[.](csv|xlsx)")).sorted().toList();
    } catch (IOException e) {
      throw new OutsideException(
          Problem.error(Place.of(answers.toString()), "cannot be listed", "a folder"));
    }
  }

  /**
   * The decisions in some files.
   *
   * @param said the columns that say what a row is about, in the order of its digest
   * @param check makes the digest of such a row
   * @throws BadInputException with everything that is wrong, when anything is
   */
  public List<Decision> decisions(List<Path> files, List<String> said, Check check) {
    Problems problems = new Problems();
    Map<String, String> asked = new HashMap<>();
    asked().forEach(line -> asked.put(line.row() + " " + line.check(), line.who()));
    List<Decision> all = new ArrayList<>();
    for (Path file : files) {
      String name = file.toString();
      new DecisionReader(name, said, check, asked, problems).read(file).forEach(all::add);
    }
    problems.throwIfErrors();
    return all;
  }

  /** Makes the digest of what a row says. */
  @FunctionalInterface
  public interface Check {
    /** The digest of these values. */
    String of(List<String> said);
  }

  /**
   * What was asked, line by line.
   *
   * @throws BadInputException when no review was made here
   */
  public List<Asked> asked() {
    Problems problems = new Problems();
    List<Asked> asked = new ArrayList<>();
    String shown = folder.resolve(MANIFEST).toString();
    try {
      JsonNode root = JSON.readTree(Files.readString(folder.resolve(MANIFEST)));
      if (!root.path("schema").asString("").equals(SCHEMA)) {
        problems.error(Place.of(shown), "it is of another form", SCHEMA);
      }
      for (JsonNode line : root.path("lines")) {
        asked.add(
            new Asked(
                line.path("row").asString(""),
                line.path("check").asString(""),
                line.path("who").asString(""),
                line.path("key").asString("")));
      }
    } catch (IOException | JacksonException e) {
      problems.error(
          Place.of(shown),
          "it cannot be read",
          "a folder that sober review sheets made, with its review.json");
    }
    problems.throwIfErrors();
    return asked;
  }
}
