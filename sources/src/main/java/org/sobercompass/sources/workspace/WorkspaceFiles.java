package org.sobercompass.sources.workspace;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.crosswalk.CrosswalkSettings;
import org.sobercompass.sources.delegation.AdminReader;
import org.sobercompass.sources.rules.FindingRulesReader;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YamlReader;

/** Which files a mapping is made of. */
final class WorkspaceFiles {
  private WorkspaceFiles() {}

  /** The workspace's own files: the settings, the applications and what they name. */
  static Set<String> of(
      Path root, Node main, List<DirectorySettings> directories, Problems problems) {
    Set<String> files = new LinkedHashSet<>(List.of(WorkspaceReader.MAIN));
    directories.forEach(directory -> files.addAll(directory.names()));
    main.get("persons").ifPresent(node -> files.addAll(node.texts("file")));
    CrosswalkSettings.read(
            main,
            directories.stream().map(DirectorySettings::name).collect(Collectors.toSet()),
            problems)
        .forEach(
            crosswalk -> {
              if (Files.exists(root.resolve(crosswalk.file()))) {
                files.add(crosswalk.file());
              }
            });
    files.addAll(FindingRulesReader.files(main));
    main.text("admin")
        .ifPresent(
            name -> {
              files.add(name);
              YamlReader.read(root.resolve(name), name, problems)
                  .ifPresent(node -> files.addAll(AdminReader.files(node)));
            });
    for (Node entry : main.get("applications").map(Node::items).orElse(List.of())) {
      files.add(entry.text());
      YamlReader.read(root.resolve(entry.text()), entry.text(), problems)
          .ifPresent(
              node ->
                  WorkspaceReader.format(node, problems)
                      .ifPresent(format -> files.addAll(format.files(node))));
    }
    for (String name : files) {
      if (!Files.isReadable(root.resolve(name))) {
        problems.error(Place.of(name), "there is no such file", "a file of the workspace");
      } else if (!inside(root, name)) {
        problems.error(Place.of(name), "the file is outside the workspace", "a file in it");
      }
    }
    return files;
  }

  private static boolean inside(Path root, String name) {
    Path base = root.toAbsolutePath().normalize();
    return base.resolve(name).normalize().startsWith(base);
  }
}
