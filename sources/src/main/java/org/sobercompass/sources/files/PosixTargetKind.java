package org.sobercompass.sources.files;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;

/** Files with 1003.1e lists on this machine; their files are what {@code setfacl} restores. */
public final class PosixTargetKind implements TargetKind {
  /** The word for it. */
  static final String ID = "posix-files";

  private static final Form FORM =
      new Form(
          ID,
          "lists of files, as setfacl restores them",
          ".acl",
          "the folder in which the tree stands; / when it is left out",
          "setfacl --restore=FILE");

  @Override
  public Form form() {
    return FORM;
  }

  @Override
  public String text(List<AmendmentRecord> records) {
    return blocks(records);
  }

  /** The lists as they are to be, each under its path. */
  static String blocks(List<AmendmentRecord> records) {
    StringBuilder out = new StringBuilder();
    for (AmendmentRecord record : records) {
      for (Difference difference : record.differences()) {
        out.append(block(record.place(), difference.added().get(0)));
      }
    }
    return out.toString();
  }

  /** A path with its list. */
  static String block(String path, String list) {
    return "# file: " + path + "\n" + list + "\n\n";
  }

  @Override
  public LiveTarget open(Door door, Secret.Origins origins) {
    return new PosixTarget(root(door, FORM));
  }

  /** The folder in which a tree stands. */
  static Path root(Door door, Form form) {
    Path root = Path.of(door.where().isEmpty() ? "/" : door.where()).toAbsolutePath();
    if (!Files.isDirectory(root)) {
      throw new Collecting.Mistyped(
          "there is no folder " + Problem.quote(root.toString()) + "; expected " + form.where());
    }
    return root;
  }
}
