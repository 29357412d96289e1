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
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.sources.workspace.Workspace;

/** What a waiver covers: the subjects it names, until its last day, and nothing that is new. */
class WaiverTest {
  private static final String KEY = "finding:separation-of-duties/r/group:main/cn=pair,dc=x";
  private static final String PERSON = "finding:direct-assignment/";

  @TempDir Path root;
  private SmallWorkspace world;

  @BeforeEach
  void aPairThatHoldsBoth() {
    world = new SmallWorkspace(root).account("ann").account("bo").account("cy");
    world.group("pair", "ann", "bo").given("a,group,pair,top,,,", "b,group,pair,top,,,");
    world.rules("separation: [{id: r, sides: [[app:a:edit], [app:b:edit]]}]");
    world.rules("findings: {off: [conflicting-role]}").rules("waivers: w.yaml");
  }

  private static String waiver(String key, String subjects, String until) {
    return "  - {finding: '"
        + key
        + "', subjects: ["
        + subjects
        + "], accepted-by: cy, reason: agreed, until: "
        + until
        + "}\n";
  }

  private Triage sorted(String... waivers) {
    world.file("w.yaml", "waivers:\n" + String.join("", waivers));
    Workspace workspace = world.open();
    var model = workspace.model(Instant.parse(SmallWorkspace.NOW), Optional.empty());
    return Triage.of(
        Findings.of(workspace.assessment(model)),
        workspace.waivers(),
        model.asOf().getEpochSecond());
  }

  @Test
  void itCoversAFindingOfSeveralWhenItNamesThemAll() {
    Triage sorted = sorted(waiver(KEY, "ann, bo", "2026-12-31"));
    assertThat(sorted.open()).isEmpty();
    assertThat(sorted.told()).isEmpty();
    assertThat(sorted.waived())
        .singleElement()
        .satisfies(w -> assertThat(w.waiver().reason()).isEqualTo("agreed"));
  }

  @Test
  void itCoversNothingWhenItNamesSome() {
    Triage sorted = sorted(waiver(KEY, "ann", "2026-12-31"));
    assertThat(sorted.open()).hasSize(1);
    assertThat(sorted.told())
        .singleElement()
        .satisfies(
            t ->
                assertThat(t)
                    .contains("does not name 1 subject of the finding, which is open")
                    .contains("uid=bo"));
  }

  @Test
  void itCoversNothingWhenItNamesNobodyOfSeveral() {
    assertThat(sorted(waiver(KEY, "", "2026-12-31")).open()).hasSize(1);
  }

  @Test
  void somebodyNewOpensTheFindingAgain() {
    assertThat(sorted(waiver(KEY, "ann, bo", "2026-12-31")).open()).isEmpty();
    world.group("more", "cy");
    world.people.append("dn: cn=pair2,dc=x\nobjectClass: groupOfNames\ncn: pair2\n\n");
    int at = world.people.indexOf("member: uid=bo");
    world.people.insert(at, "member: uid=cy,dc=x\n");
    Triage sorted = sorted(waiver(KEY, "ann, bo", "2026-12-31"));
    assertThat(sorted.open()).hasSize(1);
    assertThat(sorted.told()).anyMatch(t -> t.contains("uid=cy"));
  }

  @Test
  void somebodyWhoIsGoneDoesNot() {
    assertThat(sorted(waiver(KEY, "ann, bo, cy", "2026-12-31")).open()).isEmpty();
  }

  @Test
  void oneThatCoversIsEnoughBesideOneThatIsOver() {
    Triage sorted =
        sorted(waiver(KEY, "ann, bo", "2026-05-31"), waiver(KEY, "ann, bo", "2026-12-31"));
    assertThat(sorted.open()).isEmpty();
    assertThat(sorted.told()).singleElement().satisfies(t -> assertThat(t).contains("w.yaml:2"));
  }

  @Test
  void oneThatMatchesNothingIsToldWithItsPlace() {
    Triage sorted = sorted(waiver(PERSON + "assignment:app/x", "", "2026-12-31"));
    assertThat(sorted.told())
        .singleElement()
        .satisfies(t -> assertThat(t).startsWith("w.yaml:2").contains("matches no finding"));
  }

  @Test
  void theLastDayIsOfTheZoneOfTheWorkspace() {
    world.rules("zone: Pacific/Auckland");
    // Midday in UTC on 1 June is past midnight there.
    assertThat(sorted(waiver(KEY, "ann, bo", "2026-06-01")).open()).hasSize(1);
    assertThat(sorted(waiver(KEY, "ann, bo", "2026-06-02")).open()).isEmpty();
  }

  @Test
  void keysOfOtherShapesAreWrong() {
    assertThatThrownBy(() -> sorted(waiver("separation-of-duties/r", "", "2026-12-31")))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("w.yaml:2");
    assertThatThrownBy(() -> sorted("  - {finding: 'finding:nonsense/x', reason: y}\n"))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("accepted-by");
  }

  @Test
  void allFindingsStandOnceInOpenOrWaived() {
    world.given("reader,account,cy,top,,,", "a,account,cy,top,,,");
    Triage none = sorted(waiver(KEY, "", "2026-12-31"));
    Triage some = sorted(waiver(KEY, "ann, bo", "2026-12-31"));
    assertThat(some.open().size() + some.waived().size()).isEqualTo(none.open().size());
    assertThat(List.of(some.waived().size(), none.waived().size())).containsExactly(1, 0);
  }
}
