package org.sobercompass.sources.database;

import java.util.List;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.Secret;

/** Roles, memberships, objects and grants of a PostgreSQL database, over the wire. */
public final class DatabaseCollecting implements Collecting {
  @Override
  public String id() {
    return "database";
  }

  @Override
  public List<String> collect(Request request) {
    DatabaseDoor door =
        DatabaseDoor.of(
            request.where(), request.as(), request.secret(), request.plain(), request.authority());
    int lines = door.collect(request.target(), Secret.Origins.PROCESS);
    return List.of(
        "Collected "
            + lines
            + " roles, memberships, objects and defaults of "
            + door.database()
            + " into "
            + request.target()
            + ".");
  }
}
