package org.sobercompass.sources.workspace;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.sources.disk.Folder;

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
    return new WorkspaceReader(new Folder(root, true), Set.of(), Optional.empty()).mapping(facts);
  }

  /**
   * The files of a workspace by their names in its folder, without the exports of its directories,
   * its surveys and caches.
   *
   * @param most how many bytes they may have together
   * @throws IOException when they have more, or cannot be read
   */
  public static Map<String, byte[]> files(Workspace workspace, long most) throws IOException {
    Set<Path> exports = new HashSet<>();
    for (DirectoryFile directory : workspace.directories()) {
      exports.add(directory.entries().path().toAbsolutePath().normalize());
    }
    Map<String, byte[]> files = new TreeMap<>();
    long[] total = {0};
    Path root = workspace.root().toAbsolutePath().normalize();
    Files.walkFileTree(
        root,
        new SimpleFileVisitor<>() {
          @Override
          public FileVisitResult preVisitDirectory(Path folder, BasicFileAttributes attributes) {
            boolean hidden = !folder.equals(root) && isHidden(folder);
            return hidden ? FileVisitResult.SKIP_SUBTREE : FileVisitResult.CONTINUE;
          }

          @Override
          public FileVisitResult visitFile(Path file, BasicFileAttributes attributes)
              throws IOException {
            if (attributes.isRegularFile() && !exports.contains(file) && !isSurvey(file)) {
              total[0] += attributes.size();
              if (total[0] > most) {
                throw new IOException(
                    file + ": the files besides the exports have more than " + most + " bytes");
              }
              files.put(root.relativize(file).toString(), Files.readAllBytes(file));
            }
            return FileVisitResult.CONTINUE;
          }
        });
    return files;
  }

  private static boolean isHidden(Path folder) {
    return folder.getFileName().toString().startsWith(".");
  }

  private static boolean isSurvey(Path file) {
    return file.getFileName().toString().endsWith(".survey");
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
