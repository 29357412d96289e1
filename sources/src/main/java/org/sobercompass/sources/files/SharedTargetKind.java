package org.sobercompass.sources.files;

import java.util.List;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;

/**
 * Lists of files behind shares: the whole list of each path as SDDL. They are changed over SMB, or
 * on the file server by its own tools.
 */
public final class SharedTargetKind implements TargetKind {
  /** The word for it. */
  static final String ID = "shared-files";

  private static final Form FORM =
      new Form(
          ID,
          "a table of paths and their lists as SDDL",
          ".csv",
          "smb://HOST/SHARE, or smb://HOST/SHARE/FOLDER, where the top of the tree is",
          "");

  @Override
  public Form form() {
    return FORM;
  }

  @Override
  public String text(List<AmendmentRecord> records) {
    return table("path", records);
  }

  /** A table of places with their lists. */
  static String table(String first, List<AmendmentRecord> records) {
    StringBuilder out = new StringBuilder(first + ",was,is\n");
    for (AmendmentRecord record : records) {
      for (Difference difference : record.differences()) {
        out.append(quoted(record.place()))
            .append(',')
            .append(quoted(String.join("", difference.removed())))
            .append(',')
            .append(quoted(String.join("", difference.added())))
            .append('\n');
      }
    }
    return out.toString();
  }

  private static String quoted(String text) {
    return '"' + text.replace("\"", "\"\"") + '"';
  }

  @Override
  public LiveTarget open(Door door, Secret.Origins origins) {
    if (door.authority().isPresent()) {
      throw new Collecting.Mistyped("SMB knows no certificates; leave out --ca");
    }
    return new SharedTarget(
        ShareDoor.open(door.where(), door.as(), door.secret(), door.plain(), origins));
  }
}
