package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.database.DatabaseDoor;
import org.sobercompass.sources.live.CuttingProxy;
import org.sobercompass.sources.workspace.Workspace;

/**
 * PostgreSQL decides: its privilege functions for every role, object and right of a random cluster,
 * and real statements of roles that sign in. Needs root and postgresql-15.
 */
class PostgresTest {
  private static final int ROLES = 34;
  private static final int SCHEMAS = 5;
  private static final int TABLES = 48;
  private static final String DATABASE = "field \"book\"";

  private static final String MAY_NOT = "42501";

  /** A view that computes its columns cannot be updated by anybody. */
  private static final String NOT_UPDATABLE = "55000";

  @TempDir private static Path folder;
  private static Postgres server;
  private static final List<String> ROLE_NAMES = new ArrayList<>();
  private static final Map<String, Integer> ACCOUNTS = new LinkedHashMap<>();
  private static AccessModel model;

  /** Views and row security come before the right itself, which the functions tell of. */
  private static final List<String> BASES = new ArrayList<>();

  private record Thing(String kind, String sql, String path, String column) {}

  private static final List<Thing> THINGS = new ArrayList<>();

  @BeforeAll
  static void fill() throws Exception {
    assumeTrue(Postgres.isThere(), "needs root and postgresql-15");
    server = Postgres.start();
    try (Connection root = server.connect("postgres", "postgres");
        Statement sql = root.createStatement()) {
      Random random = new Random(15);
      roles(sql, random);
      sql.execute("create database \"field \"\"book\"\"\" owner r3");
    }
    try (Connection root = server.connect("postgres", DATABASE);
        Statement sql = root.createStatement()) {
      objects(sql, new Random(16));
    }
    Path collection = folder.resolve("book.jsonl");
    door("postgres").collect(collection, Secret.Origins.PROCESS);
    Files.writeString(
        folder.resolve("compass.yaml"),
        "directories:\n  book: {kind: postgresql, file: book.jsonl}\napplications: [book.yaml]\n");
    Files.writeString(
        folder.resolve("book.yaml"), "kind: postgresql\nid: book\ncollection: book.jsonl\n");
    model = Workspace.open(folder).model();
  }

  @AfterAll
  static void stop() {
    if (server != null) {
      server.close();
    }
  }

  private static DatabaseDoor door(String role) {
    return new DatabaseDoor(
        "127.0.0.1", server.port(), DATABASE, role, Optional.empty(), true, Optional.empty());
  }

  private static void roles(Statement sql, Random random) throws SQLException {
    for (int i = 0; i < ROLES; i++) {
      String name = i == 7 ? "Odd \"role\", {x}=/" : "r" + i;
      ROLE_NAMES.add(name);
      sql.execute(
          "create role "
              + quoted(name)
              + " login"
              + (random.nextInt(4) == 0 ? " noinherit" : "")
              + (i == 5 ? " superuser" : ""));
    }
    for (int i = 0; i < ROLES * 2; i++) {
      int member = random.nextInt(ROLES);
      int role = random.nextInt(member + 1);
      if (member != role) {
        sql.execute("grant " + quoted(role(role)) + " to " + quoted(role(member)));
      }
    }
    sql.execute("grant pg_read_all_data to r9, r12");
    sql.execute("grant pg_write_all_data to r10");
  }

  private static String role(int number) {
    return ROLE_NAMES.get(number);
  }

  private static String quoted(String name) {
    return "\"" + name.replace("\"", "\"\"") + "\"";
  }

  private static void objects(Statement sql, Random random) throws SQLException {
    sql.execute("revoke connect on database \"field \"\"book\"\"\" from public");
    String database = "/" + DATABASE;
    THINGS.add(new Thing("database", quoted(DATABASE), database, ""));
    for (int i = 0; i < ROLES; i++) {
      if (i % 5 != 4) {
        sql.execute(
            "grant connect"
                + (i % 3 == 0 ? ", create" : "")
                + " on database "
                + quoted(DATABASE)
                + " to "
                + quoted(role(i)));
      }
    }
    for (int s = 0; s < SCHEMAS; s++) {
      String schema = s == 2 ? "odd/one" : "s" + s;
      sql.execute("create schema " + quoted(schema) + " authorization " + quoted(any(random)));
      THINGS.add(new Thing("schema", quoted(schema), path(schema), ""));
      for (int g = 0; g < 6; g++) {
        grant(sql, random, "usage, create", "schema " + quoted(schema));
      }
    }
    THINGS.add(new Thing("schema", "public", path("public"), ""));
    for (int t = 0; t < TABLES; t++) {
      table(sql, random, t);
    }
  }

