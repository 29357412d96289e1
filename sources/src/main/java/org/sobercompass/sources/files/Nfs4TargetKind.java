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

/** Files with NFSv4 lists on this machine, changed through Java's file API where it has them. */
public final class Nfs4TargetKind implements TargetKind {
  /** The word for it. */
  static final String ID = "nfs4-files";

  private static final Form FORM =
      new Form(
          ID,
          "whole NFSv4 lists, an entry a line",
          ".nfs4",
          "the folder in which the tree stands; / when it is left out",
          "");

  @Override
  public Form form() {
    return FORM;
  }

  @Override
  public String text(List<AmendmentRecord> records) {
    StringBuilder out = new StringBuilder();
    for (AmendmentRecord record : records) {
      for (Difference difference : record.differences()) {
        out.append(PosixTargetKind.block(record.place(), difference.added().get(0)));
      }
    }
    return out.toString();
  }

  @Override
  public LiveTarget open(Door door, Secret.Origins origins) {
    Path root = Path.of(door.where().isEmpty() ? "/" : door.where()).toAbsolutePath();
    if (!Files.isDirectory(root)) {
      throw new Collecting.Mistyped(
          "there is no folder " + Problem.quote(root.toString()) + "; expected " + FORM.where());
    }
    return Nfs4Target.open(root);
  }
}
