package org.sobercompass.sources.workspace;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.Facts;

/** The disposable binary cache of facts beside the sources. */
final class FactsCache {
  FactsCache(Path root, List<WorkspaceReader.DirectoryFile> directories, Set<String> needs) {}

  Optional<Facts> read() {
    return Optional.empty();
  }

  void write(Facts facts) {}
}
