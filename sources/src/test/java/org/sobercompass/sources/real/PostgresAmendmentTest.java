package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Question;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;
import org.sobercompass.sources.database.DatabaseDoor;

/** Grants are revoked and roles taken from roles on a real PostgreSQL, and given back. */
class PostgresAmendmentTest {
  private static final String DATABASE = "field \"book\"";

  @TempDir static Path folder;
  private static Postgres server;

  @BeforeAll
  static void start() throws Exception {
    assumeTrue(Postgres.isThere(), "needs root and postgresql-15");
    server = Postgres.start();
    try (Connection root = server.connect("postgres", "postgres");
        Statement sql = root.createStatement()) {
      sql.execute("create role keeper");
      sql.execute("create role \"user\"");
      sql.execute("grant keeper to \"user\"");
      sql.execute("create role \"odd \"\"one\"\", =/\"");
      sql.execute("create role reader login");
      sql.execute("create role outsider login");
      sql.execute("create role \"Lead\"");
      sql.execute("grant keeper to \"odd \"\"one\"\", =/\"");
      sql.execute("grant keeper to \"Lead\" with admin option");
      sql.execute("grant reader to keeper");
      sql.execute("create role heir login");
      sql.execute("create database \"field \"\"book\"\"\" owner keeper");
    }
    try (Connection root = server.connect("postgres", DATABASE);
        Statement sql = root.createStatement()) {
      sql.execute("grant connect on database \"field \"\"book\"\"\" to reader");
      sql.execute("create schema \"odd/one\" authorization keeper");
      sql.execute("grant usage on schema \"odd/one\" to reader, \"Lead\" with grant option");
      sql.execute("set role keeper");
      sql.execute("create table \"odd/one\".\"it's\"(a integer, \"b \"\"c\" integer)");
      sql.execute("create sequence \"odd/one\".counter");
      sql.execute("create view \"odd/one\".seen as select a from \"odd/one\".\"it's\"");
      sql.execute(
          "create function \"odd/one\".twice(x integer, y text) returns integer language sql as"
              + " 'select $1'");
      sql.execute("grant select, insert on \"odd/one\".\"it's\" to reader");
      sql.execute("grant update on \"odd/one\".\"it's\" to \"Lead\" with grant option");
      sql.execute("grant select (a), update (\"b \"\"c\") on \"odd/one\".\"it's\" to public");
      sql.execute("grant usage on sequence \"odd/one\".counter to reader");
      sql.execute("grant select on \"odd/one\".seen to public");
      sql.execute("grant execute on function \"odd/one\".twice to reader");
      sql.execute(
          "alter default privileges in schema \"odd/one\" grant select on tables to reader");
      sql.execute("alter default privileges revoke execute on functions from public");
      sql.execute("alter default privileges grant usage on types to \"Lead\" with grant option");
      sql.execute("reset role");
    }
    Files.writeString(
        folder.resolve("compass.yaml"),
        "directories:\n  roles: {kind: postgresql, file: book.jsonl}\napplications: [book.yaml]\n");
    Files.writeString(
        folder.resolve("book.yaml"), "kind: postgresql\nid: book\ncollection: book.jsonl\n");
  }

  @AfterAll
  static void stop() {
    if (server != null) {
      server.close();
    }
  }

  private static Organization read() {
    new DatabaseDoor(
            "127.0.0.1",
            server.port(),
            DATABASE,
            "postgres",
            Optional.empty(),
            true,
            Optional.empty())
        .collect(folder.resolve("book.jsonl"), Secret.Origins.PROCESS);
    return Organization.open(folder);
  }

  /** Everything that was collected, grants in any order, but for when. */
  private static Set<String> dump() throws IOException {
    Set<String> lines = new TreeSet<>();
    for (String line : Files.readAllLines(folder.resolve("book.jsonl"))) {
      if (!line.contains("\"kind\":\"server\"") && !line.contains("\"kind\":\"end\"")) {
        char[] letters = line.toCharArray();
        Arrays.sort(letters);
        lines.add(line.replaceFirst("\"grants\":.*", "") + new String(letters));
      }
    }
    return lines;
  }

  private static TargetKind.Door door(String target) {
    return new TargetKind.Door(
        target,
        "127.0.0.1:" + server.port() + "/" + DATABASE,
        Optional.of("postgres"),
        Optional.empty(),
        true,
        Optional.empty());
  }

