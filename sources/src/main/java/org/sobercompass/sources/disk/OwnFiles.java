package org.sobercompass.sources.disk;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.AtomicMoveNotSupportedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Set;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Plain;
import org.sobercompass.core.problem.Problem;

/**
 * Writes files that hold access data. Such a file is readable by its owner only (mode 0600, new
 * folders 0700), and it is there whole or not at all: it is written beside its place, forced to
 * disk, then moved. An interrupted process takes its unfinished files away; those of a killed
 * process are taken away by the next write to the same place.
 *
 * <p>Every failure is an {@link OutsideException} that names the file and the reason. Thread-safe.
 */
public final class OwnFiles {
  private static final Set<PosixFilePermission> FILE = PosixFilePermissions.fromString("rw-------");
  private static final Set<PosixFilePermission> FOLDER =
      PosixFilePermissions.fromString("rwx------");
  private static final int MOST_NAMES = 1000;

  private OwnFiles() {}

  /** Writes the content of a file. */
  @FunctionalInterface
  public interface Content {
    /** Writes all of it; the stream is buffered and is closed by the caller. */
    void to(OutputStream out) throws IOException;
  }

  /**
   * Writes a file in place of the one that is there. A symbolic link stays, and the file it leads
   * to is replaced. A device or a pipe is written to as it is.
   *
   * @throws OutsideException when it cannot be written; the file that was there stays
   */
  public static void write(Path target, Content content) {
    replace(target, content, FILE);
  }