  private static void table(Statement sql, Random random, int number) throws SQLException {
    int s = random.nextInt(SCHEMAS);
    String schema = s == 2 ? "odd/one" : "s" + s;
    String name = "t" + number;
    String full = quoted(schema) + "." + name;
    int kind = random.nextInt(6);
    if (kind == 4) {
      sql.execute("create sequence " + full);
      THINGS.add(new Thing("sequence", full, path(schema, name), ""));
      own(sql, random, "sequence", full);
      several(sql, random, "select, update, usage", "sequence " + full);
      return;
    }
    if (kind == 3 && BASES.size() > 3) {
      view(sql, random, full, path(schema, name));
      return;
    }
    if (kind == 5) {
      sql.execute(
          "create function " + full + "(integer) returns integer language sql as 'select $1'");
      THINGS.add(new Thing("function", full + "(integer)", path(schema, name + "(integer)"), ""));
      sql.execute("alter function " + full + " owner to " + quoted(any(random)));
      if (random.nextBoolean()) {
        sql.execute("revoke execute on function " + full + " from public");
      }
      several(sql, random, "execute", "function " + full);
      return;
    }
    sql.execute(
        kind == 3
            ? "create view " + full + " as select 1 a, 2 b"
            : "create table " + full + "(a integer, b integer)");
    THINGS.add(new Thing("table", full, path(schema, name), ""));
    own(sql, random, kind == 3 ? "view" : "table", full);
    if (kind != 3) {
      BASES.add(full);
      rows(sql, random, full);
    }
    several(
        sql,
        random,
        "select, insert, update, delete, truncate, references, trigger",
        "table " + full);
    if (random.nextBoolean()) {
      for (String column : List.of("a", "b")) {
        grant(sql, random, "select (" + column + "), update (" + column + ")", "table " + full);
        THINGS.add(new Thing("column", full, path(schema, name, column), column));
      }
      grant(sql, random, "insert (a), references (a)", "table " + full);
    }
  }

  /** A view over one or two relations, some of them views, for its owner or for its invoker. */
  private static void view(Statement sql, Random random, String full, String path)
      throws SQLException {
    String first = BASES.get(random.nextInt(BASES.size()));
    String second = random.nextInt(3) == 0 ? BASES.get(random.nextInt(BASES.size())) : "";
    sql.execute(
        "create view "
            + full
            + (random.nextInt(3) == 0 ? " with (security_invoker = true)" : "")
            + " as select x.a, x.b from "
            + first
            + " x"
            + (second.isEmpty() ? "" : ", " + second + " y"));
    THINGS.add(new Thing("view", full, path, ""));
    BASES.add(full);
    own(sql, random, "view", full);
    several(sql, random, "select, insert, update, delete", "table " + full);
    grant(sql, random, "select", "table " + full);
    grant(sql, random, "select, insert", "table " + full);
  }

  /** Row security, sometimes with policies, sometimes for the owner too. */
  private static void rows(Statement sql, Random random, String full) throws SQLException {
    sql.execute("insert into " + full + " values (1, 1)");
    if (random.nextInt(4) > 0) {
      return;
    }
    sql.execute("alter table " + full + " enable row level security");
    if (random.nextInt(3) == 0) {
      sql.execute("alter table " + full + " force row level security");
    }
    for (int p = random.nextInt(3); p > 0; p--) {
      String command =
          List.of("all", "select", "insert", "update", "delete").get(random.nextInt(5));
      sql.execute(
          "create policy p"
              + p
              + " on "
              + full
              + " for "
              + command
              + " to "
              + (random.nextInt(3) == 0 ? "public" : quoted(any(random)))
              + (command.equals("insert") ? " with check (true)" : " using (true)"));
    }
  }

  private static void own(Statement sql, Random random, String kind, String full)
      throws SQLException {
    sql.execute("alter " + kind + " " + full + " owner to " + quoted(any(random)));
    if (random.nextInt(6) == 0) {
      sql.execute(
          "revoke all on "
              + (kind.equals("view") ? "table" : kind)
              + " "
              + full
              + " from current_user, public");
    }
  }

  private static void several(Statement sql, Random random, String rights, String on)
      throws SQLException {
    for (int g = random.nextInt(6); g >= 0; g--) {
      List<String> some = new ArrayList<>();
      for (String right : rights.split(", ")) {
        if (random.nextInt(3) == 0) {
          some.add(right);
        }
      }
      if (!some.isEmpty()) {
        grant(sql, random, String.join(", ", some), on);
      }
    }
  }

  private static void grant(Statement sql, Random random, String rights, String on)
      throws SQLException {
    boolean everybody = random.nextInt(9) == 0;
    sql.execute(
        "grant "
            + rights
            + " on "
            + on
            + " to "
            + (everybody ? "public" : quoted(any(random)))
            + (!everybody && random.nextInt(3) == 0 ? " with grant option" : ""));
  }

