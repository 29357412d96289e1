package org.sobercompass.sources.scim;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.MappingIterator;
import tools.jackson.databind.ObjectMapper;

/**
 * Reads SCIM users and groups from JSON: resources one after another (JSON lines), an array of
 * them, or list responses (RFC 7644 section 3.4.2). One resource at a time is kept.
 */
public final class ScimSource {
  private final String name;
  private final FactsSource into;
  private final Problems problems;
  private int taken;

  /**
   * A reader.
   *
   * @param name how the user names the file
   * @param into takes the facts
   */
  public ScimSource(String name, FactsSource into, Problems problems) {
    this.name = name;
    this.into = into;
    into.loginAttribute("username");
    this.problems = problems;
  }

  /** Reads a whole file. */
  public void read(Path file) {
    ScimFacts facts = new ScimFacts(name, into, problems);
    try (BufferedReader in = Files.newBufferedReader(file);
        MappingIterator<JsonNode> roots =
            new ObjectMapper().readerFor(JsonNode.class).readValues(in)) {
      while (roots.hasNextValue()) {
        root(roots.nextValue(), facts);
      }
    } catch (NoSuchFileException e) {
      problems.error(
          Place.of(name), "there is no such file", "users and groups of SCIM 2.0 as JSON");
    } catch (JacksonException e) {
      var at = e.getLocation();
      problems.error(
          at == null ? Place.of(name) : Place.of(name, at.getLineNr(), at.getColumnNr()),
          "this is not JSON: " + e.getOriginalMessage(),
          "users and groups of SCIM 2.0 as JSON");
    } catch (IOException e) {
      problems.error(
          Place.of(name), "the file cannot be read (" + e.getMessage() + ")", "JSON in UTF-8");
    }
    if (taken == 0) {
      problems.warning(Place.of(name), "the file holds no resource", "users and groups");
    }
  }

  private void root(JsonNode root, ScimFacts facts) {
    if (root.isArray()) {
      root.values().forEach(item -> facts.take(item, ++taken));
    } else if (root.has("Resources")) {
      root.path("Resources").values().forEach(item -> facts.take(item, ++taken));
    } else {
      facts.take(root, ++taken);
    }
  }
}
