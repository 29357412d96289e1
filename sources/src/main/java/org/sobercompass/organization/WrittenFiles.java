package org.sobercompass.organization;

import java.nio.file.Path;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiFunction;
import org.sobercompass.sources.text.EditedFile;
import org.sobercompass.sources.text.TableText;
import org.sobercompass.sources.text.YamlText;

/** The files of a workspace that a proposal is written into, and by which of its steps. */
final class WrittenFiles {
  private final Path root;
  private final Map<String, EditedFile> files = new LinkedHashMap<>();
  private final Map<String, Set<Integer>> steps = new HashMap<>();
  private final Map<String, Integer> changes = new LinkedHashMap<>();
  private int step;

  WrittenFiles(Path root) {
    this.root = root;
  }

  /** What follows is written for this step. */
  void of(int number) {
    step = number;
  }

  TableText table(String file) {
    return (TableText) edited(file, TableText::new);
  }

  YamlText yaml(String file) {
    return (YamlText) edited(file, YamlText::new);
  }

  /** Counts a row or line that is added, changed or taken out. */
  void changed(String file) {
    changes.merge(file, 1, Integer::sum);
  }

  private EditedFile edited(String file, BiFunction<Path, String, EditedFile> making) {
    steps.computeIfAbsent(file, f -> new TreeSet<>()).add(step);
    return files.computeIfAbsent(file, f -> making.apply(root.resolve(f), f));
  }

  Collection<EditedFile> all() {
    return List.copyOf(files.values());
  }

  Set<Integer> steps(EditedFile file) {
    return steps.getOrDefault(file.name(), Set.of());
  }

  Map<String, Integer> changes() {
    return Map.copyOf(changes);
  }
}
