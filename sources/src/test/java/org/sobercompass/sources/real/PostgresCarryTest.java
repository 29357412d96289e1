package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.carry.Carry;
import org.sobercompass.core.carry.CarryPlan;
import org.sobercompass.core.carry.CarryPlan.How;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;
import org.sobercompass.sources.database.DatabaseDoor;

/** Roles of a real PostgreSQL get what others have; the server says what each may. */
class PostgresCarryTest {
  private static final List<String> OLD = List.of("ann", "bob", "cai");
  private static final List<String> TABLES = List.of("plants", "beds", "seeds");
  private static final List<String> PRIVILEGES = List.of("SELECT", "INSERT", "UPDATE", "DELETE");

  @TempDir static Path folder;
  private static Postgres server;

  @BeforeAll
  static void start() throws Exception {
    assumeTrue(Postgres.isThere(), "needs PostgreSQL 15");
    server = Postgres.start();
    execute("create role keeper; create role team; create role crew;");
    for (String name : OLD) {
      execute("create role " + name + " login; create role new_" + name + " login");
    }
    execute("grant team to ann; grant crew to bob; grant team to new_bob");
    execute("create schema garden authorization keeper; grant usage on schema garden to public");
    for (String table : TABLES) {
      execute("set role keeper; create table garden." + table + "(a integer, b integer)");
    }
    Files.writeString(
        folder.resolve("compass.yaml"),
        "directories:\n  roles: {kind: postgresql, file: b.jsonl}\napplications: [b.yaml]\n");
    Files.writeString(folder.resolve("b.yaml"), "kind: postgresql\nid: b\ncollection: b.jsonl\n");
  }

  @AfterAll
  static void stop() {
    if (server != null) {
      server.close();
    }
  }

  private static Connection connect() throws SQLException {
    return DriverManager.getConnection(
        "jdbc:postgresql://127.0.0.1:" + server.port() + "/postgres", "postgres", "");
  }

  private static void execute(String statements) throws SQLException {
    try (Connection root = connect();
        Statement sql = root.createStatement()) {
      sql.execute(statements);
    }
  }

  private static Organization read() {
    new DatabaseDoor(
            "127.0.0.1",
            server.port(),
            "postgres",
            "postgres",
            Optional.empty(),
            true,
            Optional.empty())
        .collect(folder.resolve("b.jsonl"), Secret.Origins.PROCESS);
    return Organization.open(folder);
  }

  /** What a role may, by the server's own word. */
  private static Set<String> may(String role) throws SQLException {
    Set<String> all = new TreeSet<>();
    try (Connection root = connect();
        Statement sql = root.createStatement()) {
      for (String table : TABLES) {
        for (String privilege : PRIVILEGES) {
          for (String option : List.of("", " WITH GRANT OPTION")) {
            String asked = "'" + role + "','garden." + table + "','" + privilege + option + "'";
            try (ResultSet answer = sql.executeQuery("select has_table_privilege(" + asked + ")")) {
              answer.next();
              if (answer.getBoolean(1)) {
                all.add(table + " " + privilege + option);
              }
            }
          }
        }
        for (String column : List.of("a", "b")) {
          String asked = "'" + role + "','garden." + table + "','" + column + "','SELECT'";
          try (ResultSet answer = sql.executeQuery("select has_column_privilege(" + asked + ")")) {
            answer.next();
            if (answer.getBoolean(1)) {
              all.add(table + "." + column);
            }
          }
        }
      }
    }
    return all;
  }

  private static void grant(Random random) throws SQLException {
    List<String> to = List.of("ann", "bob", "cai", "team", "crew", "new_ann", "new_cai");
    for (String table : TABLES) {
      execute("revoke all on garden." + table + " from " + String.join(",", to) + " cascade");
      execute("revoke all (a, b) on garden." + table + " from " + String.join(",", to));
      for (String role : to) {
        if (random.nextBoolean()) {
          String privilege = PRIVILEGES.get(random.nextInt(PRIVILEGES.size()));
          String option = random.nextInt(3) == 0 ? " with grant option" : "";
          execute(
              "set role keeper; grant "
                  + privilege
                  + " on garden."
                  + table
                  + " to "
                  + role
                  + option);
        }
        if (random.nextInt(4) == 0) {
          execute("set role keeper; grant select (a) on garden." + table + " to " + role);
        }
      }
    }
  }

  private static Map<Integer, Integer> counterparts(Facts facts) {
    Map<Integer, Integer> all = new LinkedHashMap<>();
    for (SubjectKind kind : List.of(SubjectKind.ACCOUNT, SubjectKind.GROUP)) {
      for (String name : OLD) {
        List<Integer> from = facts.names().find(kind, name, name);
        List<Integer> to = facts.names().find(kind, "new_" + name, "new_" + name);
        if (from.size() == 1 && to.size() == 1) {
          all.put(from.get(0), to.get(0));
        }
      }
    }
    return all;
  }

