package org.sobercompass.sources.files;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Arrays;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.text.TextFiles;

/**
 * Text in blocks: a line {@code # file: PATH}, then lines about it, then an empty line. Read as
 * bytes, for paths need be no text. Memory grows with the largest block only.
 */
final class Blocks {
  private static final byte[] FILE = "# file: ".getBytes(StandardCharsets.US_ASCII);
  private static final int FIRST = 1 << 20;

  private final String name;
  private final Problems problems;

  Blocks(String name, Problems problems) {
    this.name = name;
    this.problems = problems;
  }

  /** Takes one block. */
  interface Take {
    /**
     * One path with the lines about it.
     *
     * @param path as written
     * @param body the other lines, as bytes one a character
     * @param line where the block begins
     */
    void block(byte[] path, String body, int line);
  }

  void read(Path file, Take take) {
    TextFiles.stream(file, name, problems, in -> read(in, take));
  }

  void read(InputStream in, Take take) throws IOException {
    byte[] buffer = new byte[FIRST];
    int kept = 0;
    int number = 0;
    boolean more = true;
    while (more) {
      int read = in.readNBytes(buffer, kept, buffer.length - kept);
      more = read > 0;
      int end = kept + read;
      int done = more ? lastBlank(buffer, end) : end;
      number = blocks(buffer, done, number, take);
      kept = end - done;
      System.arraycopy(buffer, done, buffer, 0, kept);
      if (kept == buffer.length) {
        buffer = Arrays.copyOf(buffer, kept * 2);
      }
    }
  }

  /** Where the last block that is surely whole ends: after an empty line. */
  private static int lastBlank(byte[] buffer, int end) {
    for (int at = end - 1; at > 0; at--) {
      if (buffer[at] == '\n' && buffer[at - 1] == '\n') {
        return at + 1;
      }
    }
    return 0;
  }

  /** Goes through the lines of whole blocks; returns how many lines there were until now. */
  private int blocks(byte[] buffer, int end, int linesBefore, Take take) {
    int number = linesBefore;
    int pathFrom = -1;
    int pathTo = 0;
    int body = 0;
    int begin = 0;
    for (int at = 0; at < end; ) {
      int stop = at;
      while (stop < end && buffer[stop] != '\n') {
        stop++;
      }
      number++;
      boolean starts = starts(buffer, at, stop);
      if ((stop == at || starts) && pathFrom >= 0) {
        flush(buffer, pathFrom, pathTo, body, at, begin, take);
        pathFrom = -1;
      }
      if (starts) {
        pathFrom = at + FILE.length;
        pathTo = stop;
        body = Math.min(stop + 1, end);
        begin = number;
      } else if (pathFrom < 0 && stop > at && buffer[at] != '#') {
        problems.error(
            Place.of(name, number), "a line that belongs to no path", "# file: and a path first");
      }
      at = stop + 1;
    }
    if (pathFrom >= 0) {
      flush(buffer, pathFrom, pathTo, body, end, begin, take);
    }
    return number;
  }

  private static boolean starts(byte[] buffer, int from, int to) {
    return to - from >= FILE.length
        && Arrays.equals(buffer, from, from + FILE.length, FILE, 0, FILE.length);
  }

  private static void flush(
      byte[] buffer, int pathFrom, int pathTo, int body, int to, int begin, Take take) {
    byte[] path = Arrays.copyOfRange(buffer, pathFrom, pathTo);
    take.block(path, new String(buffer, body, to - body, StandardCharsets.ISO_8859_1), begin);
  }
}
