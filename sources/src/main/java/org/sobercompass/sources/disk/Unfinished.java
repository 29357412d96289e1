package org.sobercompass.sources.disk;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.locks.LockSupport;
import java.util.regex.Pattern;

/**
 * Files and folders that are being made. An interrupted process takes its own away; those of a
 * killed process are taken away by the next that writes to the same place. Thread-safe.
 */
final class Unfinished {
  private static final String SCRATCH = "sober-";
  private static final Pattern PART = Pattern.compile("[.]part[.]([0-9]{1,18})[.][0-9]+$");
  private static final Pattern FOLDER_NAME = Pattern.compile("^sober-([0-9]{1,18})-.*$");

  /** What this process has not finished; deleted when it is interrupted. */
  private static final Set<Path> UNFINISHED = ConcurrentHashMap.newKeySet();

  private static final AtomicInteger NEXT = new AtomicInteger();

  /** How long a name that was given out just before the end may take to become a file. */
  private static final long LAST_MILLIS = 100;

  /** Whether the process is ending: nothing is begun any more. */
  private static volatile boolean ending;

  static {
    Runtime.getRuntime().addShutdownHook(new Thread(Unfinished::end));
  }

  private Unfinished() {}

  /**
   * Takes all away. Other threads still run meanwhile: they begin nothing new, and what they were
   * just about to make is taken away a moment later.
   */
  private static void end() {
    ending = true;
    List<Path> left = List.copyOf(UNFINISHED);
    if (left.isEmpty()) {
      return;
    }
    left.forEach(Unfinished::discard);
    try {
      Thread.sleep(LAST_MILLIS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    left.forEach(Unfinished::discard);
  }

  /** Notes what is about to be made; where the process is ending, this never returns. */
  private static void begin(Path path) {
    UNFINISHED.add(path);
    if (ending) {
      discard(path);
    }
    while (ending) {
      LockSupport.park();
    }
  }

  /**
   * A new folder in the temporary place, for its owner only. It is deleted when the process ends;
   * {@link #discard} it before. Folders of processes that were killed are deleted first.
   */
  static Path scratch(String what) {
    Path temporary = Path.of(System.getProperty("java.io.tmpdir", "/tmp"));
    try {
      sweep(temporary, FOLDER_NAME, "");
      Path folder =
          Files.createTempDirectory(
              temporary, SCRATCH + ProcessHandle.current().pid() + "-" + what + "-");
      begin(folder);
      return folder;
    } catch (IOException e) {
      throw OwnFiles.failed(temporary, e);
    }
  }

  /** Deletes a file or a folder with all in it; what cannot be deleted is left. */
  static void discard(Path path) {
    UNFINISHED.remove(path);
    if (Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS)) {
      try (var files = Files.walk(path)) {
        files.sorted(Comparator.reverseOrder()).forEach(file -> file.toFile().delete());
      } catch (IOException | UncheckedIOException e) {
        path.toFile().deleteOnExit();
      }
    } else {
      path.toFile().delete();
    }
  }

  /** A new name beside the target, after what a killed process left there was taken away. */
  static Path part(Path target) throws IOException {
    Path folder = Optional.ofNullable(target.toAbsolutePath().getParent()).orElse(target);
    OwnFiles.folders(folder);
    sweep(folder, PART, target.getFileName().toString());
    Path part =
        target.resolveSibling(
            target.getFileName()
                + ".part."
                + ProcessHandle.current().pid()
                + "."
                + NEXT.incrementAndGet());
    begin(part);
    return part;
  }

  static void forget(Path part) throws IOException {
    UNFINISHED.remove(part);
    Files.deleteIfExists(part);
  }

  /** Deletes what killed processes left: their number is in the name, and nobody has a lock. */
  private static void sweep(Path folder, Pattern name, String begin) {
    try (var files = Files.newDirectoryStream(folder, entry -> isLeft(entry, name, begin))) {
      files.forEach(Unfinished::discard);
    } catch (IOException | RuntimeException e) {
      return; // a folder that cannot be listed is not cleaned; writing to it tells what is wrong
    }
  }

  private static boolean isLeft(Path entry, Pattern pattern, String begin) {
    String name = entry.getFileName().toString();
    var found = pattern.matcher(name);
    if (!name.startsWith(begin) || !found.find()) {
      return false;
    }
    if (ProcessHandle.of(Long.parseLong(found.group(1))).isPresent()
        || !Files.isWritable(entry)
        || Files.isSymbolicLink(entry)) {
      return false;
    }
    if (Files.isDirectory(entry)) {
      return true;
    }
    // A process of another machine or container may have that number: it holds a lock.
    try (FileChannel file = FileChannel.open(entry, StandardOpenOption.WRITE);
        FileLock free = file.tryLock()) {
      return free != null;
    } catch (IOException | RuntimeException e) {
      return false;
    }
  }
}
