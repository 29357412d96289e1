package org.sobercompass.sources.scim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.membership.MembershipProfile;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.workspace.Surveyor;
import org.sobercompass.sources.workspace.Workspace;

/** SCIM users and groups from files and from a service give the same facts; faults are told. */
class ScimTest {
  private static final String TOKEN = "made-up-token";
  private static final String USER = "urn:ietf:params:scim:schemas:core:2.0:User";
  private static final String GROUP = "urn:ietf:params:scim:schemas:core:2.0:Group";

  @TempDir Path root;
  private StandInService service;

  @BeforeEach
  void start() throws IOException {
    service = new StandInService(TOKEN);
    for (int i = 0; i < 120; i++) {
      service.users.add(user(i));
    }
    service.groups.add(group("g1", "Keepers", "u1", "u2"));
    service.groups.add(group("g2", "Staff", "g1", "u3", "gone"));
  }

  @AfterEach
  void stop() {
    service.close();
  }

  private static String user(int i) {
    return "{\"schemas\":[\""
        + USER
        + "\"],\"id\":\"u"
        + i
        + "\",\"userName\":\"user"
        + i
        + "\",\"displayName\":\"User "
        + i
        + "\",\"active\":"
        + (i % 10 != 0)
        + ",\"password\":\"never-to-be-seen\",\"title\":\"Keeper\","
        + "\"emails\":[{\"value\":\"second@x.example\"},{\"value\":\"user"
        + i
        + "@alderfen.example\",\"primary\":true}],"
        + "\"urn:ietf:params:scim:schemas:extension:enterprise:2.0:User\":"
        + "{\"department\":\"Vault\",\"employeeNumber\":\""
        + i
        + "\"}}";
  }

  private static String group(String id, String name, String... members) {
    List<String> parts = new ArrayList<>();
    for (String member : members) {
      parts.add("{\"value\":\"" + member + "\"}");
    }
    return "{\"schemas\":[\""
        + GROUP
        + "\"],\"id\":\""
        + id
        + "\",\"displayName\":\""
        + name
        + "\",\"members\":["
        + String.join(",", parts)
        + "]}";
  }

  private Facts file(String json) throws IOException {
    Files.writeString(root.resolve("people.json"), json);
    Files.writeString(
        root.resolve("compass.yaml"), "directories: {cloud: {kind: scim, file: people.json}}\n");
    return Workspace.open(root, Set.of("department", "title")).facts();
  }

