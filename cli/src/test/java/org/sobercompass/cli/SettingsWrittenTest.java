package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.core.proposal.AsIn;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.text.Window;

/** Settings of applications and admin roles: previewed, written, read again, taken back. */
class SettingsWrittenTest {
  private static final String RULE =
      """
        - id: hold-and-sign
          name: holding doors and signing payments
          weight: low
          sides:
            - ["role doors:holder"]
            - [orders:payments:sign]
      """;

  @TempDir Path folder;
  private Path root;
  private Organization before;

  @BeforeEach
  void write() {
    root = folder.resolve("w");
    DemoFiles.write(root);
    before = Organization.open(root);
  }

  private static Proposal one(Step step) {
    return new Proposal("", List.of(step));
  }

  private Proposal setting(String where, String value) {
    return one(before.names().settings().setting(where, value));
  }

  /** What is held and usable, by account, system, right and node: the numbers of all readings. */
  private static Map<String, String> held(Organization organization) {
    Map<String, String> all = new TreeMap<>();
    for (SystemView view : organization.model().systems()) {
      for (int a = 0; a < organization.model().facts().accounts(); a++) {
        for (int right = 0; right < view.rights().size(); right++) {
          for (int node = 0; node < view.resources().size(); node++) {
            Can can = organization.model().asker().can(view, a, right, node);
            all.put(
                a + " " + view.number() + " " + right + " at " + node,
                can.held() + " " + can.verdict());
          }
        }
      }
    }
    return all;
  }

  /** Which right of which account is another one than it was, anywhere. */
  private static Set<String> differing(Map<String, String> then, Map<String, String> now) {
    Set<String> all = new TreeSet<>();
    then.forEach(
        (cell, what) -> {
          if (!what.equals(now.get(cell))) {
            all.add(cell.replaceFirst(" at .*", ""));
          }
        });
    return all;
  }

  private Map<String, byte[]> files() throws IOException {
    Map<String, byte[]> all = new TreeMap<>();
    try (var walk = Files.walk(root)) {
      for (Path file : walk.filter(Files::isRegularFile).toList()) {
        if (!file.toString().contains(".compass")) {
          all.put(root.relativize(file).toString(), Files.readAllBytes(file));
        }
      }
    }
    return all;
  }

  /** The preview says what the written file gives, and the inverse brings every byte back. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          seedbook:sight:nesting       | none
          seedbook:sight:account-bases | ["ou=services,dc=alderfen,dc=example"]
          seedbook:sight:account-filter| "(departmentNumber=*)"
          seedbook:sight:login-attribute |
          ledger:sight:on              | no
          seedbook:sign-in             | [local]
          seedbook:roles:lender        | {name: Lender, derives: reader, allows: {exports: view}}
          seedbook:roles:keeper:name   | Keeper of records
          doors:combining              | union
          rounds:hosts                 | [shed-1]
          """)
  void whatIsSaidIsWhatTheFileGives(String where, String value) throws IOException {
    Map<String, byte[]> were = files();
    Proposal proposal = setting(where, value == null ? "" : value);
    Organization with = before.expecting(proposal);
    Bound bound = proposal.on(with.assessment().model());
    assertThat(bound.notes()).isEmpty();
    Effects effects = Effects.of(with.model(), bound.changes());

    assertThat(before.write(proposal, "", "")).hasSize(1);
    Organization after = Organization.open(root);

    Set<String> said = new TreeSet<>();
    Stream.concat(effects.ends().stream(), effects.gives().stream())
        .forEach(e -> said.add(e.account() + " " + e.system() + " " + e.right()));
    assertThat(said).isEqualTo(differing(held(before), held(after)));
    assertThat(proposal.on(after.assessment().model()).notes())
        .extracting(Bound.Note::kind)
        .containsAnyOf(Bound.Kind.ALREADY, Bound.Kind.NOT_THERE);
    after.write(proposal.inverse(), "", "");
    // What stood in several lines is written back in one.
    if (!where.endsWith("lender") && !where.endsWith("combining")) {
      were.forEach((name, bytes) -> assertThat(read(name)).as(name).isEqualTo(text(bytes)));
    }
    assertThat(held(Organization.open(root))).isEqualTo(held(before));
  }

  private String read(String name) {
    try {
      return Files.readString(root.resolve(name));
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }

  private static String text(byte[] bytes) {
    return new String(bytes, StandardCharsets.UTF_8);
  }

  /** "Like that role, with these differences", made and given in one proposal. */
  @Test
  void aDerivedRoleIsMadeAndGiven() {
    Step creates =
        before
            .names()
            .settings()
            .deriving("seedbook", "vault-lender", "lender", Map.of("exports", List.of("view")));
    Organization with = before.expecting(one(creates));
    List<Step> steps = new ArrayList<>(List.of(creates));
    Window always = new Window(Optional.empty(), Optional.empty());
    steps.addAll(
        with.names()
            .mapping()
            .giving("seedbook", "vault-lender", "nell.dunmore", "vault", true, always));
    Proposal proposal = new Proposal("", steps);

    Preview preview = before.preview(proposal);
    assertThat(preview.effects().gives())
        .extracting(
            effect -> with.model().systems().get(effect.system()).rights().text(effect.right()))
        .contains("accessions/loans:approve", "exports:view");
    assertThat(before.can("nell.dunmore", "seedbook:exports:view", "vault").held().toString())
        .isEqualTo("NO");

    Path kept = folder.resolve("kept.yaml");
    before.keep(proposal, kept);
    assertThat(before.proposal(kept, "kept.yaml").steps()).isEqualTo(steps);

    assertThat(before.write(proposal, "Maren Holt", ""))
        .containsOnlyKeys("applications/seedbook.yaml", "assignments/seedbook.csv");
    assertThat(
            Organization.open(root)
                .can("nell.dunmore", "seedbook:exports:view", "vault")
                .verdict()
                .toString())
        .isEqualTo("YES");
    assertThatThrownBy(
            () ->
                Organization.open(root)
                    .names()
                    .settings()
                    .deriving("seedbook", "vault-lender", "lender", Map.of()))
        .isInstanceOf(UnknownNameException.class)
        .hasMessageContaining("is a role \"vault-lender\" already");
  }

