package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.sources.workspace.Surveyor;
import org.sobercompass.sources.workspace.Surveys;
import org.sobercompass.sources.workspace.Workspace;

/** A survey holds what was there when it was taken, and answers as then. */
class SurveyorTest {
  private static final String SHAPE =
      "sight: {directory: main}\nareas: [a]\nlevels: [view]\nroles: {r: {allows: {a: view}}}\n";
  private static final Clock CLOCK =
      Clock.fixed(Instant.parse("2026-11-20T06:00:00Z"), ZoneOffset.UTC);

  @TempDir Path root;
  private SmallWorkspace workspace;

  @BeforeEach
  void write() {
    workspace =
        new SmallWorkspace(root)
            .account("ann", "staff")
            .account("bo", "staff")
            .group("crew", "uid=ann,ou=staff");
  }

  private Surveyor.Taken take(Optional<Path> target, Path... joined) {
    return new Surveyor(
            new Secret.Origins(name -> Optional.empty(), question -> Optional.empty()),
            CLOCK,
            (source, count) -> {})
        .take(root, List.of(joined), target);
  }

  private static String can(AccessModel model, String login) {
    return new SmallWorkspace.Asked(null, model).can(login, "a:view", "");
  }

  @Test
  void itAnswersAsThenWhateverChangesAfterwards() throws IOException {
    workspace.with(SHAPE, "r,group,crew,,,,,");
    Path survey = take(Optional.empty()).file();
    assertThat(survey).isEqualTo(root.resolve("surveys/2026-11-20T060000Z.survey.zip"));
    workspace.with(SHAPE, "r,account,bo,,,,,");
    Files.writeString(
        root.resolve("d.ldif"), "dn: uid=bo,dc=x\nobjectClass: inetOrgPerson\nuid: bo\n");
    AccessModel then = Workspace.ofSurvey(survey, Set.of()).model();
    AccessModel now = Workspace.open(root).model();
    assertThat(can(then, "ann")).isEqualTo("yes");
    assertThat(can(then, "bo")).isEqualTo("no");
    assertThat(can(now, "bo")).isEqualTo("yes");
    assertThat(now.facts().accounts()).isEqualTo(1);
  }

  @Test
  void itBringsAlongTheSchemaTheCatalogueAndTheScopes() throws IOException {
    Files.writeString(
        root.resolve("schema.ldif"),
        "dn: cn=subschema\nobjectClass: subschema\nattributeTypes: ( 1.1 NAME 'uid'"
            + " EQUALITY caseExactMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.15 )\n");
    Files.writeString(
        root.resolve("admin.yaml"),
        "scopes: {s: {include: [{file: people.csv}]}}\nroles: {desk: {actions: [unlock]}}\n"
            + "assignments: admin.csv\n");
    Files.writeString(root.resolve("people.csv"), "kind,subject\naccount,bo\n");
    Files.writeString(root.resolve("admin.csv"), "role,kind,subject,scope\ndesk,account,ann,s\n");
    workspace.main("admin: admin.yaml\n").with(SHAPE, "r,group,crew,,,,,");
    Files.writeString(
        root.resolve("compass.yaml"),
        Files.readString(root.resolve("compass.yaml"))
            .replace("{file: d.ldif}", "{file: d.ldif, schema: schema.ldif}"));
    Path survey = take(Optional.empty()).file();
    for (String name : List.of("schema.ldif", "admin.yaml", "people.csv", "admin.csv")) {
      Files.delete(root.resolve(name));
    }
    Workspace then = Workspace.ofSurvey(survey, Set.of());
    assertThat(then.administration().scopes()).hasSize(1);
    assertThat(then.administration().action("set-password")).isPresent();
    assertThat(then.facts().loginMatching(0).orElseThrow().syntax())
        .isEqualTo(org.sobercompass.core.filter.Syntax.CASE_EXACT);
    var part = Surveys.open(survey).part("main").orElseThrow();
    assertThat(part.schema()).contains("schema/main.ldif");
    assertThat(part.completeness())
        .anyMatch(c -> c.attribute().equals("uid") && c.asked() == 3 && c.returned() == 2);
    assertThat(Files.readString(Surveys.open(survey).catalogue("admin-actions.yaml")))
        .contains("set-password:");
  }

