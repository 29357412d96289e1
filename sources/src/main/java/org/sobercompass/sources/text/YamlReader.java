package org.sobercompass.sources.text;

import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.ObjectReadContext;
import tools.jackson.dataformat.yaml.YAMLFactory;
import tools.jackson.dataformat.yaml.YAMLParser;

/**
 * Reads a YAML file into {@link Node}s by its events: no binding, no objects made from tags. All
 * scalars stay texts. Anchors and aliases are refused, since a file of a few lines could unfold to
 * gigabytes; so is nesting deeper than {@link #DEEPEST}.
 */
public final class YamlReader {
  private static final int DEEPEST = 40;
  private static final long LARGEST = 16L << 20;

  private final String name;
  private final Problems problems;

  private YamlReader(String name, Problems problems) {
    this.name = name;
    this.problems = problems;
  }

  /** The root of a file; empty when it cannot be read, with the problems told. */
  public static Optional<Node> read(Path file, String name, Problems problems) {
    return TextFiles.read(file, name, LARGEST, problems)
        .flatMap(text -> new YamlReader(name, problems).parse(text));
  }

  /** The same of a text that is already here. */
  public static Optional<Node> parse(String text, String name, Problems problems) {
    return new YamlReader(name, problems).parse(text);
  }

  private Optional<Node> parse(String text) {
    int before = problems.errors();
    try (JsonParser parser = new YAMLFactory().createParser(ObjectReadContext.empty(), text)) {
      Node root = document((YAMLParser) parser);
      return problems.errors() > before ? Optional.empty() : Optional.of(root);
    } catch (JacksonException e) {
      Place place =
          e.getLocation() == null
              ? Place.of(name)
              : Place.of(name, e.getLocation().getLineNr(), e.getLocation().getColumnNr());
      problems.error(
          place,
          "from here on this is not YAML",
          "YAML 1.2; often a bracket or quote before it is not closed, or the indentation is off");
      return Optional.empty();
    }
  }

  private Node document(YAMLParser parser) {
    Deque<Node> open = new ArrayDeque<>();
    Deque<String> keys = new ArrayDeque<>();
    @Nullable Node root = null;
    for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
      refuseAnchors(parser, token);
      switch (token) {
        case PROPERTY_NAME -> keys.push(parser.currentName());
        case END_OBJECT, END_ARRAY -> open.pop();
        default -> {
          Node node = node(parser, token);
          Node parent = open.peek();
          if (parent == null && root != null) {
            problems.error(node.place(), "a second document begins here", "one document a file");
            return root;
          } else if (parent == null) {
            root = node;
          } else if (parent.kind() == Node.Kind.MAP) {
            parent.put(keys.pop(), node);
          } else {
            parent.add(node);
          }
          if (token == JsonToken.START_OBJECT || token == JsonToken.START_ARRAY) {
            open.push(node);
            if (open.size() > DEEPEST) {
              problems.error(place(parser), "nested too deep", "at most " + DEEPEST + " levels");
              return node;
            }
          }
        }
      }
    }
    return root == null ? new Node(Node.Kind.NOTHING, Place.of(name), problems, "") : root;
  }

  private void refuseAnchors(YAMLParser parser, JsonToken token) {
    boolean opens = token != JsonToken.END_OBJECT && token != JsonToken.END_ARRAY;
    if (opens && (parser.isCurrentAlias() || parser.getObjectId() != null)) {
      problems.error(place(parser), "anchors and aliases are not used here", "the value itself");
    }
  }

  private Node node(YAMLParser parser, JsonToken token) {
    return switch (token) {
      case START_OBJECT -> new Node(Node.Kind.MAP, place(parser), problems, "");
      case START_ARRAY -> new Node(Node.Kind.LIST, place(parser), problems, "");
      case VALUE_NULL -> new Node(Node.Kind.NOTHING, place(parser), problems, "");
      default -> new Node(Node.Kind.SCALAR, place(parser), problems, parser.getString());
    };
  }

  private Place place(YAMLParser parser) {
    return Place.of(
        name,
        parser.currentTokenLocation().getLineNr(),
        parser.currentTokenLocation().getColumnNr());
  }
}
