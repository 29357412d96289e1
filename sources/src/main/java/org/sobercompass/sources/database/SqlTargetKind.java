package org.sobercompass.sources.database;

import java.util.List;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.problem.Plain;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;

/** Databases that are changed by statements, all of them in one transaction. */
public final class SqlTargetKind implements TargetKind {
  /** The word for it. */
  static final String ID = "postgresql";

  private static final Form FORM =
      new Form(
          ID,
          "SQL statements in one transaction",
          ".sql",
          "HOST:PORT/DATABASE",
          "psql -v ON_ERROR_STOP=1 -h HOST -U ROLE -d DATABASE -f FILE");

  @Override
  public Form form() {
    return FORM;
  }

  @Override
  public String text(List<AmendmentRecord> records) {
    StringBuilder out = new StringBuilder();
    for (AmendmentRecord record : records) {
      out.append("-- ")
          .append(record.number())
          .append(": ")
          .append(Plain.text(record.words()))
          .append("\n-- In the database ")
          .append(Plain.text(record.place()))
          .append(". First is asked whether all is as it was read.\nbegin;\n");
      SqlForm.statements(record).forEach(line -> out.append(line).append(";\n"));
      out.append("commit;\n");
    }
    return out.toString();
  }

  @Override
  public LiveTarget open(Door door, Secret.Origins origins) {
    DatabaseDoor to =
        DatabaseDoor.of(door.where(), door.as(), door.secret(), door.plain(), door.authority());
    return new SqlTarget(to, to.open(origins));
  }
}