  private static String any(Random random) {
    return role(random.nextInt(ROLES));
  }

  private static String path(String... way) {
    StringBuilder path = new StringBuilder("/" + DATABASE);
    for (String step : way) {
      path.append('/').append(step.replace("/", "\\057"));
    }
    return path.toString();
  }

  private static final Map<String, List<String>> RIGHTS =
      Map.of(
          "database", List.of("connect", "create", "temporary"),
          "schema", List.of("usage", "create"),
          "table",
              List.of("select", "insert", "update", "delete", "truncate", "references", "trigger"),
          "view", List.of("select", "insert", "update", "delete"),
          "column", List.of("select", "insert", "update", "references"),
          "sequence", List.of("select", "update", "usage"),
          "function", List.of("execute"));

  @Test
  void itsPrivilegeFunctionsSayTheSameForEveryRoleObjectAndRight() throws SQLException {
    List<String> different = new ArrayList<>();
    int decisions = 0;
    try (Connection root = server.connect("postgres", DATABASE);
        Statement sql = root.createStatement()) {
      Asker asker = model.asker();
      for (Thing thing : THINGS) {
        for (String right : RIGHTS.get(thing.kind)) {
          for (String option : List.of("", "grant-")) {
            Map<String, Boolean> seen = functions(sql, thing, right, !option.isEmpty());
            for (Map.Entry<String, Boolean> one : seen.entrySet()) {
              decisions++;
              boolean known = last(asker, one.getKey(), option + right, thing.path) == Verdict.YES;
              if (known != one.getValue()) {
                different.add(
                    one.getKey()
                        + " "
                        + option
                        + right
                        + " "
                        + thing.path
                        + ": the server says "
                        + one.getValue());
              }
            }
          }
        }
      }
    }
    System.out.println("PostgreSQL's functions agree on " + decisions + " decisions.");
    assertThat(different).isEmpty();
    assertThat(decisions).isGreaterThan(20_000);
  }

  private static Map<String, Boolean> functions(
      Statement sql, Thing thing, String right, boolean option) throws SQLException {
    String asked = "'" + right + (option ? " with grant option" : "") + "'";
    String object =
        thing.kind.equals("database") || thing.kind.equals("schema")
            ? thing
                .sql
                .substring(thing.sql.startsWith("\"") ? 1 : 0)
                .replaceAll("\"$", "")
                .replace("\"\"", "\"")
            : thing.sql;
    String call =
        thing.kind.equals("column")
            ? "has_column_privilege(r.oid, '" + object + "', '" + thing.column + "', " + asked + ")"
            : "has_"
                + thing.kind.replace("view", "table")
                + "_privilege(r.oid, '"
                + object
                + "', "
                + asked
                + ")";
    Map<String, Boolean> seen = new LinkedHashMap<>();
    try (ResultSet rows =
        sql.executeQuery("select rolname, " + call + " from pg_roles r where rolcanlogin")) {
      while (rows.next()) {
        seen.put(rows.getString(1), rows.getBoolean(2));
      }
    }
    return seen;
  }

  /** The last layer alone: what the functions answer, without the way. */
  private static Verdict last(Asker asker, String role, String right, String path) {
    SystemView view = model.system("book").orElseThrow();
    List<Layer> layers =
        view.decider().layers(asker.token(view, account(role)), question(view, right, path));
    return layers.get(layers.size() - 1).verdict();
  }

  private static int account(String role) {
    return ACCOUNTS.computeIfAbsent(role, PostgresTest::find);
  }

  private static int find(String role) {
    return NameResolver.find(model.facts(), SubjectKind.ACCOUNT, role).get(0);
  }

  private static Question question(SystemView view, String right, String path) {
    return Question.of(
        view.resources().find(path).orElseThrow(), view.rights().find(right).orElseThrow());
  }

  @Test
  void realStatementsOfEachRoleSucceedExactlyWhereTheWayIsOpenToo() throws SQLException {
    List<String> different = new ArrayList<>();
    Asker asker = model.asker();
    SystemView view = model.system("book").orElseThrow();
    int decisions = 0;
    int functionsDiffer = 0;
    for (String role : ROLE_NAMES) {
      Map<String, Boolean> seen = statements(role);
      for (Map.Entry<String, Boolean> one : seen.entrySet()) {
        String[] asked = one.getKey().split("\n");
        Question question = question(view, asked[0], asked[1]);
        boolean known = asker.decide(view, account(role), question) == Verdict.YES;
        decisions++;
        if (known != one.getValue()) {
          different.add(role + " " + asked[0] + " " + asked[1] + ": it was " + one.getValue());
        }
        if (!known && last(asker, role, asked[0], asked[1]) == Verdict.YES) {
          functionsDiffer++;
        }
      }
    }
    System.out.println(
        "Real statements agree on "
            + decisions
            + " decisions; in "
            + functionsDiffer
            + " the privilege functions say yes and the statement fails for want of the way.");
    assertThat(different).isEmpty();
    assertThat(functionsDiffer).isGreaterThan(50);
    assertThat(decisions).isGreaterThan(3_000);
  }

