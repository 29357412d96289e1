package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.system.Climb;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.database.DatabaseDoor;
import org.sobercompass.sources.workspace.Workspace;

/** A cluster with limits, expired roles, role creators, long chains and two databases. */
class PostgresClusterTest {
  @TempDir private static Path folder;
  private static Postgres server;
  private static Workspace workspace;
  private static AccessModel model;

  @BeforeAll
  static void fill() throws Exception {
    assumeTrue(Postgres.isThere(), "needs root and postgresql-15");
    server = Postgres.start();
    try (Connection root = server.connect("postgres", "postgres");
        Statement sql = root.createStatement()) {
      for (String statement :
          List.of(
              "create role plain login",
              "create role none_of_it login connection limit 0",
              "create role chief login superuser connection limit 0",
              "create role late login valid until '2020-01-01'",
              "create role maker login createrole",
              "create role a login noinherit",
              "create role b noinherit",
              "create role c noinherit",
              "grant b to a",
              "grant c to b",
              "grant chief to c",
              "create role files login",
              "grant pg_read_server_files to files",
              "create role owner_one login",
              "create role owner_two login",
              "create database one owner owner_one",
              "create database two owner owner_two connection limit 0")) {
        sql.execute(statement);
      }
    }
    try (Connection one = server.connect("postgres", "one");
        Statement sql = one.createStatement()) {
      sql.execute("create table public.t(a integer)");
    }
    try (Connection two = server.connect("postgres", "two");
        Statement sql = two.createStatement()) {
      sql.execute("create table public.t(a integer)");
    }
    StringBuilder main =
        new StringBuilder("directories:\n  pg: {kind: postgresql, file: one.jsonl}\n");
    main.append("applications: [one.yaml, two.yaml]\n");
    Files.writeString(folder.resolve("compass.yaml"), main);
    for (String database : List.of("one", "two")) {
      new DatabaseDoor(
              "127.0.0.1",
              server.port(),
              database,
              "postgres",
              Optional.empty(),
              true,
              Optional.empty())
          .collect(folder.resolve(database + ".jsonl"), Secret.Origins.PROCESS);
      Files.writeString(
          folder.resolve(database + ".yaml"),
          "kind: postgresql\nid: "
              + database
              + "\nsight: {directory: pg}\ncollection: "
              + database
              + ".jsonl\n");
    }
    workspace = Workspace.open(folder);
    model = workspace.model();
  }

  @AfterAll
  static void stop() {
    if (server != null) {
      server.close();
    }
  }

  private static int account(String role) {
    return NameResolver.find(model.facts(), SubjectKind.ACCOUNT, role).get(0);
  }

  private static SystemView view(String database) {
    return model.system(database).orElseThrow();
  }

  private static Standing.State state(String database, String role) {
    return model.asker().standing(view(database), account(role)).state();
  }

  @ParameterizedTest
  @CsvSource({
    "one, plain, USABLE",
    "one, none_of_it, BLOCKED",
    "one, chief, USABLE",
    "two, plain, BLOCKED",
    "two, owner_two, BLOCKED",
    "two, chief, USABLE"
  })
  void limitsOfRolesAndDatabasesStopAllButSuperusersAsOnTheServer(
      String database, String role, Standing.State expected) {
    assertThat(state(database, role)).isEqualTo(expected);
    if (expected == Standing.State.USABLE) {
      assertThatCode(() -> server.connect(role, database).close()).doesNotThrowAnyException();
    } else {
      assertThatThrownBy(() -> server.connect(role, database)).isInstanceOf(SQLException.class);
    }
  }

  @Test
  void anExpiredPasswordIsNamedAsSuch() {
    Standing standing = model.asker().standing(view("one"), account("late"));
    assertThat(standing.state()).isEqualTo(Standing.State.BLOCKED);
    assertThat(standing.reasons()).containsExactly("its password has expired");
  }

  @Test
  void eachDatabaseHasItsOwnOwnerRole() throws SQLException {
    for (String database : List.of("one", "two")) {
      SystemView view = view(database);
      int create = view.rights().find("create").orElseThrow();
      int schema = view.resources().find("/" + database + "/public").orElseThrow();
      for (String owner : List.of("owner_one", "owner_two")) {
        boolean own = owner.endsWith(database);
        Verdict held = model.asker().can(view, account(owner), create, schema).held();
        assertThat(held).as(owner + " in " + database).isEqualTo(own ? Verdict.YES : Verdict.NO);
        try (Connection root = server.connect("postgres", database);
            Statement sql = root.createStatement();
            var said =
                sql.executeQuery(
                    "select has_schema_privilege('" + owner + "', 'public', 'create')")) {
          assertThat(said.next()).isTrue();
          assertThat(said.getBoolean(1)).isEqualTo(own);
        }
      }
    }
  }

  @Test
  void whoCanComeToEverythingIsFoundHoweverLongTheChain() throws SQLException {
    List<Climb> climbs = view("one").system().climbs();
    assertThat(climbs.stream().map(c -> model.facts().login(c.account())))
        .containsExactlyInAnyOrder("a", "files", "maker");
    assertThat(climbs.stream().map(Climb::how))
        .contains("may switch to b, may switch to c, may switch to chief, which is a superuser");
    try (Connection a = server.connect("a", "one");
        Statement sql = a.createStatement()) {
      sql.execute("set role chief");
      sql.execute("create role made_by_chief superuser");
    }
    try (Connection maker = server.connect("maker", "one");
        Statement sql = maker.createStatement()) {
      sql.execute("grant pg_execute_server_program to maker");
      sql.execute("alter role owner_one password 'x'");
      assertThatThrownBy(() -> sql.execute("grant chief to maker"))
          .isInstanceOf(SQLException.class);
    }
  }

  @Test
  void eachOfThemIsAFindingAndAChainIsOne() {
    List<Finding> findings = Findings.of(workspace.assessment(model));
    assertThat(findings.stream().filter(f -> f.system().equals("one")).map(f -> f.kind().id()))
        .contains("superuser-by-membership", "server-file-access", "can-create-roles");
    assertThat(
            findings.stream()
                .filter(f -> f.system().equals("one") && f.kind().id().startsWith("superuser"))
                .map(FindingWords::sentence))
        .singleElement()
        .asString()
        .contains("c may switch to chief", "so may a, b, who can become c");
  }
}
