package org.sobercompass.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.file.FileSystemException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.Optional;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Plain;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.sources.disk.OwnFiles;

/** What is printed when a command fails, and with which exit code it ends. */
final class Fault {
  /** The folder whose workspace is read, for what is said when memory ends. */
  private static Path workspace = Path.of("");

  private Fault() {}

  static void workspace(Path root) {
    workspace = root;
  }

  static int tell(Throwable thrown, PrintWriter err) {
    Throwable e = cause(thrown);
    if (e instanceof Output.Closed) {
      return Exit.SOURCE;
    }
    if (e instanceof BadInputException) {
      return said(e, Exit.INPUT, err);
    }
    if (e instanceof OutsideException) {
      return said(e, Exit.SOURCE, err);
    }
    if (e instanceof UsageException || e instanceof UnknownNameException) {
      return said(e, Exit.USAGE, err);
    }
    if (e instanceof InvalidPathException path) {
      err.println(Problem.quote(path.getInput()) + " is no name of a file.");
      return Exit.USAGE;
    }
    if (e instanceof OutOfMemoryError) {
      err.println(memory());
      return Exit.FAULT;
    }
    if (e instanceof FileSystemException file && file.getFile() != null) {
      err.println(
          Plain.text(file.getFile()) + ": cannot be read or written: " + OwnFiles.reason(file));
      return Exit.SOURCE;
    }
    err.println("This is a fault of the program itself; please report it with what follows.");
    thrown.printStackTrace(err);
    return Exit.FAULT;
  }

  private static int said(Throwable e, int code, PrintWriter err) {
    err.println(Plain.lines(String.valueOf(e.getMessage())));
    return code;
  }

  /** What lies below the wrappers that threads and streams put around what went wrong. */
  private static Throwable cause(Throwable thrown) {
    Throwable at = thrown;
    for (int depth = 0; depth < 20 && at.getCause() != null; depth++) {
      boolean ours =
          at instanceof BadInputException
              || at instanceof OutsideException
              || at instanceof UsageException;
      if (ours) {
        return at;
      }
      at = at.getCause();
    }
    return at;
  }

  /** What the facts need, and what all findings need, in bytes of memory to a byte of the files. */
  private static final int FACTS = 2;

  private static final int FINDINGS = 20;

  /** How much memory there was, how much is likely to do, and where it is set. */
  private static String memory() {
    long allowed = Runtime.getRuntime().maxMemory() >> 20;
    Optional<Long> files = files();
    String needed =
        files
            .map(
                mib ->
                    " At a guess, one answer about this workspace takes "
                        + needed(FACTS, mib)
                        + " MiB, and all findings take "
                        + needed(FINDINGS, mib)
                        + " MiB.")
            .orElse("");
    return "Out of memory: the program may use "
        + allowed
        + " MiB."
        + needed
        + " Set more with SOBER_JAVA_OPTIONS, as in SOBER_JAVA_OPTIONS=-Xmx"
        + Math.max(needed(FINDINGS, files.orElse(0L)), 2 * allowed)
        + "m.";
  }

  private static long needed(int factor, long files) {
    return 64 + factor * files;
  }

  /** The files of the workspace, in MiB. */
  private static Optional<Long> files() {
    long[] bytes = new long[1];
    try {
      Files.walkFileTree(
          workspace.toAbsolutePath(),
          new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
              bytes[0] += file.endsWith("facts.bin") ? 0 : attributes.size();
              return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult visitFileFailed(Path file, IOException e) {
              return FileVisitResult.CONTINUE;
            }
          });
    } catch (IOException | UncheckedIOException e) {
      return Optional.empty();
    }
    return Optional.of(bytes[0] >> 20);
  }
}
