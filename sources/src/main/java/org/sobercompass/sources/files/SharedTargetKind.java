package org.sobercompass.sources.files;

import java.util.List;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;

/** Lists of files behind shares: the whole list of each path as SDDL, to be set on its server. */
public final class SharedTargetKind implements TargetKind {
  /** The word for it. */
  static final String ID = "shared-files";

  private static final Form FORM =
      new Form(
          ID,
          "a table of paths and their lists as SDDL",
          ".csv",
          "nowhere: its lists are set on the file server, by its own tools",
          "");

  @Override
  public Form form() {
    return FORM;
  }

  @Override
  public String text(List<AmendmentRecord> records) {
    StringBuilder out = new StringBuilder("path,was,is\n");
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
    throw new Collecting.Mistyped(
        door.target() + " cannot be changed from here; expected somebody on its file server");
  }
}
