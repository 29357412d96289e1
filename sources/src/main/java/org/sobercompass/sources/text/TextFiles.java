package org.sobercompass.sources.text;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.Optional;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;

/** Reads small text files whole, as UTF-8, with a limit on their size. */
public final class TextFiles {
  /** The largest file that is read whole, in bytes. */
  public static final long LARGEST = 512L << 20;

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
      long size = Files.size(file);
      if (size > largest) {
        problems.error(Place.of(name), "the file has " + size + " bytes", "at most " + largest);
        return Optional.empty();
      }
      return decode(Files.readAllBytes(file), name, problems);
    } catch (NoSuchFileException e) {
      problems.error(Place.of(name), "there is no such file", "a file, relative to the workspace");
    } catch (IOException e) {
      problems.error(
          Place.of(name), "the file cannot be read (" + e.getMessage() + ")", "a readable file");
    }
    return Optional.empty();
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
