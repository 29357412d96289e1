package org.sobercompass.sources.disk;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.util.zip.CRC32;

/**
 * CRC-32 (ISO 3309) of files, at the speed of memory: shows what was cut or damaged. Who alters a
 * file on purpose can alter it so that its checksum stays.
 */
public final class Checksum {
  private static final long STEP = 1 << 28;

  private Checksum() {}

  /** Of a whole file. O(bytes). */
  public static long of(Path file) throws IOException {
    try (FileChannel in = FileChannel.open(file)) {
      return of(in, in.size());
    }
  }

  /** Of the first bytes of a file. O(bytes). */
  public static long of(FileChannel in, long bytes) throws IOException {
    CRC32 sum = new CRC32();
    for (long from = 0; from < bytes; from += STEP) {
      sum.update(in.map(FileChannel.MapMode.READ_ONLY, from, Math.min(STEP, bytes - from)));
    }
    return sum.getValue();
  }
}