  @Test
  void aRoleGoesAfterItIsWithdrawn() {
    List<Step> steps = before.names().settings().deleting("doors", "holder");
    Proposal whole = new Proposal("", steps);
    assertThat(whole.on(before.assessment().model()).isSound()).isTrue();

    Proposal alone = one(steps.get(steps.size() - 1));
    assertThat(alone.on(before.assessment().model()).notes())
        .extracting(Bound.Note::what)
        .containsExactly("3 assignments still name it; withdraw what is given first");
    assertThatThrownBy(() -> before.write(alone, "", "")).isInstanceOf(BadInputException.class);

    List<Step> givenAgain = new ArrayList<>(steps);
    Window always = new Window(Optional.empty(), Optional.empty());
    givenAgain.add(
        new Step.Assign(
            before.names().assignment("doors", "holder", "gil.wick", "vault", true, always)));
    assertThat(new Proposal("", givenAgain).on(before.assessment().model()).notes())
        .extracting(Bound.Note::what)
        .containsExactly("1 assignment still names it; withdraw what is given first");

    before.write(whole, "", "");
    Organization after = Organization.open(root);
    assertThat(after.model().system("doors").orElseThrow().system().findRole("holder")).isEmpty();
    // Who is shut out by a role loses nothing by another one that is gone.
    assertThat(after.findings()).isNotEmpty();
  }

  /** Nothing is written that the workspace could not be read with. */
  @Test
  void aRoleThatSomethingElseNamesStays() throws IOException {
    Files.writeString(
        root.resolve("compass.yaml"),
        read("compass.yaml").replace("separation:\n", "separation:\n" + RULE));
    before = Organization.open(root);
    Proposal whole = new Proposal("", before.names().settings().deleting("doors", "holder"));
    Map<String, byte[]> were = files();
    assertThatThrownBy(() -> before.write(whole, "", ""))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("holder");
    were.forEach((name, bytes) -> assertThat(read(name)).as(name).isEqualTo(text(bytes)));
  }

  @Test
  void aRoleThatOthersIncludeStays() {
    Proposal proposal = new Proposal("", before.names().settings().deleting("seedbook", "reader"));
    assertThat(proposal.on(before.assessment().model()).notes())
        .extracting(Bound.Note::what)
        .anyMatch(what -> what.startsWith("role keeper names the role \"reader\""));
  }

