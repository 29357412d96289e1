package org.sobercompass.sources.files;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.files.FileFacts;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.TextFiles;

/** What a workspace says of paths beside their lists. */
final class TreeMarks {
  private TreeMarks() {}

  /**
   * A list of a folder looks like one of a file; this tells which of what has nothing in it are.
   */
  static void folders(Path path, String name, FileFacts.Builder into, Problems problems) {
    PathText paths = new PathText(into.paths());
    TextFiles.read(path, name, TextFiles.LARGEST, problems)
        .orElse("")
        .lines()
        .filter(line -> !line.isBlank())
        .forEach(
            line -> {
              // Names as they are: what looks like an escape is none here.
              byte[] raw = line.replace("\\", "\\134").getBytes(StandardCharsets.UTF_8);
              int node = paths.node(raw);
              if (node >= 0) {
                into.folder(node);
              }
            });
  }

  static void above(Node file, FileFacts.Builder into) {
    Optional<String> above = file.text("above");
    if (above.isPresent() && !Set.of("open", "unknown").contains(above.get())) {
      file.get("above")
          .orElse(file)
          .wrong(
              "above: " + Problem.quote(above.get()) + " is neither",
              "open, when the folders above what was collected let everybody pass, or unknown");
    }
    if (above.filter("open"::equals).isPresent()) {
      into.openAbove();
    }
  }

  static void wasteBins(Node file, FileFacts.Builder into) {
    PathText paths = new PathText(into.paths());
    for (String path : file.texts("waste-bin")) {
      int node = paths.node(path.replace("\\", "\\134").getBytes(StandardCharsets.UTF_8));
      Node said = file.get("waste-bin").orElse(file);
      if (node < 0) {
        said.wrong("the path " + Problem.quote(path) + " leads out of its tree", "one without ..");
      } else if (!into.wasteBin(node)) {
        said.wrong("there is no " + path + " among the lists", "a folder that was collected");
      }
    }
  }
}
