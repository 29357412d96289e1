package org.sobercompass.sources.text;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.common.FlowStyle;
import org.snakeyaml.engine.v2.common.ScalarStyle;
import org.snakeyaml.engine.v2.composer.Composer;
import org.snakeyaml.engine.v2.exceptions.Mark;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;
import org.snakeyaml.engine.v2.nodes.CollectionNode;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;
import org.snakeyaml.engine.v2.parser.ParserImpl;
import org.snakeyaml.engine.v2.scanner.StreamReader;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;

/**
 * A YAML file in which single values and items of lists are changed. All else stays byte for byte:
 * comments, order, quoting, block and flow style, line ends, a byte order mark. Paths are the keys
 * from the top. Not thread-safe.
 */
public final class YamlText extends EditedFile {
  private static final Pattern PLAIN = Pattern.compile("[A-Za-z][A-Za-z0-9_./-]*");
  private static final List<String> WORDS =
      List.of("yes", "no", "true", "false", "on", "off", "null", "y", "n");

  private final boolean marked;
  private final String lineEnd;
  private final boolean ended;
  private String text;

  /**
   * Reads a file.
   *
   * @param name how the user names it
   * @throws OutsideException when it cannot be read, or is not UTF-8
   */
  public YamlText(Path file, String name) {
    super(file, name);
    String all = read();
    this.marked = all.startsWith(MARK);
    this.text = marked ? all.substring(1) : all;
    this.lineEnd = text.contains("\r\n") ? "\r\n" : "\n";
    this.ended = text.endsWith("\n");
  }

  @Override
  public String text() {
    // A last line without an end stays one, also when the one that was the last is taken out.
    String all =
        !ended && text.endsWith(lineEnd)
            ? text.substring(0, text.length() - lineEnd.length())
            : text;
    return (marked ? MARK : "") + all;
  }

  /**
   * Adds a map to the end of a list, which is made when it is not there.
   *
   * @param item its keys and values, in order
   */
  public void append(List<String> list, Map<String, String> item) {
    Optional<Node> there = find(list);
    String flow =
        item.entrySet().stream()
            .map(e -> e.getKey() + ": " + quoted(e.getValue()))
            .collect(Collectors.joining(", ", "{", "}"));
    if (there.isEmpty() || isNothing(there.get())) {
      put(list, "[" + flow + "]", () -> item(item));
    } else if (!(there.get() instanceof SequenceNode sequence)) {
      throw cannot(list, "is no list");
    } else if (sequence.getFlowStyle() == FlowStyle.FLOW) {
      insert(end(sequence) - 1, (sequence.getValue().isEmpty() ? "" : ", ") + flow);
    } else {
      String indent = " ".repeat(start(sequence).getColumn());
      insertLines(lastLine(sequence), lines(indent, item(item)));
    }
  }

  /** The lines of an item of a block list. */
  private static List<String> item(Map<String, String> item) {
    List<String> lines = new ArrayList<>();
    item.forEach(
        (key, value) -> lines.add((lines.isEmpty() ? "- " : "  ") + key + ": " + quoted(value)));
    return lines;
  }

  private static List<String> lines(String indent, List<String> lines) {
    return lines.stream().map(line -> indent + line).toList();
  }

  /** Takes out the item of a list with this number, from 0. */
  public void remove(List<String> list, int number) {
    if (!(find(list).orElseThrow(() -> cannot(list, "is not there"))
        instanceof SequenceNode sequence)) {
      throw cannot(list, "is no list");
    }
    Node item = sequence.getValue().get(number);
    if (sequence.getFlowStyle() == FlowStyle.FLOW) {
      cutOfFlow(sequence.getValue(), number);
      return;
    }
    int dash = at(start(item)) - 1;
    while (text.charAt(dash) != '-') {
      dash--;
    }
    cut(text.lastIndexOf('\n', dash) + 1, nextLine(end(item)));
  }