  private static Amended amend(Organization from, String target, List<Change> changes, int n) {
    Proposal proposal = Proposal.of("", from.assessment().model(), changes);
    return Amended.of(from, proposal, folder.resolve(target + n), door(target), "");
  }

  private static List<Change> removable(AccessModel model) {
    List<Change> all = new ArrayList<>();
    SystemView view = model.system("book").orElseThrow();
    for (int g = 0; g < view.grants().size(); g++) {
      if (view.system().isRemovable(g, view.basis())) {
        all.add(new Change.AssignmentRemoved(view.number(), g));
      }
    }
    return all;
  }

  @Test
  void everyGrantIsRevokedAsWasShownAndGivenBack() throws Exception {
    Organization before = read();
    Set<String> all = dump();
    List<Change> removable = removable(before.model());
    assertThat(removable).hasSizeGreaterThan(12);
    Random random = new Random(2);
    for (int round = 0; round < removable.size() + 8; round++) {
      List<Change> some = new ArrayList<>();
      if (round < removable.size()) {
        some.add(removable.get(round));
      } else {
        removable.stream().filter(c -> random.nextInt(3) == 0).forEach(some::add);
      }
      Amended amended = amend(before, "book", some, round);
      Work work = amended.carryOut();
      assertThat(work.isWhole()).as(amended.records() + " " + work).isTrue();
      Proposal proposal = Proposal.of("", before.assessment().model(), some);
      Amended.assertDone(before, read(), proposal);
      assertThat(amended.undo().isWhole()).isTrue();
      read();
      assertThat(dump()).as(amended.records().toString()).isEqualTo(all);
    }
  }

  private static Step owner(String at, String role, boolean added) {
    return new Step.ListItem("book", at, "owner:" + role, added);
  }

  /** Who may what on which object: of the roles that sign in. */
  private static Map<String, String> decisions(AccessModel model) {
    Map<String, String> all = new TreeMap<>();
    SystemView view = model.system("book").orElseThrow();
    for (int account = 0; account < model.facts().accounts(); account++) {
      for (int r = 0; r < view.resources().size(); r++) {
        for (int right = 0; right < view.rights().size(); right++) {
          all.put(
              model.facts().login(account)
                  + " "
                  + view.resources().id(r)
                  + " "
                  + view.rights().text(right),
              model.asker().can(view, account, right, r).verdict().toString());
        }
      }
    }
    return all;
  }

  @Test
  void everyObjectCanGetAnotherOwnerAndTheFirstOneBack() throws Exception {
    Organization before = read();
    Set<String> all = dump();
    SystemView view = before.model().system("book").orElseThrow();
    int changed = 0;
    for (String at : view.resources().ids()) {
      if (!view.system().hasItem(view.resources().find(at).orElseThrow(), "owner:keeper")
          || view.system()
              .what(view.resources().find(at).orElseThrow())
              .matches("(column|database).*")) {
        continue;
      }
      Proposal proposal =
          new Proposal("", List.of(owner(at, "keeper", false), owner(at, "heir", true)));
      Amended amended =
          Amended.of(before, proposal, folder.resolve("owner" + changed), door("book"), "");
      Work work = amended.carryOut();
      assertThat(work.isWhole()).as(at + " " + work.failed() + work.stopped()).isTrue();
      AccessModel said = before.model().with(proposal.on(before.assessment().model()).changes());
      Set<Map.Entry<String, String>> otherwise = new HashSet<>(decisions(said).entrySet());
      otherwise.removeAll(decisions(read().model()).entrySet());
      assertThat(otherwise).as(at).isEmpty();
      assertThat(amended.undo().isWhole()).as(at).isTrue();
      read();
      assertThat(dump()).as(at).isEqualTo(all);
      changed++;
    }
    assertThat(changed).as("schema, table, sequence, view, function").isEqualTo(5);
  }

  private static final String ANYWHERE = "/field \"book\"";
  private static final String IN_SCHEMA = ANYWHERE + "/odd\\057one";

  private static Step later(String at, String text, boolean added) {
    return new Step.ListItem("book", at, text, added);
  }

  /** Default privileges as sets: the server keeps their items in an order of its own. */
  private static Map<String, Set<Set<String>>> later(AccessModel model) {
    Map<String, Set<Set<String>>> all = new TreeMap<>();
    SystemView view = model.system("book").orElseThrow();
    for (String at : List.of(ANYWHERE, IN_SCHEMA)) {
      all.put(
          at,
          view.system().made(view.resources().find(at).orElseThrow()).stream()
              .map(words -> Set.of(words.split("(?<=by [a-z]{1,9}): |; ")))
              .collect(Collectors.toSet()));
    }
    return all;
  }

