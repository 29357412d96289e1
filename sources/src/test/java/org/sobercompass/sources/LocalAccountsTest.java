package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.sources.workspace.Workspace;

/** Accounts that stand in no directory count beside those that do. */
class LocalAccountsTest {
  private static final String HEAD =
      "login,name,kind,active,until,issuer,subject,certificate,certificate until,groups,mail\n";

  @TempDir Path root;

  private Workspace open(String rows) throws IOException {
    Files.writeString(
        root.resolve("d.ldif"), "dn: uid=ann,dc=x\nobjectClass: inetOrgPerson\nuid: ann\n");
    Files.writeString(root.resolve("own.csv"), HEAD + rows);
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {main: {file: d.ldif}, own: {kind: accounts, file: own.csv}}\n"
            + "applications: [app.yaml]\n");
    Files.writeString(
        root.resolve("app.yaml"),
        "id: app\nsight: {directory: main, also: [own]}\nareas: [a]\nlevels: [view]\n"
            + "roles: {r: {allows: {a: view}}}\nassignments: {actual: a.csv}\n");
    Files.writeString(
        root.resolve("a.csv"),
        "role,kind,subject\nr,account,spare\nr,group,night shift\nr,account,ann\n");
    return Workspace.open(root, Set.of("certificate"));
  }

  private static final String ROWS =
      "spare,Spare key,,yes,,,,,,,\n"
          + "robot,Label robot,service,yes,,,,CN=robot,2026-06-30,Night shift,\n"
          + "room,Meeting room,resource,no,,,,,,Night shift;Rooms,\n"
          + "visitor,A visitor,,,2026-05-31,https://id.example,4711,,,,v@x.example\n";

  private static String can(Workspace workspace, String login, String at) {
    return new SmallWorkspace.Asked(workspace, workspace.model(Instant.parse(at), Optional.empty()))
        .can(login, "a:view", "");
  }

  @Test
  void anAccentMayBeTypedEitherWay() throws IOException {
    var facts = open("r\u00e9gine,R,,yes,,,,,,,\n" + ROWS).facts();
    for (String typed : List.of("r\u00e9gine", "re\u0301gine")) {
      assertThat(NameResolver.find(facts, SubjectKind.ACCOUNT, typed)).as(typed).hasSize(1);
    }
  }

  @Test
  void theyAreSeenBesideTheDirectoryAndHoldWhatTheyAreGiven() throws IOException {
    Workspace workspace = open(ROWS);
    assertThat(can(workspace, "spare", "2026-06-01T12:00:00Z")).isEqualTo("yes");
    assertThat(can(workspace, "ann", "2026-06-01T12:00:00Z")).isEqualTo("yes");
    assertThat(can(workspace, "robot", "2026-06-01T12:00:00Z")).isEqualTo("yes");
    assertThat(can(workspace, "robot", "2026-07-01T12:00:00Z")).isEqualTo("blocked");
    assertThat(can(workspace, "room", "2026-06-01T12:00:00Z")).isEqualTo("blocked");
    assertThat(can(workspace, "visitor", "2026-06-01T12:00:00Z")).isEqualTo("no");
  }

  @Test
  void theirKindsAndKeysAreKept() throws IOException {
    Facts facts = open(ROWS).facts();
    int service = 0;
    int resource = 0;
    for (int account = 0; account < facts.accounts(); account++) {
      service += facts.is(account, Facts.SERVICE) ? 1 : 0;
      resource += facts.is(account, Facts.RESOURCE) ? 1 : 0;
      if (facts.login(account).equals("visitor")) {
        assertThat(facts.key(account).text()).isEqualTo("account:own/https://id.example#4711");
      }
      if (facts.login(account).equals("robot")) {
        assertThat(facts.values(account, "certificate")).containsExactly("CN=robot");
      }
    }
    assertThat(service).isEqualTo(1);
    assertThat(resource).isEqualTo(1);
    assertThat(facts.groups()).isEqualTo(2);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "',x,,,,,,,,,'              | own.csv:2: the account has no login",
        "'a,x,robot,,,,,,,,'        | own.csv:2: kind: \"robot\" is no kind of account",
        "'a,x,,maybe,,,,,,,'        | is neither yes nor no",
        "'a,x,,,someday,,,,,,'      | until: \"someday\" is no date",
        "'a,x,,,,https://i,,,,,'    | an issuer without a subject",
        "'a,x,,,,,42,,,,'           | a subject without an issuer"
      })
  void aLineThatIsWrongIsToldWithItsPlace(String row, String says) {
    assertThatThrownBy(() -> open(row + "\n"))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining(says);
  }

  @Test
  void aSightThatNamesADirectoryThatIsNotThereIsTold() throws IOException {
    open(ROWS);
    Files.writeString(
        root.resolve("app.yaml"),
        Files.readString(root.resolve("app.yaml")).replace("also: [own]", "also: [onw]"));
    assertThatThrownBy(() -> Workspace.open(root)).hasMessageContaining("did you mean own?");
  }
}
