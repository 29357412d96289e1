package org.sobercompass.sources.text;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.disk.OwnFiles;

/**
 * A file of the workspace that is read, changed here and there, and written back whole, unless
 * somebody else changed it meanwhile. Not thread-safe.
 */
public abstract class EditedFile {
  /** A byte order mark. */
  protected static final String MARK = "\uFEFF";

  private final Path file;
  private final String name;
  private final byte[] bytes;

  /**
   * Reads a file.
   *
   * @param name how the user names it
   * @throws OutsideException when it cannot be read
   */
  protected EditedFile(Path file, String name) {
    this.file = file;
    this.name = name;
    try {
      this.bytes = Files.readAllBytes(file);
    } catch (IOException e) {
      throw new OutsideException(
          Problem.error(
              Place.of(name), "cannot be read: " + OwnFiles.reason(e), "a file to write into"));
    }
  }

  /** What was read. */
  public final String read() {
    try {
      return StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes)).toString();
    } catch (CharacterCodingException e) {
      throw new OutsideException(
          Problem.error(Place.of(name), "the bytes are not UTF-8", "a file in UTF-8"));
    }
  }

  /** How the user names it. */
  public final String name() {
    return name;
  }

  /** The whole text as it stands now. */
  public abstract String text();

  /**
   * Looks whether the file still is what was read.
   *
   * @throws OutsideException when somebody else changed it since
   */
  public final void unchanged() {
    boolean same;
    try {
      same = Arrays.equals(Files.readAllBytes(file), bytes);
    } catch (IOException e) {
      throw OwnFiles.failed(file, e);
    }
    if (!same) {
      throw new OutsideException(
          Problem.error(
              Place.of(name),
              "the file was changed by somebody else since it was read",
              "the same command again, on what stands there now; nothing was written"));
    }
  }

  /**
   * Writes it in place of the file that was read, whole or not at all.
   *
   * @throws OutsideException when it cannot be written, or somebody else changed it since
   */
  public final void write() {
    unchanged();
    OwnFiles.edit(file, text());
  }
}
