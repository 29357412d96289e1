package org.sobercompass.spark;

import java.io.Serializable;
import java.nio.file.Path;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeMap;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.disk.OwnFiles;
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
    Path folder = OwnFiles.scratch("mapping");
    Runtime.getRuntime().addShutdownHook(new Thread(() -> OwnFiles.discard(folder)));
    Folder closed = new Folder(folder, true);
    files.forEach(
        (name, bytes) -> {
          Path file = closed.resolve(name);
          OwnFiles.write(file, out -> out.write(bytes));
        });
    return folder;
  }
}
