package org.sobercompass.sources.workspace;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YamlReader;

/**
 * What a workspace says besides its directories: systems with their assignments, and rules. It can
 * be carried to another machine and read there over a part of the directories' facts.
 *
 * @param systems the systems over those facts
 * @param rules thresholds and separation rules
 */
public record Mapping(List<AccessSystem> systems, FindingRules rules) {

  /**
   * Reads the mapping of a workspace that was read whole before, over other facts: what it names
   * that is not among them is left out without a word.
   *
   * @param root the folder with compass.yaml; no file outside it is opened
   */
  public static Mapping over(Path root, Facts facts) {
    return new WorkspaceReader(
            new Workspace.Origin(new Folder(root, true), Set.of(), Optional.empty(), List.of()))
        .mapping(facts);
  }

  /**
   * The files that the mapping of a workspace is made of, by their names in its folder: without
   * what its directories are read from.
   *
   * @throws org.sobercompass.core.problem.BadInputException when one is missing or outside the
   *     folder
   */
  public static Map<String, Path> files(Path root) {
    Problems problems = new Problems();
    Folder folder = Folder.of(root);
    Node main =
        YamlReader.read(root.resolve(WorkspaceReader.MAIN), WorkspaceReader.MAIN, problems)
            .orElseGet(Node::nothing);
    problems.throwIfErrors();
    List<DirectorySettings> directories =
        DirectorySettings.read(main, WorkspaceReader.zone(main, problems), folder, problems);
    Set<String> names = WorkspaceFiles.of(root, main, directories, problems);
    directories.forEach(directory -> names.removeAll(directory.names()));
    problems.throwIfErrors();
    Map<String, Path> files = new TreeMap<>();
    names.forEach(name -> files.put(name, root.resolve(name)));
    return files;
  }

  /** Facts as bytes, for {@link #facts}: in the form of the cache, which may change. */
  public static byte[] bytes(Facts facts) {
    ByteArrayOutputStream all = new ByteArrayOutputStream();
    FactsCodec.write(
        facts.arrays(),
        bytes ->
            all.write(bytes.array(), bytes.arrayOffset() + bytes.position(), bytes.remaining()));
    return all.toByteArray();
  }

  /** The facts that {@link #bytes} wrote. */
  public static Facts facts(byte[] bytes) {
    return new Facts(FactsCodec.read(new FactsCodec.In(ByteBuffer.wrap(bytes))));
  }
}
