package org.sobercompass.sources.files;

import java.io.BufferedInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;

/**
 * Text in blocks: a line {@code # file: PATH}, then lines about it, then an empty line. Read as
 * bytes, for paths need be no text. Memory does not grow with the file.
 */
final class Blocks {
  private static final byte[] FILE = "# file: ".getBytes(StandardCharsets.US_ASCII);
  private static final int LONGEST = 1 << 20;

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
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
      read(in, take);
    } catch (IOException e) {
      problems.error(
          Place.of(name), "the file cannot be read: " + e.getMessage(), "a file that can be read");
    }
  }

  void read(InputStream in, Take take) throws IOException {
    ByteArrayOutputStream body = new ByteArrayOutputStream(256);
    byte[] path = null;
    int begin = 0;
    int number = 0;
    byte[] chunk = new byte[1 << 16];
    ByteArrayOutputStream line = new ByteArrayOutputStream(256);
    for (int read = in.read(chunk); read >= 0; read = in.read(chunk)) {
      for (int at = 0; at < read; ) {
        int end = at;
        while (end < read && chunk[end] != '\n') {
          end++;
        }
        line.write(chunk, at, end - at);
        at = end + 1;
        if (end == read || line.size() > LONGEST) {
          continue;
        }
        number++;
        if (line.size() == 0) {
          flush(path, body, begin, take);
          path = null;
        } else if (starts(line)) {
          flush(path, body, begin, take);
          byte[] all = line.toByteArray();
          path = java.util.Arrays.copyOfRange(all, FILE.length, all.length);
          begin = number;
        } else if (path == null && line.toByteArray()[0] != '#') {
          problems.error(
              Place.of(name, number), "a line that belongs to no path", "# file: and a path first");
        } else {
          line.writeTo(body);
          body.write('\n');
        }
        line.reset();
      }
    }
    if (line.size() > 0) {
      line.writeTo(body);
      body.write('\n');
    }
    flush(path, body, begin, take);
  }

  private static boolean starts(ByteArrayOutputStream line) {
    byte[] all = line.toByteArray();
    return all.length >= FILE.length
        && java.util.Arrays.equals(all, 0, FILE.length, FILE, 0, FILE.length);
  }

  private static void flush(
      byte @org.jspecify.annotations.Nullable [] path,
      ByteArrayOutputStream body,
      int begin,
      Take take) {
    if (path != null) {
      take.block(path, body.toString(StandardCharsets.ISO_8859_1), begin);
    }
    body.reset();
  }
}
