package org.sobercompass.cli;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YamlReader;

/** Adds to {@code compass.yaml} as text, so that comments and order stay. */
final class WorkspaceText {
  private static final String MAIN = "compass.yaml";

  private WorkspaceText() {}

  /**
   * Adds a directory, or makes a workspace with it.
   *
   * @param lines what stands under {@code directories:}, without indentation
   */
  static Path add(Path root, String name, List<String> lines) {
    Path file = root.resolve(MAIN);
    try {
      List<String> text = new ArrayList<>();
      if (Files.exists(file)) {
        Problems problems = new Problems();
        Node main = YamlReader.read(file, MAIN, problems).orElseGet(Node::nothing);
        problems.throwIfErrors();
        if (main.get("directories").map(d -> d.entries().containsKey(name)).orElse(false)) {
          throw new UsageException(
              "there is a directory " + name + " in " + file + " already; expected another --name");
        }
        text.addAll(Files.readAllLines(file));
      } else {
        text.add("# The workspace. `sober check` reads it all and tells what is wrong.");
        text.add("zone: UTC");
      }
      insert(text, lines);
      Files.createDirectories(file.toAbsolutePath().getParent());
      Path beside = file.resolveSibling(MAIN + ".part");
      Files.write(beside, text);
      Problems problems = new Problems();
      YamlReader.read(beside, MAIN, problems);
      problems.throwIfErrors();
      Files.move(beside, file, StandardCopyOption.REPLACE_EXISTING);
      return file;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static void insert(List<String> text, List<String> lines) {
    List<String> indented = lines.stream().map(line -> "  " + line).toList();
    for (int i = 0; i < text.size(); i++) {
      if (text.get(i).matches("directories:\\s*(#.*)?")) {
        text.addAll(i + 1, indented);
        return;
      }
    }
    text.add("directories:");
    text.addAll(indented);
  }
}