  @Test
  void theSameWorkspaceGivesTheSameBytes() throws IOException {
    workspace.with(SHAPE, "r,group,crew,,,,,");
    String first = take(Optional.of(root.resolve("one.survey.zip"))).digest();
    String second = take(Optional.of(root.resolve("two.survey.zip"))).digest();
    assertThat(first).isEqualTo(second).isEqualTo(Surveys.digest(root.resolve("one.survey.zip")));
  }

  @Test
  void aPartThatOthersCollectedTakesThePlaceOfReading() throws IOException {
    workspace.with(SHAPE, "r,account,zed,,,,,");
    Path other = Files.createDirectory(root.resolve("other"));
    Files.writeString(
        other.resolve("elsewhere.ldif"),
        "dn: uid=zed,dc=x\nobjectClass: inetOrgPerson\nuid: zed\n");
    Files.writeString(
        other.resolve("compass.yaml"),
        "directories: {main: {file: elsewhere.ldif, taken: 2026-11-19T00:00:00Z}}\n");
    Path part =
        new Surveyor(
                new Secret.Origins(n -> Optional.empty(), q -> Optional.empty()),
                CLOCK,
                (source, count) -> {})
            .take(other, List.of(), Optional.empty())
            .file();
    Surveyor.Taken taken = take(Optional.empty(), part);
    assertThat(taken.parts()).singleElement().satisfies(p -> assertThat(p.entries()).isEqualTo(1));
    Workspace joined = Workspace.ofSurvey(taken.file(), Set.of());
    assertThat(can(joined.model(), "zed")).isEqualTo("yes");
    assertThat(joined.taken()).contains(Instant.parse("2026-11-19T00:00:00Z"));
  }

  @Test
  void aPartOfAnotherDirectoryIsRefusedAndNothingIsWritten() throws IOException {
    workspace.with(SHAPE);
    Path other = Files.createDirectory(root.resolve("other"));
    Files.writeString(other.resolve("e.ldif"), "dn: dc=x\nobjectClass: domain\n");
    Files.writeString(other.resolve("compass.yaml"), "directories: {stray: {file: e.ldif}}\n");
    Path part =
        new Surveyor(
                new Secret.Origins(n -> Optional.empty(), q -> Optional.empty()),
                CLOCK,
                (source, count) -> {})
            .take(other, List.of(), Optional.empty())
            .file();
    assertThatThrownBy(() -> take(Optional.empty(), part))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("\"stray\", which is no directory of the workspace");
    assertThat(Surveys.all(root)).isEmpty();
  }

  @Test
  void aMissingFileOfTheWorkspaceIsToldAndNothingIsWritten() throws IOException {
    workspace.with(SHAPE);
    Files.delete(root.resolve("a.csv"));
    assertThatThrownBy(() -> take(Optional.empty()))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("a.csv: there is no such file");
    assertThat(Surveys.all(root)).isEmpty();
  }

  @Test
  void aLiveDirectoryWithoutASurveyAsksForOne() throws IOException {
    Files.writeString(
        root.resolve("compass.yaml"), "directories: {main: {address: \"ldaps://x.example\"}}\n");
    assertThatThrownBy(() -> Workspace.open(root))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("is live, and no survey of it is there; expected `sober survey`");
  }

  @Test
  void settingsThatContradictEachOtherAreAllTold() throws IOException {
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories:\n  one: {address: \"http://x.example\"}\n"
            + "  two: {address: \"ldaps://x.example\", plain: yes}\n"
            + "  three: {address: \"ldap://x.example\", bind: \"cn=a\"}\n"
            + "  four: {address: \"ldap://x.example\", bind: \"cn=a\", password: hunter}\n"
            + "  five: {address: \"ldap://x.example\", file: d.ldif}\n"
            + "  six: {kind: standard}\n"
            + "  seven: {address: \"ldap://x.example\", bases: [nowhere], page: none}\n");
    assertThatThrownBy(() -> Workspace.open(root))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("\"http://x.example\" is no address of a directory")
        .hasMessageContaining("plain: yes and ldaps contradict each other")
        .hasMessageContaining("a bind name without a password")
        .hasMessageContaining("a password or token does not belong into the workspace")
        .hasMessageContaining("both a file and an address")
        .hasMessageContaining("neither a file nor an address")
        .hasMessageContaining("bases: \"nowhere\" is no DN")
        .hasMessageContaining("page: \"none\" is no number");
  }
}
