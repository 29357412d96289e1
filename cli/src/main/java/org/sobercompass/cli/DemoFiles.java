package org.sobercompass.cli;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.sobercompass.sources.disk.OwnFiles;

/** The demo workspace, packed with the program. */
final class DemoFiles {
  /** All files, relative to the workspace. */
  static final List<String> ALL =
      List.of(
          "README.md",
          "ANSWERS.md",
          "compass.yaml",
          "persons.csv",
          "directory/alderfen.ldif",
          "directory/fernhollow.ldif",
          "directory/desks.ldif",
          "directory/rounds-own.csv",
          "admin.yaml",
          "scopes/helped.csv",
          "assignments/admin.csv",
          "applications/seedbook.yaml",
          "applications/climate.yaml",
          "applications/orders.yaml",
          "applications/permits.yaml",
          "applications/doors.yaml",
          "applications/notes.yaml",
          "applications/ledger.yaml",
          "applications/rounds.yaml",
          "assignments/rounds.csv",
          "registers/rounds.csv",
          "usage/permits.csv",
          "tasks.csv",
          "waivers.yaml",
          "expectations.yaml",
          "applications/fieldshare.yaml",
          "applications/fernstore.yaml",
          "applications/fieldbook.yaml",
          "files/fieldbook.jsonl",
          "files/fieldshare.csv",
          "files/fernstore.getfacl",
          "assignments/seedbook.csv",
          "assignments/orders.actual.csv",
          "assignments/orders.intended.csv",
          "assignments/permits.actual.csv",
          "assignments/permits.intended.csv",
          "assignments/doors.csv",
          "assignments/notes.csv",
          "assignments/ledger.csv",
          "registers/seedbook.csv",
          "proposals/standins.csv",
          "proposals/leave-approvers.ldif",
          "proposals/two-hands.yaml",
          "proposals/dusk-shift.yaml",
          "proposals/staging.sql");

  private DemoFiles() {}

  /** Writes all files below a folder. Refuses one that holds anything but an earlier demo. */
  static void write(Path root) {
    try {
      boolean ours = Files.exists(root.resolve("ANSWERS.md"));
      if (Files.exists(root) && !ours && !isEmpty(root)) {
        throw new UsageException(root + " is not empty; expected a new or empty folder");
      }
      for (String name : ALL) {
        Path target = root.resolve(name);
        try (InputStream in = DemoFiles.class.getResourceAsStream("demo/" + name)) {
          if (in == null) {
            throw new IllegalStateException("the program lacks its demo file " + name);
          }
          OwnFiles.write(target, in::transferTo);
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static boolean isEmpty(Path root) throws IOException {
    if (!Files.isDirectory(root)) {
      throw new UsageException(root + " is a file; expected a new or empty folder");
    }
    try (var files = Files.list(root)) {
      return files.findAny().isEmpty();
    }
  }
}
