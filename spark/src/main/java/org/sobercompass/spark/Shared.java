package org.sobercompass.spark;

import java.io.IOException;
import java.io.Serializable;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeMap;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.sources.workspace.Mapping;

/**
 * What every worker gets: groups and units without accounts, the files of the mapping, the point in
 * time. A process unpacks the files once, into a folder of its own.
 *
 * @param id unique to one layout
 * @param frame the facts without accounts
 * @param files the files of the mapping by name
 * @param asOf epoch second
 */
record Shared(String id, byte[] frame, TreeMap<String, byte[]> files, long asOf)
    implements Serializable {
  private static final Map<String, Path> UNPACKED = new HashMap<>();

  /** How many bytes it has. */
  long size() {
    long size = frame.length;
    for (byte[] file : files.values()) {
      size += file.length;
    }
    return size;
  }

  Facts facts() {
    return Mapping.facts(frame);
  }

  Instant time() {
    return Instant.ofEpochSecond(asOf);
  }

  /** The folder with the mapping in this process. */
  Path folder() {
    synchronized (UNPACKED) {
      return UNPACKED.computeIfAbsent(id, i -> unpack());
    }
  }

  private Path unpack() {
    try {
      Path folder =
          Files.createTempDirectory(
              "sober-mapping",
              PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rwx------")));
      Runtime.getRuntime().addShutdownHook(new Thread(() -> delete(folder)));
      for (Map.Entry<String, byte[]> file : files.entrySet()) {
        Path path = folder.resolve(file.getKey()).normalize();
        if (!path.startsWith(folder)) {
          throw new IOException(file.getKey() + " leads out of the folder of the mapping");
        }
        Files.createDirectories(path.getParent());
        Files.write(path, file.getValue());
      }
      return folder;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static void delete(Path folder) {
    try (var all = Files.walk(folder)) {
      all.sorted(java.util.Comparator.reverseOrder()).forEach(path -> path.toFile().delete());
    } catch (IOException e) {
      // It lies in the folder for temporary files; the next start of the machine empties that.
    }
  }
}
