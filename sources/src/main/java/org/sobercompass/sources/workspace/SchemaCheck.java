package org.sobercompass.sources.workspace;

import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Optional;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.TextFiles;
import org.sobercompass.sources.text.YamlReader;

/**
 * Holds the YAML files of a workspace against the JSON Schemas that ship for editors, so that an
 * editor and the program say the same. Slow to start, so only {@code sober check} does it, after
 * the reader has told what it finds wrong. Nothing is fetched.
 */
public final class SchemaCheck {
  private static final long LARGEST = 16L << 20;

  private final Path root;
  private final Problems problems = new Problems();
  private final SchemaRegistry registry =
      SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12);

  private SchemaCheck(Path root) {
    this.root = root;
  }

  /** The problems found. */
  public static Problems run(Path root) {
    SchemaCheck check = new SchemaCheck(root);
    check.file(WorkspaceReader.MAIN, "compass");
    Optional<Node> read =
        YamlReader.read(root.resolve(WorkspaceReader.MAIN), WorkspaceReader.MAIN, check.problems);
    read.flatMap(main -> main.text("admin")).ifPresent(name -> check.file(name, "admin"));
    read.flatMap(main -> main.get("applications"))
        .ifPresent(list -> list.items().stream().map(Node::text).forEach(check::application));
    return check.problems;
  }

  /** Each kind of system has a schema of its own, named as the kind. */
  private void application(String name) {
    Optional<String> kind =
        YamlReader.read(root.resolve(name), name, problems).flatMap(node -> node.text("kind"));
    file(name, kind.filter(k -> !k.equals("roles")).orElse("application"));
  }

  private void file(String name, String schema) {
    TextFiles.read(root.resolve(name), name, LARGEST, problems)
        .ifPresent(
            text ->
                schema(schema)
                    .validate(text, InputFormat.YAML)
                    .forEach(
                        error ->
                            problems.error(
                                Place.of(name).entry(error.getInstanceLocation().toString()),
                                error.getMessage(),
                                "what " + schema + ".schema.json says")));
  }

  private Schema schema(String name) {
    try (InputStream in =
        SchemaCheck.class.getResourceAsStream("schema/" + name + ".schema.json")) {
      if (in == null) {
        throw new IllegalStateException("the program lacks its schema " + name);
      }
      return registry.getSchema(
          new String(in.readAllBytes(), StandardCharsets.UTF_8), InputFormat.JSON);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
