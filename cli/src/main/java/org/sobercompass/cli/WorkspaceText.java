package org.sobercompass.cli;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YamlReader;

/**
 * Adds to {@code compass.yaml} as text: what people wrote stays to the byte, comments, order,
 * indentation, line ends and all. What was added is read back; where it is not exactly what was
 * there and the new directory, nothing is written.
 */
final class WorkspaceText {
  private static final String MAIN = "compass.yaml";

  /** The directory that `sober begin` writes for somebody to fill in; its export is not there. */
  private static final String PLACEHOLDER =
      "  main:\n"
          + "    kind: standard            # standard, posix or ad\n"
          + "    file: directory.ldif\n"
          + "    # taken: 2026-01-31T06:00:00Z   # when it was exported; answers are given as of"
          + " then\n";

  private WorkspaceText() {}

  /**
   * Adds a directory, or makes a workspace with it.
   *
   * @param lines what stands under {@code directories:}, indented by two where it is nested
   * @return the file; empty when it cannot be edited safely, and was left as it was
   */
  static Optional<Path> add(Path root, String name, List<String> lines) {
    Path file = root.resolve(MAIN);
    if (!Files.exists(file)) {
      begin(file, lines);
      return Optional.of(file);
    }
    Problems problems = new Problems();
    Node main = YamlReader.read(file, MAIN, problems).orElseGet(Node::nothing);
    problems.throwIfErrors();
    Optional<Node> directories = main.get("directories");
    if (directories.map(d -> d.entries().containsKey(name)).orElse(false)) {
      throw new UsageException(
          "there is a directory " + name + " in " + file + " already; expected another --name");
    }
    try {
      String text = new String(Files.readAllBytes(file), StandardCharsets.UTF_8);
      boolean untouched =
          text.contains(PLACEHOLDER) && !Files.exists(root.resolve("directory.ldif"));
      if (untouched) {
        text = text.replace(PLACEHOLDER, "");
        main = YamlReader.parse(text, MAIN, problems).orElseGet(Node::nothing);
        directories = main.get("directories");
      }
      String end = text.contains("\r\n") ? "\r\n" : "\n";
      String changed =
          main.entries().containsKey("directories")
              ? inserted(text, lines, end)
              : appended(text, lines, end);
      if (!isThatAndOneMore(main, changed, name, lines)) {
        return Optional.empty();
      }
      OwnFiles.edit(file, changed);
      if (untouched) {
        follow(root.resolve("applications/app.yaml"), name);
      }
      return Optional.of(file);
    } catch (IOException e) {
      throw OwnFiles.failed(file, e);
    }
  }

  private static void begin(Path file, List<String> lines) {
    OwnFiles.write(
        file,
        "# The workspace. `sober check` reads it all and tells what is wrong.\nzone: UTC\n"
            + "directories:\n"
            + lines.stream().map(line -> "  " + line + "\n").collect(Collectors.joining()));
  }

  /** The application that `sober begin` wrote sees the directory that took the place of its own. */
  private static void follow(Path application, String name) throws IOException {
    if (Files.isRegularFile(application)) {
      String begun = Files.readString(application);
      OwnFiles.edit(
          application, begun.replace("  directory: main\n", "  directory: " + name + "\n"));
    }
  }

  /** Behind the line of {@code directories:}, indented as what follows it is. */
  private static String inserted(String text, List<String> lines, String end) {
    List<String> all = new ArrayList<>(List.of(text.split("\n", -1)));
    for (int i = 0; i < all.size(); i++) {
      if (all.get(i).matches("(\ufeff)?[\"']?directories[\"']?\\s*:\\s*(#.*)?")) {
        String indent = indent(all, i + 1);
        List<String> added =
            lines.stream().map(line -> indented(line, indent) + end.replace("\n", "")).toList();
        all.addAll(i + 1, added);
        return String.join("\n", all);
      }
    }
    return text;
  }

  private static String indent(List<String> all, int from) {
    for (String line : all.subList(from, all.size())) {
      String bare = line.strip();
      if (!bare.isEmpty() && !bare.startsWith("#")) {
        String indent = line.substring(0, line.indexOf(bare.charAt(0)));
        return indent.isEmpty() ? "  " : indent;
      }
    }
    return "  ";
  }

  /** Two spaces of ours become one step of theirs. */
  private static String indented(String line, String step) {
    int depth = (line.length() - line.stripLeading().length()) / 2;
    return step.repeat(depth + 1) + line.stripLeading();
  }

  /** At the end, before what ends a document. */
  private static String appended(String text, List<String> lines, String end) {
    StringBuilder added = new StringBuilder();
    boolean open = !text.isEmpty() && !text.endsWith("\n");
    added.append(open ? end : "").append("directories:").append(end);
    lines.forEach(line -> added.append("  ").append(line).append(end));
    int mark = text.lastIndexOf("\n...");
    boolean isMark = mark >= 0 && text.substring(mark + 4).isBlank();
    return isMark ? text.substring(0, mark + 1) + added + text.substring(mark + 1) : text + added;
  }

  /** Whether a text says what was there before, and the new directory, and nothing else. */
  private static boolean isThatAndOneMore(
      Node before, String changed, String name, List<String> lines) {
    Problems problems = new Problems();
    Node after = YamlReader.parse(changed, MAIN, problems).orElseGet(Node::nothing);
    Node added =
        YamlReader.parse(String.join("\n", lines) + "\n", MAIN, problems).orElseGet(Node::nothing);
    Set<String> keys = new LinkedHashSet<>(before.entries().keySet());
    keys.add("directories");
    boolean rest =
        keys.stream()
            .filter(key -> !key.equals("directories"))
            .allMatch(key -> says(before, key).equals(says(after, key)));
    Node now = after.get("directories").orElseGet(Node::nothing);
    Node then = before.get("directories").orElseGet(Node::nothing);
    return problems.errors() == 0
        && rest
        && keys.equals(after.entries().keySet())
        && now.entries().size() == then.entries().size() + 1
        && says(now, name).equals(says(added, name))
        && then.entries().keySet().stream().allMatch(key -> says(then, key).equals(says(now, key)));
  }

  private static String says(Node map, String key) {
    return map.get(key).map(Node::says).orElse("");
  }
}
