package org.sobercompass.sources.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.expect.Expectations;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.workspace.Workspace;

/** Expectations and waivers: each form, both answers, what is not known, what is wrong. */
class ExpectTest {
  @TempDir Path root;
  private SmallWorkspace world;

  @BeforeEach
  void people() {
    world = new SmallWorkspace(root).account("ann").account("bo").account("cy");
    world.group("as", "ann", "bo").group("bs", "ann");
    world.given("a,group,as,north,,,", "b,group,bs,top,,,");
    world.rules("expectations: e.yaml");
  }

  private List<String> verdicts(String... lines) {
    world.file("e.yaml", "expectations:\n  - {id: " + String.join("}\n  - {id: ", lines) + "}\n");
    Workspace workspace = world.open();
    var assessment =
        workspace.assessment(workspace.model(Instant.parse(SmallWorkspace.NOW), Optional.empty()));
    Expectations checker = new Expectations(assessment);
    return workspace.expectations().stream()
        .map(checker::check)
        .map(o -> o.expectation().id() + " " + o.verdict() + " " + o.against().size())
        .toList();
  }

  @Test
  void theseCanAndCannot() {
    assertThat(
            verdicts(
                "1, these: [ann, bo], can: 'app:a:edit'",
                "2, these: [group as, cy], can: 'app:a:edit'",
                "3, these: [cy], cannot: 'app:a:edit'",
                "4, these: [group as], cannot: 'app:a:edit'"))
        .containsExactly("1 YES 0", "2 NO 1", "3 YES 0", "4 NO 2");
  }

  @Test
  void onlyTheseAndNobodyOutside() {
    assertThat(
            verdicts(
                "1, only: [group as], can: 'app:a:edit'",
                "2, only: [ann], can: 'app:a:edit'",
                "3, only: [group as, cy], can: 'app:a:edit'",
                "4, nobody-outside: [group as, cy], can: 'app:a:edit'",
                "5, nobody-outside: [cy], can: 'app:b:edit'"))
        .containsExactly("1 YES 0", "2 NO 1", "3 NO 1", "4 YES 0", "5 NO 1");
  }

  @Test
  void atANodeAndAnywhere() {
    assertThat(
            verdicts(
                "1, these: [bo], can: 'app:a:edit', at: north",
                "2, these: [bo], cannot: 'app:a:edit', at: south",
                "3, these: [bo], can: 'app:a:edit'"))
        .containsExactly("1 YES 0", "2 YES 0", "3 YES 0");
  }

  @Test
  void nobodyHoldsBothNorARole() {
    assertThat(
            verdicts(
                "1, nobody-holds: ['app:a:edit', 'app:b:edit']",
                "2, nobody-holds: ['app:a:edit', 'role app:both']",
                "3, only: [group bs], can: role app:b"))
        .containsExactly("1 NO 1", "2 YES 0", "3 YES 0");
  }

  @Test
  void whatIsBlockedCountsOnlyWhereItIsAskedFor() {
    world.head("register: r.csv").file("r.csv", "kind,subject\naccount,bo\n");
    assertThat(
            verdicts(
                "1, these: [ann], cannot: 'app:a:edit'",
                "2, these: [ann], cannot: 'app:a:edit', count-blocked: yes"))
        .containsExactly("1 YES 0", "2 NO 1");
  }

  @Test
  void whatIsNotKnownIsUndecided() {
    world.head("sight: {directory: main, group-filter: '(uidNumber>=5)'}");
    world.people.append("dn: cn=odd,dc=x\nobjectClass: groupOfNames\ncn: odd\n");
    world.people.append("uidNumber: word\nmember: uid=cy,dc=x\n\n");
    world.given("a,group,odd,top,,,");
    assertThat(verdicts("1, these: [cy], cannot: 'app:a:edit'")).containsExactly("1 UNDECIDED 1");
  }

