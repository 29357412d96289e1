package org.sobercompass.sources.database;

import java.sql.Array;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Standing;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.database.AclItem;

/** A live database that is changed: all of a record in one transaction. */
final class SqlTarget implements LiveTarget {
  /** What the statements themselves say where something is not as it was read. */
  private static final String NOT_AS_READ = "SC001";

  private final DatabaseDoor door;
  private final Connection connection;

  SqlTarget(DatabaseDoor door, Connection connection) {
    this.door = door;
    this.connection = connection;
  }

  @Override
  public String identity() {
    try (Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery("select session_user")) {
      row.next();
      return row.getString(1);
    } catch (SQLException e) {
      throw failed(e);
    }
  }

  @Override
  public String reached() {
    String protection =
        "select coalesce((select 'TLS' from pg_stat_ssl where pid = pg_backend_pid() and ssl),"
            + " 'no TLS, in clear')";
    try (Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(protection)) {
      row.next();
      return door.address() + ", " + row.getString(1);
    } catch (SQLException e) {
      throw failed(e);
    }
  }

  @Override
  public Standing standing(AmendmentRecord record) {
    List<Standing> parts = new ArrayList<>();
    for (Difference difference : record.differences()) {
      Optional<List<String>> now = now(difference.name());
      parts.add(
          now.map(there -> Standing.of(difference, there, SqlTarget::isSame))
              .orElse(Standing.OTHER));
    }
    return Standing.all(parts);
  }

  /** What an object has now; empty when there is no such object. */
  private Optional<List<String>> now(String object) {
    try (Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(SqlForm.query(object))) {
      if (!row.next()) {
        return Optional.empty();
      }
      List<String> all = new ArrayList<>();
      Array array = row.getArray(1);
      for (Object item : (Object[]) array.getArray()) {
        all.add(String.valueOf(item));
      }
      return Optional.of(all);
    } catch (SQLException e) {
      throw failed(e);
    }
  }

  /** Items say the same in any order of their letters. */
  private static boolean isSame(String one, String other) {
    Optional<AclItem> item = AclItem.of(one);
    return one.equals(other) || (item.isPresent() && item.equals(AclItem.of(other)));
  }

  @Override
  public String found(AmendmentRecord record) {
    List<String> said = new ArrayList<>();
    for (Difference difference : record.differences()) {
      Optional<List<String>> now = now(difference.name());
      boolean other =
          now.map(there -> Standing.of(difference, there, SqlTarget::isSame))
              .filter(standing -> standing == Standing.BEFORE)
              .isEmpty();
      if (other) {
        said.add(
            now.map(there -> difference.name() + " has " + String.join(", ", there))
                .orElse("there is no " + difference.name()));
      }
    }
    return String.join("; ", said);
  }

  @Override
  public Result make(AmendmentRecord record) {
    try {
      connection.setAutoCommit(false);
      try (Statement statement = connection.createStatement()) {
        for (String one : SqlForm.statements(record)) {
          statement.execute(one);
        }
      }
      connection.commit();
      connection.setAutoCommit(true);
      return Result.MADE;
    } catch (SQLException e) {
      String why = String.valueOf(e.getMessage()).lines().findFirst().orElse("no reason given");
      if (!isOpen()) {
        return new Result(Outcome.LOST, "the connection ended: " + why);
      }
      return NOT_AS_READ.equals(e.getSQLState())
          ? new Result(Outcome.NOT_AS_COUNTED_ON, why)
          : new Result(Outcome.REFUSED, why);
    }
  }

  /** Ends what was begun; false when the connection is gone. */
  private boolean isOpen() {
    try {
      connection.rollback();
      connection.setAutoCommit(true);
      return connection.isValid(5);
    } catch (SQLException e) {
      return false;
    }
  }

  private OutsideException failed(SQLException e) {
    return new OutsideException(
        Problem.error(
            Place.of(door.address()),
            "the database cannot be asked: "
                + String.valueOf(e.getMessage()).lines().findFirst().orElse("no reason given"),
            "a server that answers; the same command again goes on"));
  }

  @Override
  public void close() {
    try {
      connection.close();
    } catch (SQLException e) {
      return; // it is gone already
    }
  }
}
