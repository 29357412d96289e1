package org.sobercompass.sources.disk;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.CRC32;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;

/**
 * The last line of what this program collected: how many lines stand before it, and their CRC-32
 * (ISO 3309). It shows that a file was cut or damaged; who alters a file on purpose can alter its
 * last line too.
 */
public final class Ending extends FilterOutputStream {
  private static final int LONGEST = 200;

  private final CRC32 sum = new CRC32();
  private long lines;

  /** Counts what goes through to another stream. */
  public Ending(OutputStream out) {
    super(out);
  }

  /** How the last line is written in a format. */
  public enum Form {
    /** In text where comments begin with a number sign. */
    COMMENT("# end of %d lines, CRC-32 %s\n", "# end of (\\d{1,18}) lines, CRC-32 ([0-9a-f]{8})"),
    /** In JSON lines. */
    JSON(
        "{\"kind\":\"end\",\"lines\":%d,\"crc32\":\"%s\"}\n",
        "\\{\"kind\":\"end\",\"lines\":(\\d{1,18}),\"crc32\":\"([0-9a-f]{8})\"\\}");

    private final String written;
    private final Pattern read;

    Form(String written, String read) {
      this.written = written;
      this.read = Pattern.compile(read);
    }

    /** Whether a line is such a last line. */
    public boolean is(String line) {
      return read.matcher(line.strip()).matches();
    }
  }

  @Override
  public void write(int b) throws IOException {
    write(new byte[] {(byte) b}, 0, 1);
  }

  @Override
  public void write(byte[] bytes, int from, int length) throws IOException {
    out.write(bytes, from, length);
    sum.update(bytes, from, length);
    for (int i = from; i < from + length; i++) {
      lines += bytes[i] == '\n' ? 1 : 0;
    }
  }

  /** Writes the last line; nothing may follow it. */
  public void end(Form form) throws IOException {
    String line = String.format(Locale.ROOT, form.written, lines, hex(sum.getValue()));
    out.write(line.getBytes(StandardCharsets.US_ASCII));
    out.flush();
  }

  private static String hex(long sum) {
    return String.format(Locale.ROOT, "%08x", sum);
  }

  /**
   * Holds a file against its last line, where it has one; what does not fit is an error. O(bytes),
   * at the speed of memory.
   *
   * @param name how the user names the file
   * @return whether there is such a last line, or the file cannot be read, which is told
   */
  public static boolean check(Path file, String name, Form form, Problems problems) {
    try (FileChannel in = FileChannel.open(file)) {
      long size = in.size();
      ByteBuffer tail = ByteBuffer.allocate((int) Math.min(size, LONGEST));
      in.read(tail, size - tail.capacity());
      String text = new String(tail.array(), 0, tail.position(), StandardCharsets.ISO_8859_1);
      String rest = text.stripTrailing();
      String line = rest.substring(rest.lastIndexOf('\n') + 1);
      Matcher found = form.read.matcher(line);
      if (!found.matches()) {
        return false;
      }
      long end = size - (text.length() - rest.length()) - line.length();
      String sum = hex(Checksum.of(in, end));
      if (!found.group(2).equals(sum)) {
        problems.error(
            Place.of(name),
            "the file was cut, damaged or changed after it was collected: its checksum is "
                + sum
                + ", and its last line says "
                + found.group(1)
                + " lines with "
                + found.group(2),
            "the file as `sober collect` wrote it; collect it again");
      }
      return true;
    } catch (IOException e) {
      problems.error(Place.of(name), "the file cannot be read: " + OwnFiles.reason(e), "");
      return true;
    }
  }
}
