package org.sobercompass.sources.scim;

import java.io.InputStream;
import java.nio.file.Path;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.text.TextFiles;
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

  /** How many resources the service says there are; the most of all answers in the file. */
  private int said;

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
    TextFiles.stream(file, name, problems, in -> read(in, facts));
    if (taken < said) {
      problems.error(
          Place.of(name),
          "the file holds " + taken + " resources, and the service says that there are " + said,
          "all pages of the answer");
    }
    if (taken == 0) {
      problems.warning(Place.of(name), "the file holds no resource", "users and groups");
    }
  }

  private void read(InputStream in, ScimFacts facts) {
    try (MappingIterator<JsonNode> roots =
        new ObjectMapper().readerFor(JsonNode.class).readValues(in)) {
      while (roots.hasNextValue()) {
        root(roots.nextValue(), facts);
      }
    } catch (JacksonException e) {
      TextFiles.unparsed(e, name, "JSON", "users and groups of SCIM 2.0 as JSON", problems);
    }
  }

  private void root(JsonNode root, ScimFacts facts) {
    if (root.isArray()) {
      root.values().forEach(item -> facts.take(item, ++taken));
    } else if (root.has("Resources")) {
      root.path("Resources").values().forEach(item -> facts.take(item, ++taken));
      said = Math.max(said, root.path("totalResults").asInt(0));
    } else {
      facts.take(root, ++taken);
    }
  }
}
