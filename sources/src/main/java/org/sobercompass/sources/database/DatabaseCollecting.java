package org.sobercompass.sources.database;

import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.Secret;

/** Roles, memberships, objects and grants of a PostgreSQL database, over the wire. */
public final class DatabaseCollecting implements Collecting {
  private static final Pattern ADDRESS =
      Pattern.compile("(?<host>\\[[^]]+\\]|[^:/]+)(:(?<port>[0-9]{1,5}))?/(?<database>.+)");
  private static final int USUAL_PORT = 5432;

  @Override
  public String id() {
    return "database";
  }

  @Override
  public List<String> collect(Request request) {
    Matcher address = ADDRESS.matcher(request.where());
    if (!address.matches()) {
      throw new Mistyped(
          Problem.quote(request.where())
              + " is no address of a database; expected HOST:PORT/DATABASE");
    }
    String role =
        request
            .as()
            .orElseThrow(() -> new Mistyped("as whom to sign in is not said; expected --as ROLE"));
    String port = address.group("port");
    DatabaseDoor door =
        new DatabaseDoor(
            address.group("host"),
            port == null ? USUAL_PORT : Integer.parseInt(port),
            address.group("database"),
            role,
            request.secret(),
            request.plain(),
            request.authority());
    int lines = door.collect(request.target(), Secret.Origins.PROCESS);
    return List.of(
        "Collected "
            + lines
            + " roles, memberships, objects and defaults of "
            + address.group("database")
            + " into "
            + request.target()
            + ".");
  }
}
