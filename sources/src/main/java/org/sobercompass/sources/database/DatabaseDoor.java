package org.sobercompass.sources.database;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.Optional;
import java.util.Properties;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.disk.Ending;
import org.sobercompass.sources.disk.OwnFiles;

/**
 * Where a database is and as whom to ask. TLS verifies the server and its name unless plain is
 * asked for in so many words.
 *
 * @param host the host
 * @param port the port
 * @param database the database
 * @param role as whom
 * @param password where the password comes from, if there is one
 * @param plain whether the connection may go without TLS
 * @param authority the certificate that signs the server's, if it is not a usual one
 */
public record DatabaseDoor(
    String host,
    int port,
    String database,
    String role,
    Optional<Secret> password,
    boolean plain,
    Optional<Path> authority) {
  private static final int PATIENCE_SECONDS = 60;
  private static final Pattern ADDRESS =
      Pattern.compile("(?<host>\\[[^]]+\\]|[^:/]+)(:(?<port>[0-9]{1,5}))?/(?<database>.+)");
  private static final int USUAL_PORT = 5432;

  /**
   * Collects the database into a file, which is there whole or not at all.
   *
   * @return how many lines
   * @throws OutsideException when it cannot be reached, refuses, or drops the connection
   */
  public int collect(Path out, Secret.Origins origins) {
    try (Connection connection = connect(origins)) {
      int[] lines = new int[1];
      OwnFiles.write(out, to -> lines[0] = collect(connection, to));
      return lines[0];
    } catch (SQLException e) {
      throw refused(e);
    }
  }

  private int collect(Connection connection, OutputStream to) throws IOException {
    Ending counted = new Ending(to);
    BufferedWriter writer =
        new BufferedWriter(new OutputStreamWriter(counted, StandardCharsets.UTF_8));
    try {
      int lines = DatabaseCollector.collect(connection, writer);
      writer.flush();
      counted.end(Ending.Form.JSON);
      return lines;
    } catch (SQLException e) {
      throw refused(e);
    }
  }

  private OutsideException refused(SQLException e) {
    return new OutsideException(
        Problem.error(
            Place.of(address()),
            "the database could not be read as "
                + Problem.quote(role)
                + ": "
                + String.valueOf(e.getMessage()).lines().findFirst().orElse("no reason given"),
            "a server that answers, a role that may sign in there, and TLS or --plain; nothing"
                + " was written"));
  }

  /**
   * A door as it was typed.
   *
   * @param where {@code HOST:PORT/DATABASE}; without a port the usual one
   * @throws Collecting.Mistyped when it cannot be meant
   */
  static DatabaseDoor of(
      String where,
      Optional<String> as,
      Optional<Secret> secret,
      boolean plain,
      Optional<Path> authority) {
    Matcher address = ADDRESS.matcher(where);
    if (!address.matches()) {
      throw new Collecting.Mistyped(
          Problem.quote(where) + " is no address of a database; expected HOST:PORT/DATABASE");
    }
    String port = address.group("port");
    return new DatabaseDoor(
        address.group("host"),
        port == null ? USUAL_PORT : Integer.parseInt(port),
        address.group("database"),
        as.orElseThrow(
            () -> new Collecting.Mistyped("as whom to sign in is not said; expected --as ROLE")),
        secret,
        plain,
        authority);
  }

  /**
   * A connection that stays open.
   *
   * @throws OutsideException when it cannot be reached or refuses
   */
  Connection open(Secret.Origins origins) {
    try {
      return connect(origins);
    } catch (SQLException e) {
      throw refused(e);
    }
  }

  /** Where it is, for people. */
  String address() {
    return host + ":" + port + "/" + database;
  }

  private Connection connect(Secret.Origins origins) throws SQLException {
    Properties properties = new Properties();
    properties.setProperty("user", role);
    password.ifPresent(p -> properties.setProperty("password", p.read(origins)));
    properties.setProperty("sslmode", plain ? "prefer" : "verify-full");
    authority.ifPresent(path -> properties.setProperty("sslrootcert", path.toString()));
    properties.setProperty("connectTimeout", "10");
    properties.setProperty("socketTimeout", String.valueOf(PATIENCE_SECONDS));
    properties.setProperty("ApplicationName", "sober collect");
    return DriverManager.getConnection(
        "jdbc:postgresql://"
            + host
            + ":"
            + port
            + "/"
            + database.replace("%", "%25").replace("?", "%3F"),
        properties);
  }
}
