package org.sobercompass.sources.text;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Optional;
import java.util.function.BiConsumer;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Plain;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.disk.OwnFiles;
import tools.jackson.core.JacksonException;

/** Reads small text files whole, as UTF-8, with a limit on their size. */
public final class TextFiles {
  /** The largest file that is read whole, in bytes. */
  public static final long LARGEST = 512L << 20;

  /** The longest line, in characters. */
  private static final int LONGEST = 64 << 20;

  private static final byte[] BOM = {(byte) 0xef, (byte) 0xbb, (byte) 0xbf};

  private TextFiles() {}

  /**
   * The text of a file without a byte order mark.
   *
   * @param file the file
   * @param name how the user names it
   * @param largest the most bytes it may have
   */
  public static Optional<String> read(Path file, String name, long largest, Problems problems) {
    try {
      if (!isFile(file, name, problems)) {
        return Optional.empty();
      }
      long size = Files.size(file);
      if (size > largest) {
        problems.error(Place.of(name), "the file has " + size + " bytes", "at most " + largest);
        return Optional.empty();
      }
      return decode(Files.readAllBytes(file), name, problems);
    } catch (IOException e) {
      unreadable(e, name, problems);
    }
    return Optional.empty();
  }

  /** Goes through a stream. */
  @FunctionalInterface
  public interface Bytes {
    /** Reads the stream; the caller closes it. */
    void from(InputStream in) throws IOException;
  }

  /**
   * Opens a file of any size and goes through it once, without a byte order mark. What cannot be
   * read is told as an error: no such file, a folder, a device or a pipe, which may never end.
   *
   * @param name how the user names it
   */
  public static void stream(Path file, String name, Problems problems, Bytes bytes) {
    if (!isFile(file, name, problems)) {
      return;
    }
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
      in.mark(BOM.length);
      if (!Arrays.equals(in.readNBytes(BOM.length), BOM)) {
        in.reset();
      }
      bytes.from(in);
    } catch (IOException e) {
      unreadable(e, name, problems);
    }
  }

  /**
   * The same, line by line in UTF-8, without blank lines. A line that is not UTF-8, or longer than
   * {@link #LONGEST}, is an error, and nothing after it is read.
   */
  public static void lines(
      Path file, String name, Problems problems, BiConsumer<String, Place> take) {
    stream(
        file,
        name,
        problems,
        in -> {
          var decoder = StandardCharsets.UTF_8.newDecoder();
          Cutter lines = new Cutter(new InputStreamReader(in, decoder));
          int number = 1;
          try {
            for (String line = lines.next(); line != null; line = lines.next(), number++) {
              if (line.length() > LONGEST) {
                problems.error(
                    Place.of(name, number), "the line is too long", "at most " + LONGEST);
                return;
              }
              if (!line.isBlank()) {
                take.accept(line, Place.of(name, number));
              }
            }
          } catch (CharacterCodingException e) {
            problems.error(Place.of(name, number), "the bytes are not UTF-8", "a file in UTF-8");
          }
        });
  }

  /** Takes lines out of a reader, by blocks; one that is too long is cut at one more. */
  private static final class Cutter {
    private final Reader in;
    private final char[] block = new char[1 << 16];
    private int at;
    private int end;

    Cutter(Reader in) {
      this.in = in;
    }

    /** The next line without its end; null at the end of the file. */
    @Nullable String next() throws IOException {
      StringBuilder line = new StringBuilder();
      boolean any = false;
      while (line.length() <= LONGEST) {
        if (at == end) {
          end = in.read(block);
          at = 0;
          if (end <= 0) {
            end = 0;
            return any ? without(line) : null;
          }
        }
        any = true;
        int from = at;
        while (at < end && block[at] != '\n') {
          at++;
        }
        line.append(block, from, at - from);
        if (at < end) {
          at++;
          return without(line);
        }
      }
      return line.toString();
    }

    /** Without a carriage return before the line end. */
    private static String without(StringBuilder line) {
      int length = line.length();
      boolean returns = length > 0 && line.charAt(length - 1) == '\r';
      return returns ? line.substring(0, length - 1) : line.toString();
    }
  }

  private static boolean isFile(Path file, String name, Problems problems) {
    if (Files.isRegularFile(file)) {
      return true;
    }
    String what =
        !Files.exists(file)
            ? "there is no such file"
            : Files.isDirectory(file) ? "this is a folder" : "this is a device or a pipe";
    String shown = name.isBlank() ? Problem.quote(name) : Plain.text(name);
    problems.error(Place.of(shown), what, "a file, relative to the workspace");
    return false;
  }

  /** Tells what a parser of JSON or CSV could not read, in one form. */
  public static void unparsed(
      JacksonException e, String name, String form, String expected, Problems problems) {
    var at = e.getLocation();
    if (e.getCause() instanceof CharacterCodingException) {
      problems.error(Place.of(name), "the bytes are not UTF-8", "a file in UTF-8");
    } else {
      problems.error(
          at == null ? Place.of(name) : Place.of(name, at.getLineNr(), at.getColumnNr()),
          "from here on this is not " + form,
          expected + "; often a bracket or quote before it is not closed");
    }
  }

  private static void unreadable(IOException e, String name, Problems problems) {
    boolean coding = e instanceof CharacterCodingException;
    problems.error(
        Place.of(Plain.text(name)),
        coding ? "the bytes are not UTF-8" : "the file cannot be read (" + OwnFiles.reason(e) + ")",
        coding ? "a file in UTF-8" : "a readable file");
  }

  /** Whether a file starts with these ASCII characters. */
  public static boolean startsWith(Path file, String start) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      return new String(in.readNBytes(start.length()), StandardCharsets.ISO_8859_1).equals(start);
    }
  }

  /** Whether a file ends with these ASCII characters, a carriage return before a line end aside. */
  public static boolean endsWith(Path file, String ending) throws IOException {
    try (FileChannel in = FileChannel.open(file)) {
      ByteBuffer tail = ByteBuffer.allocate((int) Math.min(in.size(), 2L * ending.length()));
      in.read(tail, in.size() - tail.capacity());
      return new String(tail.array(), StandardCharsets.ISO_8859_1)
          .replace("\r", "")
          .endsWith(ending);
    }
  }

  private static Optional<String> decode(byte[] bytes, String name, Problems problems) {
    ByteBuffer input = ByteBuffer.wrap(bytes);
    try {
      String text =
          StandardCharsets.UTF_8
              .newDecoder()
              .onMalformedInput(CodingErrorAction.REPORT)
              .onUnmappableCharacter(CodingErrorAction.REPORT)
              .decode(input)
              .toString();
      return Optional.of(text.startsWith("\uFEFF") ? text.substring(1) : text);
    } catch (CharacterCodingException e) {
      int line = 1;
      for (int i = 0; i < input.position(); i++) {
        line += bytes[i] == '\n' ? 1 : 0;
      }
      problems.error(Place.of(name, line), "the bytes are not UTF-8", "a file in UTF-8");
      return Optional.empty();
    }
  }
}
