package org.sobercompass.sources;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiFunction;
import java.util.stream.Collectors;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Setting;
import org.sobercompass.core.system.Settings;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YamlReader;
import org.sobercompass.sources.text.YamlText;

/**
 * The settings of a system that is defined in a YAML file. The file is read when it is asked for.
 * Thread-safe.
 */
public final class FileSettings implements Settings {
  private final Path file;
  private final String name;
  private final Map<String, Boolean> keys;
  private final BiFunction<Node, Problems, AccessSystem> reader;
  private final BiFunction<Node, Problems, Set<String>> needs;

  /**
   * Of a file.
   *
   * @param name how the user names it
   * @param keys the keys at its top that a proposal can change, each with whether what is below it
   *     can be changed key by key
   * @param reader reads the system without its grants
   * @param needs the attributes (lower case) that must be read before
   */
  public FileSettings(
      Path file,
      String name,
      Map<String, Boolean> keys,
      BiFunction<Node, Problems, AccessSystem> reader,
      BiFunction<Node, Problems, Set<String>> needs) {
    this.file = file;
    this.name = name;
    this.keys = Map.copyOf(keys);
    this.reader = reader;
    this.needs = needs;
  }

  @Override
  public String file() {
    return name;
  }

  @Override
  public String says(List<String> path, List<Setting> earlier) {
    String top = path.isEmpty() ? "" : path.get(0);
    if (!keys.containsKey(top)) {
      Set<String> known = new TreeSet<>(keys.keySet());
      throw new IllegalArgumentException(
          "no proposal can change "
              + Problem.quote(top)
              + " in "
              + name
              + "; expected one of "
              + String.join(", ", known)
              + Spelling.hint(top, known));
    }
    if (path.size() < 2 && keys.getOrDefault(top, false)) {
      throw new IllegalArgumentException(
          top + " is changed part by part; expected " + top + " and one of its keys");
    }
    return find(path, earlier).map(Node::inOneLine).orElse("");
  }

  @Override
  public Set<String> keys(List<String> path) {
    return find(path, List.of())
        .filter(node -> node.kind() == Node.Kind.MAP)
        .map(node -> node.entries().keySet())
        .orElse(Set.of());
  }

  private Optional<Node> find(List<String> path, List<Setting> earlier) {
    Node at = parse(text(earlier)).orElseThrow(() -> unreadable(new Problems()));
    for (String key : path) {
      Optional<Node> below = at.kind() == Node.Kind.MAP ? at.get(key) : Optional.empty();
      if (below.isEmpty()) {
        return below;
      }
      at = below.get();
    }
    return Optional.of(at);
  }

  @Override
  public Map<List<String>, String> all() {
    Map<List<String>, String> all = new LinkedHashMap<>();
    Optional<Node> root = parse(text(List.of()));
    root.ifPresent(
        node ->
            node.entries()
                .forEach(
                    (key, value) -> {
                      boolean parted = keys.getOrDefault(key, false);
                      if (parted && value.kind() == Node.Kind.MAP) {
                        value
                            .entries()
                            .forEach((id, one) -> all.put(List.of(key, id), one.inOneLine()));
                      } else if (keys.containsKey(key)) {
                        all.put(List.of(key), value.inOneLine());
                      }
                    }));
    return all;
  }

  @Override
  public Set<String> needs(List<Setting> settings) {
    Problems problems = new Problems();
    Node node = parse(text(settings), problems).orElseThrow(() -> unreadable(problems));
    Set<String> all = needs.apply(node, problems);
    refuse(problems);
    return all;
  }

  @Override
  public AccessSystem with(List<Setting> settings) {
    Problems problems = new Problems();
    Node node = parse(text(settings), problems).orElseThrow(() -> unreadable(problems));
    AccessSystem read = reader.apply(node, problems);
    refuse(problems);
    return read;
  }

  /**
   * Writes a setting into the text of a file.
   *
   * @throws IllegalArgumentException when it is no YAML
   */
  public static void write(YamlText text, Setting setting) {
    if (setting.is().isEmpty()) {
      text.clear(setting.path());
      return;
    }
    Problems problems = new Problems();
    if (YamlReader.parse(setting.is(), setting.where(), problems).isEmpty()) {
      throw new IllegalArgumentException(
          setting.where() + ": " + Problem.quote(setting.is()) + " is no YAML");
    }
    text.setFlow(setting.path(), setting.is());
  }

  private String text(List<Setting> settings) {
    try {
      YamlText text = new YamlText(file, name);
      settings.forEach(setting -> write(text, setting));
      return text.text();
    } catch (OutsideException e) {
      throw new IllegalArgumentException(e.getMessage(), e);
    }
  }

  private Optional<Node> parse(String text) {
    return parse(text, new Problems());
  }

  private Optional<Node> parse(String text, Problems problems) {
    return YamlReader.parse(text, name, problems);
  }

  private void refuse(Problems problems) {
    if (problems.errors() > 0) {
      throw unreadable(problems);
    }
  }

  /** With what was wrong; without places, since the text stands in no file. */
  private IllegalArgumentException unreadable(Problems problems) {
    String all =
        problems.list().stream()
            .filter(problem -> problem.severity() == Problem.Severity.ERROR)
            .map(problem -> problem.what() + "; expected " + problem.expected())
            .distinct()
            .collect(Collectors.joining(" / "));
    return new IllegalArgumentException(all.isEmpty() ? name + " cannot be read" : all);
  }
}