  private static Amended amended(Organization before, Proposal proposal, String name) {
    TargetKind.Door door =
        new TargetKind.Door(
            "b",
            "127.0.0.1:" + server.port() + "/postgres",
            Optional.of("postgres"),
            Optional.empty(),
            true,
            Optional.empty());
    return Amended.of(before, proposal, folder.resolve(name), door, "");
  }

  @Test
  void whatTheOldRoleMayTheNewOneMay() throws Exception {
    int given = 0;
    for (int round = 0; round < 6; round++) {
      grant(new Random(round));
      Organization before = read();
      AccessModel model = before.assessment().model();
      How how = round % 2 == 0 ? How.BESIDE : How.INSTEAD;
      Proposal proposal =
          new Carry(model, counterparts(model.facts()), CarryPlan.USUAL.by(how))
              .make()
              .proposal("carried");
      Map<String, Set<String>> was = new LinkedHashMap<>();
      List<String> all = new ArrayList<>(OLD);
      OLD.forEach(name -> all.add("new_" + name));
      for (String role : all) {
        was.put(role, may(role));
      }
      Amended amended = amended(before, proposal, "round" + round);
      for (var target : amended.folder().amendment().targets()) {
        assertThat(amended.carryOut(target.name()).isWhole()).as(target.name()).isTrue();
      }
      for (String name : OLD) {
        Set<String> is = may("new_" + name);
        assertThat(is).as(how + " " + name).containsAll(was.get(name));
        Set<String> both = new TreeSet<>(was.get(name));
        both.addAll(was.get("new_" + name));
        assertThat(is).as("no more than both").isEqualTo(both);
        given += is.size() - was.get("new_" + name).size();
        if (how == How.BESIDE) {
          assertThat(may(name)).isEqualTo(was.get(name));
        }
      }
      AccessModel after = read().assessment().model();
      assertThat(
              new Carry(after, counterparts(after.facts()), CarryPlan.USUAL.by(how))
                  .make()
                  .proposal("")
                  .steps())
          .isEmpty();
      for (var target : amended.folder().amendment().targets()) {
        assertThat(amended.undo(target.name()).isWhole()).as(target.name()).isTrue();
      }
      for (String role : all) {
        assertThat(may(role)).as("undone: " + role).isEqualTo(was.get(role));
      }
    }
    assertThat(given).isGreaterThan(20);
  }

  /** Everything that was collected of defaults and owners, items in any order. */
  private static Set<String> defaultsAndOwners() throws IOException {
    Set<String> lines = new TreeSet<>();
    for (String line : Files.readAllLines(folder.resolve("b.jsonl"))) {
      if (line.contains("\"kind\":\"default\"")) {
        char[] letters = line.toCharArray();
        Arrays.sort(letters);
        lines.add(line.replaceFirst("\"grants\":.*", "") + new String(letters));
      } else if (line.contains("\"kind\":\"relation\"")) {
        lines.add(line.replaceFirst("\"grants\":\\[.*?]", ""));
      }
    }
    return lines;
  }

  @Test
  void whatTheOldRoleOwnsAndWouldGetTheNewOneOwnsAndWouldGet() throws Exception {
    execute("create schema yard; create table yard.paths(a integer)");
    execute("alter table yard.paths owner to ann; grant usage on schema yard to ann, new_ann");
    execute("set role ann; grant delete on yard.paths to team");
    String later = "alter default privileges for role keeper in schema garden grant ";
    execute(later + "select on tables to ann, new_ann; " + later + "insert on tables to ann");
    execute(later + "update on tables to new_ann; " + later + "usage on sequences to bob");
    try {
      Organization before = read();
      Set<String> was = defaultsAndOwners();
      AccessModel model = before.assessment().model();
      Proposal proposal =
          new Carry(model, counterparts(model.facts()), CarryPlan.USUAL.by(How.INSTEAD))
              .make()
              .proposal("carried");
      Amended amended = amended(before, proposal, "items");
      for (var target : amended.folder().amendment().targets()) {
        Work work = amended.carryOut(target.name());
        assertThat(work.isWhole()).as(target.name() + work.failed() + work.stopped()).isTrue();
      }
      AccessModel after = read().assessment().model();
      SystemView view = after.system("b").orElseThrow();
      assertThat(view.system().what(view.resources().find("/postgres/yard/paths").orElseThrow()))
          .isEqualTo("table of new_ann");
      assertThat(view.system().made(view.resources().find("/postgres/garden").orElseThrow()))
          .containsExactlyInAnyOrder(
              "a new table by keeper: insert, select, update to new_ann",
              "a new sequence by keeper: usage to new_bob");
      assertThat(
              new Carry(after, counterparts(after.facts()), CarryPlan.USUAL.by(How.INSTEAD))
                  .make()
                  .proposal("")
                  .steps())
          .isEmpty();
      for (var target : amended.folder().amendment().targets()) {
        assertThat(amended.undo(target.name()).isWhole()).as(target.name()).isTrue();
      }
      read();
      assertThat(defaultsAndOwners()).isEqualTo(was);
    } finally {
      execute("drop schema yard cascade; drop owned by ann, bob, new_ann, new_bob");
    }
  }
}