  /** Writes a text in UTF-8, like {@link #write}. */
  public static void write(Path target, String text) {
    write(target, out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
  }

  /**
   * Writes a file that a person keeps: as {@link #write}, but one that is there keeps its mode.
   *
   * @throws OutsideException when it cannot be written; the file that was there stays
   */
  public static void edit(Path target, String text) {
    Set<PosixFilePermission> mode = FILE;
    try {
      mode = Files.exists(target) ? Files.getPosixFilePermissions(target) : FILE;
    } catch (IOException | UnsupportedOperationException e) {
      mode = FILE;
    }
    replace(target, out -> out.write(text.getBytes(StandardCharsets.UTF_8)), mode);
  }

  /**
   * Writes a new file and never replaces one that is there.
   *
   * @param target the wanted place; when it is taken, {@code -2}, {@code -3} and so on is put
   *     before {@code ending}
   * @param ending how the name ends
   * @return where it was put
   */
  public static Path writeNew(Path target, String ending, Content content) {
    try {
      Path part = Unfinished.part(target);
      try {
        fill(part, content, FILE);
        return link(part, target, ending);
      } finally {
        Unfinished.forget(part);
      }
    } catch (IOException e) {
      throw failed(target, e);
    }
  }

  /** Makes a folder, and those above that are missing, for their owner only. */
  public static Path folder(Path folder) {
    try {
      return folders(folder.toAbsolutePath());
    } catch (IOException e) {
      throw failed(folder, e);
    }
  }

  /** A new folder in the temporary place; see {@link Unfinished#scratch}. */
  public static Path scratch(String what) {
    return Unfinished.scratch(what);
  }

  /** Deletes a file or a folder with all in it; what cannot be deleted is left. */
  public static void discard(Path path) {
    Unfinished.discard(path);
  }

  /** A new name beside a target; see {@link Unfinished#part}. */
  public static Path part(Path target) throws IOException {
    return Unfinished.part(target);
  }

  /** What is said when a place cannot be written to. */
  public static OutsideException failed(Path target, IOException e) {
    return new OutsideException(
        Problem.error(
            Place.of(Plain.text(target.toString())),
            "cannot be written: " + reason(e),
            "a place that can be written to"));
  }

  /** Why something could not be read or written, in words. */
  public static String reason(IOException e) {
    if (e instanceof AccessDeniedException) {
      return "permission denied";
    }
    if (e instanceof NoSuchFileException) {
      return "there is no such file or folder";
    }
    if (e instanceof FileAlreadyExistsException there) {
      return Plain.text(there.getFile()) + " is in the way";
    }
    String said = e instanceof FileSystemException of ? of.getReason() : e.getMessage();
    return said == null || said.isBlank() ? "no reason given" : Plain.text(said);
  }

  private static void replace(Path target, Content content, Set<PosixFilePermission> mode) {
    try {
      Path real = Files.exists(target) ? target.toRealPath() : target.toAbsolutePath();
      if (Files.isDirectory(real)) {
        throw new FileSystemException(real.toString(), null, "a folder is in the way");
      }
      if (Files.exists(real) && !Files.isRegularFile(real)) {
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(real), 1 << 16)) {
          content.to(out);
        }
        return;
      }
      Path part = Unfinished.part(real);
      try {
        fill(part, content, mode);
        move(part, real);
      } finally {
        Unfinished.forget(part);
      }
    } catch (IOException e) {
      throw failed(target, e);
    }
  }

  /** Fills a file through its channel. */
  @FunctionalInterface
  public interface Filling {
    /** Writes all of it. */
    void to(FileChannel file) throws IOException;
  }

  /** Writes a file that can be made again: as {@link #write}, but not forced to disk. */
  public static void cache(Path target, Filling filling) {
    try {
      Path part = Unfinished.part(target);
      try (FileChannel file = channel(part, FILE)) {
        filling.to(file);
        Files.move(part, target, StandardCopyOption.REPLACE_EXISTING);
      } catch (UncheckedIOException e) {
        throw e.getCause();
      } finally {
        Unfinished.forget(part);
      }
    } catch (IOException e) {
      throw failed(target, e);
    }
  }

  private static FileChannel channel(Path file, Set<PosixFilePermission> mode) throws IOException {
    Set<OpenOption> options = Set.of(StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
    return FileChannel.open(file, options, attributes(file, mode));
  }

  /** Creates a file for its owner only; one that is there is an error. */
  public static OutputStream create(Path file) throws IOException {
    return Channels.newOutputStream(channel(file, FILE));
  }

  /** Moves a folder into place; one that another process put there meanwhile stays. */
  public static void putFolder(Path part, Path target) throws IOException {
    try {
      Files.move(part, target, StandardCopyOption.ATOMIC_MOVE);
    } catch (IOException e) {
      if (!Files.isDirectory(target)) {
        throw e;
      }
    }
  }

  private static void fill(Path part, Content content, Set<PosixFilePermission> mode)
      throws IOException {
    try (FileChannel file = channel(part, mode);
        FileLock held = file.lock()) {
      OutputStream out = new BufferedOutputStream(new Forward(file), 1 << 16);
      content.to(out);
      out.flush();
      file.force(true);
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
  }

  private static void move(Path part, Path target) throws IOException {
    try {
      Files.move(part, target, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    } catch (AtomicMoveNotSupportedException e) {
      Files.move(part, target, StandardCopyOption.REPLACE_EXISTING);
    }
    force(target);
  }

  /**
   * Puts a finished file at the first free name. A link fails where a file is; a move would not.
   */
  private static Path link(Path part, Path target, String ending) throws IOException {
    String name = target.getFileName().toString();
    String stem = name.endsWith(ending) ? name.substring(0, name.length() - ending.length()) : name;
    for (int i = 1; i <= MOST_NAMES; i++) {
      Path free = i == 1 ? target : target.resolveSibling(stem + "-" + i + ending);
      try {
        try {
          Files.createLink(free, part);
        } catch (UnsupportedOperationException | FileSystemException e) {
          if (e instanceof FileAlreadyExistsException there) {
            throw there;
          }
          Files.move(part, free);
        }
        force(free);
        return free;
      } catch (FileAlreadyExistsException e) {
        continue;
      }
    }
    throw new FileAlreadyExistsException(target.toString());
  }

  /** Forces the entry of a folder to disk, where the system lets a folder be opened. */
  private static void force(Path file) {
    Path folder = file.toAbsolutePath().getParent();
    if (folder != null) {
      try (FileChannel channel = FileChannel.open(folder, StandardOpenOption.READ)) {
        channel.force(true);
      } catch (IOException e) {
        return; // some systems do not open folders; the file itself is on disk
      }
    }
  }

  static Path folders(Path folder) throws IOException {
    if (Files.isDirectory(folder)) {
      return folder;
    }
    try {
      return Files.createDirectories(folder, attributes(folder, FOLDER));
    } catch (FileAlreadyExistsException e) {
      throw new FileSystemException(folder.toString(), null, e.getFile() + " is no folder");
    }
  }

  private static FileAttribute<?>[] attributes(Path path, Set<PosixFilePermission> mode) {
    return path.getFileSystem().supportedFileAttributeViews().contains("posix")
        ? new FileAttribute<?>[] {PosixFilePermissions.asFileAttribute(mode)}
        : new FileAttribute<?>[0];
  }

  /** Writes to a channel and leaves it open. */
  private static final class Forward extends OutputStream {
    private final OutputStream out;
    private final FileChannel file;

    Forward(FileChannel file) {
      this.file = file;
      this.out = Channels.newOutputStream(file);
    }

    @Override
    public void write(int b) throws IOException {
      out.write(b);
    }

    @Override
    public void write(byte[] bytes, int from, int length) throws IOException {
      ByteBuffer rest = ByteBuffer.wrap(bytes, from, length);
      while (rest.hasRemaining()) {
        file.write(rest);
      }
    }
  }
}