  private static Map<String, Boolean> statements(String role) throws SQLException {
    Map<String, Boolean> seen = new LinkedHashMap<>();
    Optional<Connection> connection = Optional.empty();
    try {
      connection = Optional.of(server.connect(role, DATABASE));
    } catch (SQLException e) {
      assertThat(e.getSQLState()).isEqualTo("42501");
    }
    for (Thing thing : THINGS) {
      for (String[] tried : attempts(thing)) {
        String answer = connection.isPresent() ? state(connection.get(), tried[1]) : MAY_NOT;
        if (!answer.equals(NOT_UPDATABLE)) {
          seen.put(tried[0] + "\n" + thing.path, answer.isEmpty());
        }
      }
    }
    if (connection.isPresent()) {
      connection.get().close();
    }
    return seen;
  }

  private static List<String[]> attempts(Thing thing) {
    String on = thing.sql;
    return switch (thing.kind) {
      case "database" ->
          List.of(
              new String[][] {
                {"connect", "select 1"},
                {"create", "create schema made_here"},
                {"temporary", "create temporary table made_here(a integer)"}
              });
      case "schema" ->
          List.<String[]>of(
              new String[] {"create", "create table " + on + ".made_here(a integer)"});
      case "column" ->
          List.of(
              new String[][] {
                {"select", "select " + thing.column + " from " + on},
                {"update", "update " + on + " set " + thing.column + " = default"}
              });
      case "sequence" -> List.<String[]>of(new String[] {"select", "select last_value from " + on});
      case "function" ->
          List.<String[]>of(new String[] {"execute", "select " + on.replace("(integer)", "(1)")});
      case "view" ->
          List.of(
              new String[][] {
                {"select", "select a, b from " + on},
                {"insert", "insert into " + on + " (a) values (7)"},
                {"drop", "drop view " + on + " cascade"}
              });
      case "table" ->
          List.of(
              new String[][] {
                {"truncate", "truncate " + on}, {"drop", "drop table " + on + " cascade"}
              });
      default -> List.of();
    };
  }

  /** The state in which a statement ends; empty when it succeeds. */
  private static String state(Connection connection, String statement) throws SQLException {
    connection.setAutoCommit(false);
    try (Statement sql = connection.createStatement()) {
      boolean rows = sql.execute(statement);
      // Where no policy lets rows through there is no error, and no row: each table has one.
      boolean none =
          rows
              ? statement.matches("select .* from .*") && !sql.getResultSet().next()
              : statement.startsWith("update") && sql.getUpdateCount() == 0;
      return none ? MAY_NOT : "";
    } catch (SQLException e) {
      assertThat(e.getSQLState()).as(statement).isIn(MAY_NOT, NOT_UPDATABLE);
      return e.getSQLState();
    } finally {
      connection.rollback();
    }
  }

  @Test
  void aDatabaseThatDropsTheConnectionLeavesNoFile() throws Exception {
    try (CuttingProxy cutting = new CuttingProxy(server.port(), 6_000, 9)) {
      Path out = folder.resolve("cut.jsonl");
      DatabaseDoor door =
          new DatabaseDoor(
              "127.0.0.1",
              cutting.port(),
              DATABASE,
              "postgres",
              Optional.empty(),
              true,
              Optional.empty());
      assertThatThrownBy(() -> door.collect(out, Secret.Origins.PROCESS))
          .isInstanceOf(OutsideException.class)
          .hasMessageContaining("nothing was written");
      assertThat(out).doesNotExist();
      assertThat(folder.resolve("cut.jsonl.part")).doesNotExist();
    }
  }

  @Test
  void aCatalogueThatMayNotBeReadIsSaidAndNotTakenForEmpty() throws Exception {
    try (Connection root = server.connect("postgres", DATABASE);
        Statement sql = root.createStatement()) {
      sql.execute("revoke select on pg_catalog.pg_default_acl from public");
      Path out = folder.resolve("less.jsonl");
      door("r0").collect(out, Secret.Origins.PROCESS);
      assertThat(Files.readString(out))
          .contains("{\"kind\":\"unread\",\"what\":\"default\"")
          .contains("permission denied");
      sql.execute("grant select on pg_catalog.pg_default_acl to public");
    }
  }
}