  @Test
  void aRoleIsHeldByWhoIsGivenOneThatIncludesItWhereItReaches() {
    world.group("cs", "cy").given("both,group,cs,south,,,");
    assertThat(
            verdicts(
                "1, these: [cy], can: role app:a",
                "2, these: [cy], can: role app:a, at: house",
                "3, these: [cy], cannot: role app:a, at: north",
                "4, these: [bo], cannot: role app:b"))
        .containsExactly("1 YES 0", "2 YES 0", "3 YES 0", "4 YES 0");
  }

  @Test
  void ofWhomItIsNotKnownWhetherHeIsGivenARoleItIsNotKnown() {
    world.head("sight: {directory: main, group-filter: '(uidNumber>=5)'}");
    world.people.append("dn: cn=odd,dc=x\nobjectClass: groupOfNames\ncn: odd\n");
    world.people.append("uidNumber: word\nmember: uid=cy,dc=x\n\n");
    world.given("a,group,odd,top,,,");
    assertThat(verdicts("1, these: [cy], cannot: role app:a", "2, these: [bo], cannot: role app:a"))
        .containsExactly("1 UNDECIDED 1", "2 YES 0");
  }

  @Test
  void contradictionsAreTold() {
    verdicts("1, these: [ann], can: 'app:a:edit'", "2, nobody-outside: [bo], can: 'app:a:edit'");
    Workspace workspace = world.open();
    Problems problems = new Problems();
    new Expectations(workspace.assessment(workspace.model()))
        .contradictions(workspace.expectations(), problems);
    assertThat(problems.list())
        .singleElement()
        .satisfies(p -> assertThat(p.toString()).contains("1 and 2 contradict each other for ann"));
  }

  @Test
  void whatIsWrongIsToldInOneGo() {
    assertThatThrownBy(
            () ->
                verdicts(
                    "1, these: [zed], can: 'app:a:edit'",
                    "2, these: [ann]",
                    "2, only: [ann], cannot: 'app:a:edit'",
                    "4, nobody-holds: ['app:a:edit']",
                    "5, these: [ann], can: 'app:c:edit'",
                    "6, these: [ann], can: 'app:a:edit', at: nroth"))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("there is no account \"zed\"")
        .hasMessageContaining("the expectation 2 does not say what is expected")
        .hasMessageContaining("the expectation 2 stands twice")
        .hasMessageContaining("nobody-holds: names 1")
        .hasMessageContaining("there is no permission \"c:edit\"")
        .hasMessageContaining("did you mean north?");
  }

  private Triage sorted(String waivers) {
    world
        .rules("waivers: w.yaml")
        .file("e.yaml", "expectations: [{id: x, these: [ann], can: app:a:edit}]\n");
    world.rules("separation: [{id: r, sides: [[app:a:edit], [app:b:edit]]}]");
    world.rules("findings: {off: [conflicting-role]}");
    world.file("w.yaml", "waivers:\n" + waivers);
    Workspace workspace = world.open();
    var model = workspace.model(Instant.parse(SmallWorkspace.NOW), Optional.empty());
    return Triage.of(
        Findings.of(workspace.assessment(model)),
        workspace.waivers(),
        model.asOf().getEpochSecond());
  }

  private static final String OF_ANN =
      "  - {finding: 'finding:separation-of-duties/r/account:main/uid=ann,dc=x', reason: x,"
          + " accepted-by: bo, until: ";

  @Test
  void aWaiverCoversThroughItsLastDay() {
    assertThat(sorted(OF_ANN + "2026-06-01}\n").waived()).hasSize(1);
  }

  @Test
  void aWaiverThatIsOverCoversNothing() {
    Triage sorted = sorted(OF_ANN + "2026-05-31}\n");
    assertThat(sorted.open()).hasSize(1);
    assertThat(sorted.told()).singleElement().satisfies(t -> assertThat(t).contains("ended on"));
  }

  @Test
  void aWaiverWithoutWhoWhyAndUntilIsWrong() {
    assertThatThrownBy(() -> sorted("  - {finding: f, until: soon, subjects: [zed]}\n"))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("is no identity of a finding")
        .hasMessageContaining("until: \"soon\" is no date")
        .hasMessageContaining("reason: is missing")
        .hasMessageContaining("accepted-by: is missing")
        .hasMessageContaining("there is no account \"zed\"");
  }
}