  @Test
  void defaultPrivilegesAreGivenTakenAndGivenBack() throws Exception {
    Organization before = read();
    Set<String> all = dump();
    List<List<Step>> proposals =
        List.of(
            List.of(later(IN_SCHEMA, "new-table by \"keeper\": reader=r/keeper", false)),
            List.of(
                later(IN_SCHEMA, "new-table by \"keeper\": reader=r/keeper", false),
                later(IN_SCHEMA, "new-table by \"keeper\": reader=rw/keeper", true)),
            List.of(
                later(IN_SCHEMA, "new-sequence by \"heir\": \"odd \"\"one\"\", =/\"=rU/heir", true),
                later(ANYWHERE, "new-schema by \"heir\": reader=U*C/heir", true)),
            List.of(later(ANYWHERE, "new-function by \"keeper\": =X/keeper", true)),
            List.of(
                later(ANYWHERE, "new-type by \"keeper\": =U/keeper", false),
                later(ANYWHERE, "new-type by \"keeper\": Lead=U*/keeper", false)));
    for (int i = 0; i < proposals.size(); i++) {
      Proposal proposal = new Proposal("", proposals.get(i));
      Bound bound = proposal.on(before.assessment().model());
      assertThat(bound.notes()).as("%s", i).isEmpty();
      Amended amended =
          Amended.of(before, proposal, folder.resolve("default" + i), door("book"), "");
      Work work = amended.carryOut();
      assertThat(work.isWhole()).as(i + " " + work.failed() + work.stopped()).isTrue();
      assertThat(later(read().model()))
          .as("%s", i)
          .isNotEqualTo(later(before.model()))
          .isEqualTo(later(before.model().with(bound.changes())));
      assertThat(updatesWhatIsNew()).as("%s", i).isEqualTo(i == 1);
      assertThat(amended.undo().isWhole()).as("%s", i).isTrue();
      read();
      assertThat(dump()).as("%s", i).isEqualTo(all);
    }
  }

  /** Whether reader may update a table that keeper makes now. */
  private static boolean updatesWhatIsNew() throws SQLException {
    try (Connection root = server.connect("postgres", DATABASE);
        Statement sql = root.createStatement()) {
      root.setAutoCommit(false);
      sql.execute("set local role keeper");
      sql.execute("create table \"odd/one\".fresh(a integer)");
      try (ResultSet found =
          sql.executeQuery("select has_table_privilege('reader', '\"odd/one\".fresh', 'update')")) {
        found.next();
        return found.getBoolean(1);
      } finally {
        root.rollback();
      }
    }
  }

  @Test
  void defaultPrivilegesThatCannotBeAreToldWithWhy() {
    AccessModel model = read().assessment().model();
    Map<String, Step> wrong =
        Map.of(
            "stand at the database",
            later(IN_SCHEMA, "new-schema by \"heir\": reader=U/heir", true),
            "stand at a schema or the database",
            later(IN_SCHEMA + "/counter", "new-table by \"heir\": reader=r/heir", true),
            "no role \"nobody\"",
            later(IN_SCHEMA, "new-table by \"nobody\": reader=r/nobody", true),
            "no execute on a table",
            later(IN_SCHEMA, "new-table by \"heir\": reader=X/heir", true),
            "are there already",
            later(IN_SCHEMA, "new-table by \"keeper\": reader=rw/keeper", true),
            "is no default privilege",
            later(IN_SCHEMA, "new-table by \"keeper\": reader=rw/heir", true));
    wrong.forEach(
        (why, step) ->
            assertThat(new Proposal("", List.of(step)).on(model).notes())
                .singleElement()
                .satisfies(note -> assertThat(note.what()).contains(why)));
  }

