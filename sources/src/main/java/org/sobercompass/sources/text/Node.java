package org.sobercompass.sources.text;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.problem.Spelling;

/** A node of a YAML file with its place: a scalar, a list or a map. Built by {@link YamlReader}. */
public final class Node {
  /** What a node is. */
  public enum Kind {
    NOTHING("nothing"),
    SCALAR("a single value"),
    LIST("a list"),
    MAP("a map");

    private final String words;

    Kind(String words) {
      this.words = words;
    }
  }

  private final Kind kind;
  private final Place place;
  private final Problems problems;
  private final String text;
  private final List<Node> items = new ArrayList<>();
  private final Map<String, Node> entries = new LinkedHashMap<>();
  private final Set<String> unknown = new HashSet<>();

  Node(Kind kind, Place place, Problems problems, String text) {
    this.kind = kind;
    this.place = place;
    this.problems = problems;
    this.text = text;
  }

  /** A node with nothing in it. */
  public static Node nothing() {
    return new Node(Kind.NOTHING, Place.of(""), new Problems(), "");
  }

  /** The same tree, telling its problems to another collection; for reading on another thread. */
  public Node tellingTo(Problems other) {
    Node copy = new Node(kind, place, other, text);
    items.forEach(item -> copy.items.add(item.tellingTo(other)));
    entries.forEach((key, value) -> copy.entries.put(key, value.tellingTo(other)));
    return copy;
  }

  void add(Node item) {
    items.add(item);
  }

  void put(String key, Node value) {
    if (entries.putIfAbsent(key, value) != null) {
      problems.error(
          value.place, "the key " + Problem.quote(key) + " stands twice", "each key once");
    }
  }

  /** What it says with all below it, as one text; equal texts say the same in the same order. */
  public String says() {
    return switch (kind) {
      case NOTHING -> "~";
      case SCALAR -> text.length() + ":" + text;
      case LIST -> items.stream().map(Node::says).collect(Collectors.joining(",", "[", "]"));
      case MAP ->
          entries.entrySet().stream()
              .map(e -> e.getKey().length() + ":" + e.getKey() + "=" + e.getValue().says())
              .collect(Collectors.joining(",", "{", "}"));
    };
  }

  /** What it says with all below it, as YAML in one line; what says the same says it alike. */
  public String inOneLine() {
    return switch (kind) {
      case NOTHING -> "";
      case SCALAR -> YamlText.quoted(text);
      case LIST -> items.stream().map(Node::inOneLine).collect(Collectors.joining(", ", "[", "]"));
      case MAP ->
          entries.entrySet().stream()
              .map(e -> YamlText.quoted(e.getKey()) + ": " + e.getValue().inOneLine())
              .collect(Collectors.joining(", ", "{", "}"));
    };
  }

  /** What it is. */
  public Kind kind() {
    return kind;
  }

  /** Where it stands. */
  public Place place() {
    return place;
  }

  /** The entries of a map, in order; a list is told as a problem, and has none. */
  public Map<String, Node> entries() {
    if (kind == Kind.LIST) {
      problems.error(place, "found " + kind.words, "a map: each entry as a key, a colon and more");
    }
    return entries;
  }

  /**
   * The items of a list; a single value is a list of one; nothing is an empty one. A map is told as
   * a problem, and has none.
   */
  public List<Node> items() {
    if (kind == Kind.MAP) {
      problems.error(place, "found " + kind.words, "a list: each item after a dash");
    }
    return kind == Kind.SCALAR ? List.of(this) : List.copyOf(items);
  }

  /** The text of a scalar; a problem, and the empty text, when it is none. */
  public String text() {
    if (kind != Kind.SCALAR) {
      problems.error(place, "found " + kind.words, "a single value");
      return "";
    }
    return text;
  }

  /** The node under a key. */
  public Optional<Node> get(String key) {
    return Optional.ofNullable(entries.get(key)).filter(node -> node.kind != Kind.NOTHING);
  }

  /** The text under a key, if it is there. */
  public Optional<String> text(String key) {
    return get(key).map(Node::text);
  }

  /**
   * The text under a key; a problem when it is not there, unless {@link #only} has told a key
   * nearly like it, with the right one.
   */
  public String need(String key) {
    Optional<String> found = text(key);
    boolean misspelt =
        found.isEmpty()
            && unknown.stream().anyMatch(k -> Spelling.nearest(k, List.of(key)).isPresent());
    if (found.isEmpty() && !misspelt) {
      problems.error(place, key + ": is missing", key + ": and a value");
    }
    return found.orElse("");
  }

  /** The texts of the list under a key; a single value is a list of one. */
  public List<String> texts(String key) {
    return get(key).map(node -> node.items().stream().map(Node::text).toList()).orElse(List.of());
  }

  /** A yes or no under a key. */
  public boolean yes(String key, boolean otherwise) {
    Optional<Node> node = get(key);
    return node.map(n -> YesNo.parse(n.text()).orElseGet(() -> n.wrong("yes or no", otherwise)))
        .orElse(otherwise);
  }

  private boolean wrong(String expected, boolean otherwise) {
    problems.error(place, Problem.quote(text) + " is neither yes nor no", expected);
    return otherwise;
  }

  /** Tells that this is not what was expected. */
  public void wrong(String what, String expected) {
    problems.error(place, what, expected);
  }

  /** Checks that this is a map with no other keys than these. */
  public Node only(Set<String> keys) {
    if (kind != Kind.MAP && kind != Kind.NOTHING) {
      problems.error(place, "found " + kind.words, "a map with " + String.join(", ", keys));
    }
    entries.forEach(
        (key, value) -> {
          if (!keys.contains(key)) {
            unknown.add(key);
            problems.unknown(
                value.place,
                "there is no setting " + Problem.quote(key) + " here",
                "one of " + String.join(", ", keys.stream().sorted().toList()),
                key,
                keys);
          }
        });
    return this;
  }
}
