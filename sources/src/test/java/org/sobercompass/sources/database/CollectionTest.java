package org.sobercompass.sources.database;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.core.system.database.AclItem;
import org.sobercompass.core.system.database.DatabaseRights;
import org.sobercompass.sources.workspace.Workspace;

/** What was collected of a database, and what is wrong with it. */
class CollectionTest {
  private static final String ROLE =
      "{\"kind\":\"role\",\"name\":\"r\",\"superuser\":false,\"inherits\":true,\"login\":true}\n";
  private static final String DATABASE =
      "{\"kind\":\"database\",\"name\":\"d\",\"owner\":\"r\",\"open\":true,\"grants\":[\"=Tc/r\"]}\n";

  @TempDir private Path root;

  @BeforeEach
  void write() throws IOException {
    put(
        "compass.yaml",
        "directories:\n  d: {kind: postgresql, file: d.jsonl}\napplications: [d.yaml]\n");
    put("d.yaml", "kind: postgresql\nid: d\ncollection: d.jsonl\n");
  }

  private void put(String name, String text) throws IOException {
    Files.writeString(root.resolve(name), text);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "alice=r*w/bob | alice | bob",
        "=X/bob | '' | bob",
        "\"odd \"\"one\"\", {x}=/\"=U/\"b=c\" | odd \"one\", {x}=/ | b=c"
      })
  void grantsAreParsedWithQuotedNames(String text, String grantee, String grantor) {
    AclItem item = AclItem.of(text.strip()).orElseThrow();
    assertThat(item.grantee()).isEqualTo(grantee);
    assertThat(item.grantor()).isEqualTo(grantor);
  }

  @Test
  void aStarIsTheRightToPassThePrivilegeBeforeItOn() {
    assertThat(AclItem.of("a=r*w/b").orElseThrow().mask())
        .isEqualTo(DatabaseRights.bit('r') | DatabaseRights.option('r') | DatabaseRights.bit('w'));
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "alice", "alice=q/bob", "alice=*r/bob", "alice=r", "\"alice=r/bob"})
  void whatIsNoGrantIsNone(String text) {
    assertThat(AclItem.of(text)).isEqualTo(Optional.empty());
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{\"kind\":\"rol | d.jsonl:3 | cut off",
        "{\"name\":\"x\"} | d.jsonl:3 | no kind",
        "{\"kind\":\"tabel\",\"name\":\"x\"} | d.jsonl:3 | no kind of line",
        "{\"kind\":\"schema\",\"name\":\"s\",\"owner\":\"r\",\"grants\":[\"r=Q/r\"]} | d.jsonl:3 |"
            + " is no grant",
        "{\"kind\":\"role\",\"name\":\"x\",\"login\":true,\"until\":\"soon\"} | d.jsonl:3 | is no"
            + " instant",
        "{\"kind\":\"schema\",\"name\":\"s\",\"grants\":[]} | d.jsonl:3 | has no owner",
        "{\"kind\":\"column\",\"schema\":\"s\",\"relation\":\"t\",\"name\":\"c\",\"grants\":[]} |"
            + " d.jsonl:3 | stands before its table"
      })
  void aLineThatIsNoneIsToldWithItsPlace(String line, String place, String what)
      throws IOException {
    put("d.jsonl", ROLE + DATABASE + line.strip() + "\n");
    assertThatThrownBy(() -> Workspace.open(root))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining(place)
        .hasMessageContaining(what);
  }

  @Test
  void aCollectionWithoutItsDatabaseIsNone() throws IOException {
    put("d.jsonl", ROLE);
    assertThatThrownBy(() -> Workspace.open(root))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("has no database");
  }

  @Test
  void whatCouldNotBeReadIsTold() throws IOException {
    put(
        "d.jsonl",
        ROLE
            + DATABASE
            + "{\"kind\":\"unread\",\"what\":\"relation\",\"why\":\"permission denied\"}\n");
    assertThat(Workspace.open(root).problems().stream().map(Problem::toString))
        .anySatisfy(p -> assertThat(p).contains("the relations could not be read"));
  }

  @Test
  void accountsOfADirectoryStandForRolesOfTheirNameAndOthersDoNotComeAtAll() throws IOException {
    put(
        "l.ldif",
        "version: 1\n\ndn: uid=r,dc=x\nobjectClass: account\nuid: r\n\n"
            + "dn: uid=stranger,dc=x\nobjectClass: account\nuid: stranger\n");
    put(
        "compass.yaml",
        "directories:\n  l: {kind: standard, file: l.ldif}\n"
            + "  d: {kind: postgresql, file: d.jsonl, accounts-of: l}\napplications: [d.yaml]\n");
    put(
        "d.yaml",
        "kind: postgresql\nid: d\ncollection: d.jsonl\nsight: {directory: d, also: [l]}\n");
    put("d.jsonl", ROLE + DATABASE);
    Workspace workspace = Workspace.open(root);
    assertThat(workspace.facts().accounts()).isEqualTo(2);
    assertThat(workspace.facts().source(0)).isEqualTo("l");
    assertThat(workspace.model().asker().holdings(0)).isNotEmpty();
    assertThat(workspace.facts().login(1)).isEqualTo("stranger");
    assertThat(workspace.model().asker().holdings(1)).as("what PUBLIC has").isEmpty();
  }

  @Test
  void aSchemaOfWhichNothingWasReadLeavesItsTablesUndecided() throws IOException {
    put(
        "d.jsonl",
        ROLE
            + DATABASE
            + "{\"kind\":\"relation\",\"schema\":\"s\",\"name\":\"t\",\"type\":\"r\",\"owner\":\"x\",\"grants\":[\"r=r/x\"]}\n");
    SystemView view = Workspace.open(root).model().system("d").orElseThrow();
    Asker asker = Workspace.open(root).model().asker();
    int table = view.resources().find("/d/s/t").orElseThrow();
    int select = view.rights().find("select").orElseThrow();
    int insert = view.rights().find("insert").orElseThrow();
    assertThat(asker.decide(view, 0, Question.of(table, select))).isEqualTo(Verdict.UNDECIDED);
    assertThat(asker.decide(view, 0, Question.of(table, insert))).isEqualTo(Verdict.NO);
  }

  @Test
  void withoutAGrantItsRightIsGoneAndTheNumbersOfTheOthersStay() throws IOException {
    put(
        "d.jsonl",
        ROLE
            + DATABASE
            + "{\"kind\":\"schema\",\"name\":\"s\",\"owner\":\"x\",\"grants\":[\"=U/x\",\"r=C/x\"]}\n");
    AccessModel model = Workspace.open(root).model();
    SystemView view = model.system("d").orElseThrow();
    int usage = 0;
    while (!view.grants().get(usage).id().startsWith("/d/s ")
        || view.grants().get(usage).role() != role(view, "usage")) {
      usage++;
    }
    AccessModel after = model.with(List.of(new Change.AssignmentRemoved(0, usage)));
    SystemView left = after.system("d").orElseThrow();
    int schema = left.resources().find("/d/s").orElseThrow();
    assertThat(left.grants()).hasSameSizeAs(view.grants());
    assertThat(verdict(after, schema, "usage")).isEqualTo(Verdict.NO);
    assertThat(verdict(after, schema, "create")).isEqualTo(Verdict.YES);
    assertThat(verdict(model, schema, "usage")).isEqualTo(Verdict.YES);
    assertThatThrownBy(() -> model.with(List.of(new Change.AssignmentRemoved(0, 0))))
        .isInstanceOf(IllegalArgumentException.class);
  }

  private static int role(SystemView view, String name) {
    return view.system().roles().stream().map(r -> r.name()).toList().indexOf(name);
  }

  private static Verdict verdict(AccessModel model, int resource, String right) {
    SystemView view = model.system("d").orElseThrow();
    int number = view.rights().find(right).orElseThrow();
    return model.asker().decide(view, 0, Question.of(resource, number));
  }

  @Test
  void whatIsMadeGetsWhatDefaultPrivilegesSay() throws IOException {
    put(
        "d.jsonl",
        ROLE
            + DATABASE
            + "{\"kind\":\"schema\",\"name\":\"s\",\"owner\":\"r\",\"grants\":[]}\n"
            + "{\"kind\":\"default\",\"role\":\"r\",\"schema\":\"s\",\"type\":\"r\",\"grants\":[\"=r/r\"]}\n"
            + "{\"kind\":\"default\",\"role\":\"r\",\"type\":\"f\",\"grants\":[\"r=X*/r\"]}\n");
    SystemView view = Workspace.open(root).model().system("d").orElseThrow();
    assertThat(view.system().made(view.resources().find("/d/s").orElseThrow()))
        .containsExactly(
            "a new table by r: select to everyone", "a new function by r: execute* to r");
  }

  @Test
  void rowSecurityIsToldUnlessTheRoleBypassesIt() throws IOException {
    String table =
        "{\"kind\":\"schema\",\"name\":\"s\",\"owner\":\"x\",\"grants\":[\"=U/x\"]}\n"
            + "{\"kind\":\"relation\",\"schema\":\"s\",\"name\":\"t\",\"type\":\"r\",\"owner\":\"x\",\"grants\":[\"r=r/x\"],\"rows\":true}\n";
    put("d.jsonl", ROLE + DATABASE + table);
    assertThat(note()).contains("row security is on");
    put(
        "d.jsonl",
        ROLE.replace("\"login\":true", "\"login\":true,\"bypasses_rows\":true") + DATABASE + table);
    assertThat(note()).isEmpty();
  }

  private String note() {
    SystemView view = Workspace.open(root).model().system("d").orElseThrow();
    Asker asker = Workspace.open(root).model().asker();
    int table = view.resources().find("/d/s/t").orElseThrow();
    Question question = Question.of(table, view.rights().find("select").orElseThrow());
    List<Layer> layers = view.decider().layers(asker.token(view, 0), question);
    return layers.get(layers.size() - 1).note();
  }
}