  /** Cuts an item of a flow list or map, with the comma that goes with it. */
  private void cutOfFlow(List<? extends Node> items, int number) {
    boolean last = number == items.size() - 1;
    int from = number > 0 && last ? end(items.get(number - 1)) : at(start(items.get(number)));
    int to = last ? end(items.get(number)) : at(start(items.get(number + 1)));
    cut(from, to);
  }

  /** Puts one value, or a list of several, under a key; the maps above it are made when needed. */
  public void set(List<String> path, List<String> values) {
    setFlow(
        path,
        values.size() == 1
            ? quoted(values.get(0))
            : values.stream().map(YamlText::quoted).collect(Collectors.joining(", ", "[", "]")));
  }

  /**
   * Puts something under a key; the maps above it are made when needed.
   *
   * @param flow YAML in one line
   */
  public void setFlow(List<String> path, String flow) {
    Optional<Node> there = find(path);
    if (there.isPresent() && !isNothing(there.get())) {
      int from = at(start(there.get()));
      int before = from;
      while (before > 0 && Character.isWhitespace(text.charAt(before - 1))) {
        before--;
      }
      // What stood in lines of its own is written after its key.
      boolean below = text.lastIndexOf('\n', from - 1) >= before && text.charAt(before - 1) == ':';
      replace(below ? before : from, end(there.get()), below ? " " + flow : flow);
    } else {
      put(path, flow, List::of);
    }
  }

  /** What a block list is made of when it is put under a new key. */
  private interface Block {
    List<String> lines();
  }

  /** Puts something under a key that is not there, or has nothing. */
  private void put(List<String> path, String flow, Block block) {
    String key = path.get(path.size() - 1);
    List<String> above = path.subList(0, path.size() - 1);
    Optional<Node> map = find(above);
    if (map.isEmpty() && above.isEmpty()) {
      throw cannot(above, "is not there");
    }
    if (map.isEmpty() || isNothing(map.get())) {
      put(above, "{" + quoted(key) + ": " + flow + "}", List::of);
      return;
    }
    if (!(map.get() instanceof MappingNode into)) {
      throw cannot(above, "is no map");
    }
    Optional<NodeTuple> there = tuple(into, key);
    if (there.isPresent()) {
      // A key with nothing: the value follows its colon.
      insert(text.indexOf(':', end(there.get().getKeyNode())) + 1, " " + flow);
    } else if (into.getFlowStyle() == FlowStyle.FLOW) {
      String comma = into.getValue().isEmpty() ? "" : ", ";
      insert(end(into) - 1, comma + quoted(key) + ": " + flow);
    } else {
      String indent = " ".repeat(start(into).getColumn());
      List<String> lines = new ArrayList<>();
      List<String> own = block.lines();
      lines.add(indent + quoted(key) + ":" + (own.isEmpty() ? " " + flow : ""));
      lines.addAll(lines(indent + "  ", own));
      insertLines(lastLine(into), lines);
    }
  }

  /** Takes a key out of its map. */
  public void clear(List<String> path) {
    List<String> above = path.subList(0, path.size() - 1);
    String key = path.get(path.size() - 1);
    if (!(find(above).orElseThrow(() -> cannot(above, "is not there"))
        instanceof MappingNode map)) {
      throw cannot(above, "is no map");
    }
    NodeTuple tuple = tuple(map, key).orElseThrow(() -> cannot(path, "is not there"));
    int from = at(start(tuple.getKeyNode()));
    if (map.getFlowStyle() != FlowStyle.FLOW) {
      cut(text.lastIndexOf('\n', from - 1) + 1, nextLine(end(tuple.getValueNode())));
      return;
    }
    int number = map.getValue().indexOf(tuple);
    boolean last = number == map.getValue().size() - 1;
    int begin = number > 0 && last ? end(map.getValue().get(number - 1).getValueNode()) : from;
    cut(
        begin,
        last ? end(tuple.getValueNode()) : at(start(map.getValue().get(number + 1).getKeyNode())));
  }