  /** The server would make grants of the two owners one, which no undo could part. */
  @Test
  void whoHasGrantsAlreadyIsMadeOwnerByHand() {
    Organization before = read();
    SystemView view = before.model().system("book").orElseThrow();
    String table =
        view.resources().ids().stream()
            .filter(id -> id.endsWith("/it's"))
            .findFirst()
            .orElseThrow();
    Proposal proposal =
        new Proposal("", List.of(owner(table, "keeper", false), owner(table, "reader", true)));
    assertThat(proposal.on(before.assessment().model()).isSound()).isTrue();
    assertThat(before.amendment(proposal, change -> "another owner", Map.of()).byHand())
        .hasSize(2)
        .allMatch(why -> why.contains("reader has grants there"));
    Proposal database = new Proposal("", List.of(owner("/field \"book\"", "heir", true)));
    assertThat(database.on(before.assessment().model()).notes().get(0).what())
        .contains("pg_database_owner");
    Proposal nobody = new Proposal("", List.of(owner(table, "nobody", true)));
    assertThat(nobody.on(before.assessment().model()).notes().get(0).what())
        .startsWith("there is no role \"nobody\"");
  }

  @Test
  void rolesAreTakenFromRolesAndGivenBackWithTheirOption() throws Exception {
    Organization before = read();
    Set<String> all = dump();
    Facts facts = before.model().facts();
    List<Change> changes = new ArrayList<>();
    for (int role = facts.firstGroup(); role < facts.firstGroup() + facts.groups(); role++) {
      for (int i = 0; i < before.model().graph().upCount(role); i++) {
        int above = before.model().graph().upGroup(role, i);
        Via via = before.model().graph().upVia(role, i);
        boolean own = List.of("keeper", "reader").contains(facts.login(above));
        if (own && facts.kind(above) == SubjectKind.GROUP) {
          changes.add(new Change.MembershipRemoved(role, above, via));
        }
      }
    }
    assertThat(changes).hasSize(4);
    Amended amended = amend(before, "roles", changes, 0);
    assertThat(amended.records()).as("one transaction").hasSize(1);
    assertThat(amended.carryOut().isWhole()).isTrue();
    AccessModel after = read().model();
    for (Change change : changes) {
      Change.MembershipRemoved gone = (Change.MembershipRemoved) change;
      int member = after.facts().find(facts.key(gone.member())).orElseThrow();
      int role = after.facts().find(facts.key(gone.group())).orElseThrow();
      for (int i = 0; i < after.graph().upCount(member); i++) {
        assertThat(after.graph().upGroup(member, i)).isNotEqualTo(role);
      }
    }
    assertThat(dump()).isNotEqualTo(all);
    assertThat(amended.undo().isWhole()).isTrue();
    read();
    assertThat(dump()).isEqualTo(all);
  }

  @Test
  void aGrantThatChangedMeanwhileStopsTheWholeTransaction() throws Exception {
    Organization before = read();
    List<Change> removable = removable(before.model());
    Amended amended = amend(before, "book", removable, 99);
    execute("grant delete on \"odd/one\".\"it's\" to reader");
    try {
      read();
      Set<String> now = dump();
      Work work = amended.carryOut();
      assertThat(work.failed()).hasSize(1);
      assertThat(work.failed().get(0).why()).contains("\"it's\" has").contains("reader=ard");
      read();
      assertThat(dump()).as("nothing was changed").isEqualTo(now);
    } finally {
      execute("revoke delete on \"odd/one\".\"it's\" from reader");
    }
  }

  private static void execute(String statement) throws SQLException {
    try (Connection root = server.connect("postgres", DATABASE);
        Statement sql = root.createStatement()) {
      sql.execute(statement);
    }
  }

  @Test
  void whoeverMayNotIsRefusedAndNothingIsChanged() throws Exception {
    Organization before = read();
    Set<String> all = dump();
    Amended amended = amend(before, "book", removable(before.model()), 100);
    TargetKind.Door own = door("book");
    Amended asOutsider =
        new Amended(
            amended.folder(),
            new TargetKind.Door(
                "book",
                own.where(),
                Optional.of("outsider"),
                Optional.empty(),
                true,
                Optional.empty()),
            "");
    Work work = asOutsider.carryOut();
    assertThat(work.failed().get(0).why()).contains("permission denied");
    read();
    assertThat(dump()).isEqualTo(all);
  }

  @Test
  void killedAtAnyPointItGoesOn() throws Exception {
    Random random = new Random(41);
    int killed = 0;
    int ended = 0;
    while (killed < Amended.KILLS) {
      Organization before = read();
      Set<String> all = dump();
      List<Change> removable = removable(before.model());
      Amended amended = amend(before, "book", removable, 200 + ended);
      killed += amended.killed(false, random);
      Amended.assertDone(before, read(), Proposal.of("", before.assessment().model(), removable));
      killed += amended.killed(true, random);
      read();
      assertThat(dump()).isEqualTo(all);
      ended += 2;
    }
    System.out.println(
        "PostgreSQL: killed " + killed + " times, " + ended + " times whole in the end.");
  }