  private Facts live() throws IOException {
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {cloud: {kind: scim, address: \""
            + service.address("/scim/v2")
            + "\", plain: yes, token: {env: TOKEN}}}\n");
    new Surveyor(
            new Secret.Origins(n -> Optional.of(TOKEN), q -> Optional.empty()),
            Clock.systemUTC(),
            (source, count) -> {})
        .take(root, List.of(), Optional.empty());
    return Workspace.open(root, Set.of("department", "title")).facts();
  }

  private static Set<String> groups(Facts facts, String login) {
    Memberships memberships =
        new Memberships(MembershipGraph.of(facts), MembershipProfile.WIDEST, Visibility.all(facts));
    SubjectSet subjects = new SubjectSet();
    int account = facts.names().find(SubjectKind.ACCOUNT, login, login).get(0);
    memberships.walker().subjects(account, subjects);
    Set<String> names = new java.util.TreeSet<>();
    for (int subject : subjects.sure().toArray()) {
      if (subject != account) {
        names.add(facts.label(subject));
      }
    }
    return names;
  }

  private String lines() {
    return String.join("\n", service.users) + "\n" + String.join("\n", service.groups) + "\n";
  }

  @Test
  void usersAndGroupsOfAFileBecomeFacts() throws IOException {
    Facts facts = file(lines());
    assertThat(facts.accounts()).isEqualTo(120);
    assertThat(facts.groups()).isEqualTo(2);
    int account = facts.names().find(SubjectKind.ACCOUNT, "user10", "user10").get(0);
    assertThat(facts.key(account).text()).isEqualTo("account:cloud/u10");
    assertThat(facts.is(account, Facts.DISABLED)).isTrue();
    assertThat(facts.mail(account)).isEqualTo("user10@alderfen.example");
    assertThat(facts.values(account, "department")).containsExactly("Vault");
    assertThat(facts.values(account, "title")).containsExactly("Keeper");
    assertThat(groups(facts, "user1")).containsExactly("Keepers", "Staff");
    assertThat(groups(facts, "user3")).containsExactly("Staff");
    assertThat(facts.arrays().dangling()).hasSize(1);
  }

  @ParameterizedTest
  @ValueSource(strings = {"[%s]", "{\"totalResults\":2,\"Resources\":[%s]}"})
  void anArrayOrAListResponseIsReadAlike(String form) throws IOException {
    Facts facts = file(String.format(form, user(1) + "," + group("g1", "Keepers", "u1")));
    assertThat(groups(facts, "user1")).containsExactly("Keepers");
  }

  @Test
  void aServiceIsReadPageByPageAndGivesTheSameAsAFile() throws IOException {
    Facts live = live();
    assertThat(service.requests).isEqualTo(4);
    Facts file = file(lines());
    assertThat(live.accounts()).isEqualTo(file.accounts());
    for (int s = 0; s < live.subjects(); s++) {
      assertThat(live.key(s)).isEqualTo(file.key(s));
      assertThat(live.label(s)).isEqualTo(file.label(s));
    }
    for (int i = 0; i < 5; i++) {
      assertThat(groups(live, "user" + i)).isEqualTo(groups(file, "user" + i));
    }
  }

  @Test
  void aPasswordNeverReachesTheSurvey() throws IOException {
    live();
    try (var files = Files.walk(root.resolve("surveys"))) {
      List<Path> parts = files.filter(f -> f.toString().endsWith(".jsonl")).toList();
      assertThat(parts).hasSize(1);
      assertThat(Files.readString(parts.get(0))).contains("user7").doesNotContain("never-to-be");
    }
  }

  private void fails(URI address, Optional<String> token, String... says) {
    ScimService asked = new ScimService("cloud", address, token, Duration.ofSeconds(2));
    assertThatThrownBy(() -> asked.into(root.resolve("out.jsonl"), count -> {}))
        .isInstanceOf(OutsideException.class)
        .message()
        .contains(says)
        .doesNotContain(TOKEN);
  }

  @Test
  void whatAServiceRefusesIsToldWithItsMend() {
    fails(service.address("/scim/v2"), Optional.empty(), "status 401", "a token that is valid");
    fails(service.address("/nowhere"), Optional.of(TOKEN), "status 404", "before /Users");
    fails(service.address("/moved"), Optional.of(TOKEN), "status 302", "redirects");
    fails(service.address("/page"), Optional.of(TOKEN), "the answer is not JSON");
    URI gone = service.address("/scim/v2");
    service.close();
    fails(gone, Optional.of(TOKEN), "nothing listens there");
  }

  @Test
  void aServiceThatStopsHalfWayIsAFailureNotAnEnd() {
    service.stopAfter = 100;
    fails(
        service.address("/scim/v2"),
        Optional.of(TOKEN),
        "it says there are 120 Users, but stops after 100");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{\"id\":\"1\"}                 | the resource is neither user nor group",
        "{\"userName\":\"a\"}           | the resource has no id",
        "{\"id\":                       | people.json:1",
        "[1,2                           | this is not JSON"
      })
  void resourcesThatAreNoneAreToldWithTheirPlace(String json, String says) {
    assertThatThrownBy(() -> file(json))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining(says);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "kind: scim, address: \"http://x.example\"          | in clear",
        "kind: scim, address: \"ldap://x.example\"          | is no address of a service",
        "kind: scim, address: \"https://x\", token: abc     | does not belong into the workspace",
        "kind: accounts, address: \"https://x\"             | accounts of a file have no address"
      })
  void settingsThatCannotBeMeantAreRefused(String settings, String says) throws IOException {
    Files.writeString(root.resolve("compass.yaml"), "directories: {cloud: {" + settings + "}}\n");
    assertThatThrownBy(() -> Workspace.open(root))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining(says);
  }
}