  /** The node at a path; empty when it is not there. */
  private Optional<Node> find(List<String> path) {
    Node at;
    try {
      LoadSettings settings = LoadSettings.builder().setLabel(name()).build();
      at =
          new Composer(settings, new ParserImpl(settings, new StreamReader(settings, text)))
              .getSingleNode()
              .orElseThrow(() -> cannot(path, "is not there"));
    } catch (YamlEngineException e) {
      throw cannot(path, "cannot be found, since the file is no YAML");
    }
    for (String key : path) {
      if (!(at instanceof MappingNode map)) {
        return Optional.empty();
      }
      Optional<NodeTuple> tuple = tuple(map, key);
      if (tuple.isEmpty()) {
        return Optional.empty();
      }
      at = tuple.get().getValueNode();
    }
    return Optional.of(at);
  }

  private static Optional<NodeTuple> tuple(MappingNode map, String key) {
    return map.getValue().stream()
        .filter(t -> t.getKeyNode() instanceof ScalarNode k && k.getValue().equals(key))
        .findFirst();
  }

  private OutsideException cannot(List<String> path, String why) {
    return new OutsideException(
        Problem.error(
            Place.of(name()),
            String.join(": ", path) + " " + why,
            "the change made in the file by hand"));
  }

  private static boolean isNothing(Node node) {
    return node instanceof ScalarNode scalar
        && scalar.getScalarStyle() == ScalarStyle.PLAIN
        && List.of("", "~", "null").contains(scalar.getValue());
  }

  private static Mark start(Node node) {
    return node.getStartMark().orElseThrow();
  }

  private int at(Mark mark) {
    return text.offsetByCodePoints(0, mark.getIndex());
  }

  /** Where a node ends, without the blank lines and comments that follow it. */
  private int end(Node node) {
    if (node instanceof CollectionNode<?> all && all.getFlowStyle() != FlowStyle.FLOW) {
      List<?> values = all.getValue();
      Object last = values.get(values.size() - 1);
      return end(last instanceof NodeTuple tuple ? tuple.getValueNode() : (Node) last);
    }
    int end = at(node.getEndMark().orElseThrow());
    boolean block =
        node instanceof ScalarNode scalar
            && (scalar.getScalarStyle() == ScalarStyle.LITERAL
                || scalar.getScalarStyle() == ScalarStyle.FOLDED);
    while (block && end > 0 && Character.isWhitespace(text.charAt(end - 1))) {
      end--;
    }
    return end;
  }

  /** Where the line begins that follows the one with this character. */
  private int nextLine(int index) {
    int end = text.indexOf('\n', index);
    return end < 0 ? text.length() : end + 1;
  }

  private int lastLine(Node node) {
    return nextLine(end(node));
  }

  private void insertLines(int index, List<String> lines) {
    boolean unended = index == text.length() && !text.endsWith("\n");
    String all = String.join(lineEnd, lines);
    insert(index, unended ? lineEnd + all : all + lineEnd);
  }

  private void insert(int index, String more) {
    replace(index, index, more);
  }

  private void cut(int from, int to) {
    replace(from, to, "");
  }

  private void replace(int from, int to, String more) {
    text = text.substring(0, from) + more + text.substring(to);
  }

  /** A scalar: as it stands where that is safe, else in double quotes. */
  public static String quoted(String text) {
    if (PLAIN.matcher(text).matches() && !WORDS.contains(text.toLowerCase(java.util.Locale.ROOT))) {
      return text;
    }
    return inQuotes(text);
  }

  /** A scalar in double quotes. */
  public static String inQuotes(String text) {
    StringBuilder out = new StringBuilder("\"");
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c == '"' || c == '\\') {
        out.append('\\').append(c);
      } else if (c < ' ' || c == 0x7f) {
        out.append(String.format("\\x%02x", (int) c));
      } else {
        out.append(c);
      }
    }
    return out.append('"').toString();
  }
}