  /** An assignment in the table that is not in use names it too. */
  @Test
  void aRoleThatIsIntendedStays() {
    List<Step> steps = before.names().settings().deleting("permits", "officer");
    assertThat(new Proposal("", steps).on(before.assessment().model()).notes())
        .extracting(Bound.Note::what)
        .anyMatch(what -> what.contains("still name"));
  }

  @Test
  void rulesOfScopesAndActionsOfAdminRoles() throws IOException {
    Proposal actions = setting("admin:roles:helper:actions", "[unlock, set-password]");
    Preview preview = before.preview(actions);
    assertThat(preview.acts().gives()).hasSize(5);
    assertThat(preview.acts().ends()).isEmpty();

    Proposal scope =
        setting(
            "admin:scopes:guides",
            "{name: Guides, include: [{where: \"(employeeType=volunteer)\", directory: alderfen,"
                + " groups: object}]}");
    Organization with = before.expecting(scope);
    Step.Assignment over =
        with.names()
            .assignment(
                "admin",
                "helper",
                "gwick",
                "guides",
                true,
                new Window(Optional.empty(), Optional.empty()));
    Proposal both = actions.then(scope).then(one(new Step.Assign(over)));
    assertThat(before.preview(both).acts().gives().size()).isGreaterThan(5);
    before.write(both, "", "");
    Organization after = Organization.open(root);
    assertThat(after.powers().roles().administration().scope("guides")).isPresent();
    after.write(both.inverse(), "", "");
    assertThat(Files.readString(root.resolve("admin.yaml"))).doesNotContain("guides");
  }

  @Test
  void whatCannotBeSetIsTold() {
    assertThatThrownBy(() -> setting("seedbook:nodes", "x"))
        .isInstanceOf(UnknownNameException.class)
        .hasMessageContaining("no proposal can change \"nodes\" in applications/seedbook.yaml")
        .hasMessageContaining("sight");
    assertThatThrownBy(() -> setting("seedbook:sigt:on", "no"))
        .hasMessageContaining("did you mean sight");
    assertThatThrownBy(() -> setting("seedbook:roles", "{}"))
        .hasMessageContaining("roles is changed part by part");
    assertThatThrownBy(() -> setting("seedbook", "x")).hasMessageContaining("names no setting");
    assertThatThrownBy(() -> setting("fernstore:sight:on", "no"))
        .hasMessageContaining("no proposal can change the settings of");
    assertThatThrownBy(() -> setting("seedbook:combining", "[x"))
        .hasMessageContaining("is no YAML");
    assertThat(setting("seedbook:combining", "onion").on(before.assessment().model()).notes())
        .extracting(Bound.Note::what)
        .singleElement()
        .asString()
        .contains("is no way of combining");
    assertThat(
            setting("admin:scopes:helped:include", "[{scope: helped}]")
                .on(before.assessment().model())
                .isSound())
        .isFalse();
  }

  /** A copy in which somebody changed settings by hand becomes what it was. */
  @Test
  void asInBringsSettingsBack() throws IOException {
    Path copy = folder.resolve("copy");
    DemoFiles.write(copy);
    edit(copy, "applications/seedbook.yaml", "login-attribute: uid", "login-attribute: mail");
    edit(
        copy,
        "applications/seedbook.yaml",
        "  releaser:\n    name: Releaser",
        "  releaser:\n    name: Free");
    edit(
        copy,
        "admin.yaml",
        "    owner: edda.voss\n    include:\n      - subtree",
        "    owner: gil.wick\n    include:\n      - subtree");
    edit(copy, "admin.yaml", "actions: [unlock]", "actions: [unlock, edit-contact]");
    edit(copy, "assignments/seedbook.csv", "no,Sunniva Dale", "yes,Sunniva Dale");
    Organization other = Organization.open(copy);
    AsIn.Answer answer = AsIn.of(other.assessment().model(), before.assessment().model());
    assertThat(answer.left()).isEmpty();
    assertThat(answer.proposal().steps()).hasSize(6);
    other.write(answer.proposal(), "", "");
    for (String file :
        List.of("applications/seedbook.yaml", "admin.yaml", "assignments/seedbook.csv")) {
      assertThat(Files.readString(copy.resolve(file))).as(file).isEqualTo(read(file));
    }
  }

  private static void edit(Path root, String file, String from, String to) throws IOException {
    String text = Files.readString(root.resolve(file));
    assertThat(text).contains(from);
    Files.writeString(root.resolve(file), text.replace(from, to));
  }
}