  /** Statements in any form that administrators and dumps write; the server makes them too. */
  private static final List<String> STATEMENTS =
      List.of(
          "alter default privileges for role keeper in schema \"odd/one\" grant update, delete on"
              + " tables to reader with grant option;",
          "alter default privileges for role keeper grant execute on routines to public;",
          "alter default privileges for role keeper, heir in schema \"odd/one\" grant usage on"
              + " sequences to public, \"Lead\";",
          "alter default privileges for role keeper in schema \"odd/one\" revoke all on tables"
              + " from reader;",
          "grant select, update on \"odd/one\".\"it's\" to outsider with grant option;",
          "revoke insert on table \"odd/one\".\"it's\" from reader;\n-- a comment; with a sign",
          "GRANT ALL PRIVILEGES ON \"odd/one\".\"it's\" TO keeper, reader;",
          "grant select (\"b \"\"c\"), update (a) on \"odd/one\".\"it's\" to outsider;",
          "revoke select (a) on \"odd/one\".\"it's\" from public;",
          "grant usage on schema \"odd/one\" to public, outsider;",
          "revoke grant option for usage on schema \"odd/one\" from \"Lead\";",
          "grant create, temp on database \"field \"\"book\"\"\" to reader;",
          "grant all on all sequences in schema \"odd/one\" to outsider;",
          "revoke execute on function \"odd/one\".twice(x integer, y text) from public;",
          "GRANT EXECUTE ON ROUTINE \"odd/one\".twice(x integer, y text) TO GROUP \"Lead\";",
          "grant reader to outsider;\nrevoke reader from keeper;",
          "begin; set local role keeper; grant select on \"odd/one\".seen to outsider; commit;",
          "grant select on all tables in schema \"odd/one\" to \"odd \"\"one\"\", =/\";");

  private static List<String> holders(AccessModel model) {
    List<String> all = new ArrayList<>();
    SystemView view = model.system("book").orElseThrow();
    for (int account = 0; account < model.facts().accounts(); account++) {
      for (int r = 0; r < view.resources().size(); r++) {
        for (int right = 0; right < view.rights().size(); right++) {
          all.add(
              model.facts().login(account)
                  + " "
                  + view.resources().id(r)
                  + " "
                  + view.rights().text(right)
                  + " "
                  + model.asker().decide(view, account, Question.of(r, right)));
        }
      }
    }
    all.sort(null);
    return all;
  }

  @Test
  void statementsDoWhatTheirPreviewSaidAndAnAmendmentDoesTheSame() throws Exception {
    Organization before = read();
    Set<String> all = dump();
    Random random = new Random(5);
    for (int round = 0; round < STATEMENTS.size() + 10; round++) {
      int only = round;
      String text =
          String.join(
              "\n",
              STATEMENTS.stream()
                  .filter(
                      one ->
                          only < STATEMENTS.size()
                              ? one.equals(STATEMENTS.get(only))
                              : random.nextInt(2) == 0)
                  .toList());
      Path file = Files.writeString(folder.resolve("x.sql"), text);
      Proposal proposal = before.proposal(file, "x.sql");
      Amended amended = Amended.of(before, proposal, folder.resolve("s" + round), door("book"), "");
      List<String> targets =
          amended.folder().amendment().targets().stream().map(Amendment.Target::name).toList();
      List<String> said = holders(before.model().with(proposal.on(before.model()).changes()));
      execute(text);
      Organization after = read();
      Set<String> made = dump();
      assertThat(made).as(text).isNotEqualTo(all);
      assertThat(holders(after.model())).as(text).isEqualTo(said);
      for (String target : targets) {
        execute(Files.readString(amended.folder().path().resolve(target + ".undo.sql")));
      }
      read();
      assertThat(dump()).as("by the file of the undo: " + text).isEqualTo(all);
      for (String target : targets) {
        Amended one = new Amended(amended.folder(), door(target), "");
        assertThat(one.carryOut(target).isWhole()).isTrue();
      }
      read();
      assertThat(dump()).as("by the amendment: " + text).isEqualTo(made);
      for (String target : targets) {
        Amended one = new Amended(amended.folder(), door(target), "");
        assertThat(one.undo(target).isWhole()).isTrue();
      }
      read();
      assertThat(dump()).isEqualTo(all);
    }
  }
}
