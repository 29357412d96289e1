package org.sobercompass.sources.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.report.findings.FindingWords;

/** Records of use: both formats, permissions and roles, the days at the border, what is wrong. */
class UsageTest {
  @TempDir Path root;
  private SmallWorkspace world;

  @BeforeEach
  void twoWithOneRole() {
    world = new SmallWorkspace(root).account("ann").account("bo").group("crew", "ann", "bo");
    world.given("a,group,crew,top,,,");
  }

  private SmallWorkspace csv(String... lines) {
    world.rules("usage: [{application: app, file: u.csv, since: 2026-01-01}]");
    return world.file("u.csv", "account,permission,role,last\n" + String.join("\n", lines) + "\n");
  }

  private SmallWorkspace lines(String... lines) {
    world.rules("usage: [{application: app, file: u.jsonl, since: 2026-01-01}]");
    return world.file("u.jsonl", String.join("\n", lines) + "\n");
  }

  private List<Finding> unused() {
    return world.findings().stream().filter(f -> f.kind().id().equals("unused-rights")).toList();
  }

  @Test
  void whatBothUseIsNotUnused() {
    csv("ann,a:edit,,2026-05-20", "bo,a:view,,2026-05-21");
    assertThat(unused()).isEmpty();
  }

  @Test
  void whatOneDoesNotUseIsToldOfThatOne() {
    csv("ann,a:edit,,2026-05-20");
    assertThat(unused())
        .singleElement()
        .satisfies(
            f -> {
              assertThat(FindingWords.sentence(f))
                  .startsWith("1 of the 2 accounts that are given it has not used");
              assertThat(f.subjects())
                  .singleElement()
                  .satisfies(k -> assertThat(k.id()).contains("bo"));
              assertThat(FindingWords.evidence(f)).anyMatch(e -> e.contains("no use by bo"));
            });
  }

  @Test
  void whatNobodyUsesIsOneFindingThatEndsWithTheAssignment() {
    csv("ann,b:edit,,2026-05-20");
    assertThat(unused())
        .singleElement()
        .satisfies(
            f -> {
              assertThat(FindingWords.sentence(f))
                  .startsWith("none of the 2 accounts that are given it has used");
              assertThat(f.changes()).hasSize(1);
            });
  }

  @Test
  void jsonLinesSayTheSame() {
    lines(
        "{\"account\": \"ann\", \"permission\": \"a:edit\", \"last\": \"2026-05-20\"}",
        "",
        "{\"account\": \"bo\", \"permission\": \"app:a:edit\", \"last\":"
            + " \"2026-05-20T08:00:00Z\"}");
    assertThat(unused()).isEmpty();
  }

  @Test
  void aRecordOfTheRoleIsUseOfAllItGives() {
    csv("ann,,a,2026-05-20", "bo,,a,2026-05-20");
    assertThat(unused()).isEmpty();
    assertThat(world.kinds()).doesNotContain("rarely-used-role");
  }

  @ParameterizedTest
  @CsvSource({"2026-03-03T11:59:59Z, 1", "2026-03-03T12:00:00Z, 0", "2026-03-04, 0"})
  void ninetyDaysAreTheBorder(String last, int found) {
    csv("ann,a:edit,,2026-05-20", "bo,a:edit,," + last);
    assertThat(unused()).hasSize(found);
  }

  @Test
  void theWorkspaceSetsTheDays() {
    csv("ann,a:edit,,2026-05-20", "bo,a:edit,,2026-05-01");
    assertThat(unused()).isEmpty();
    world.rules("findings: {unused: 20}");
    assertThat(unused())
        .singleElement()
        .satisfies(f -> assertThat(FindingWords.sentence(f)).endsWith("for 20 days"));
  }

  @Test
  void whoIsDisabledOrHasExpiredNeedNotUseAnything() {
    world = new SmallWorkspace(root).account("ann").account("bo", "shadowExpire: 20000");
    world.group("crew", "ann", "bo").given("a,group,crew,top,,,");
    csv("ann,a:edit,,2026-05-20");
    assertThat(unused()).isEmpty();
  }

  @Test
  void recordsOfUnknownAccountsAreCountedAndListed() {
    csv(
        "ann,a:edit,,2026-05-20",
        "bo,a:edit,,2026-05-20",
        "zed,a:edit,,2026-05-20",
        "yan,a:edit,,2026-05-20");
    assertThat(world.open().problems())
        .extracting(Problem::toString)
        .anyMatch(p -> p.contains("2 accounts with records of use are in no directory: yan, zed"));
    assertThat(unused()).isEmpty();
  }

  @Test
  void allThatIsWrongIsToldWithItsPlace() {
    csv(
        "ann,a:edit,,2026-07-01",
        "ann,a:edit,a,2026-05-01",
        "ann,,,2026-05-01",
        "ann,a:edti,,2026-05-01",
        "ann,,aa,2026-05-01",
        "ann,a:edit,,soon");
    assertThatThrownBy(world::open)
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("u.csv:2: last: \"2026-07-01\" is in the future")
        .hasMessageContaining("u.csv:3")
        .hasMessageContaining("u.csv:4")
        .hasMessageContaining("names neither or both of permission and role")
        .hasMessageContaining("a:edti")
        .hasMessageContaining("did you mean")
        .hasMessageContaining("u.csv:6")
        .hasMessageContaining("u.csv:7")
        .hasMessageContaining("soon");
  }

  @Test
  void aLineThatIsNoJsonIsToldWithItsNumber() {
    lines("{\"account\": \"ann\", \"permission\": \"a:edit\", \"last\": \"2026-05-20\"}", "{oops");
    assertThatThrownBy(world::open)
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("u.jsonl:2: this is no JSON");
  }

  @Test
  void anApplicationThatIsNotThereIsWrong() {
    world.rules("usage: [{application: apq, file: u.csv, since: 2026-01-01}]");
    world.file("u.csv", "account,permission,last\n");
    assertThatThrownBy(world::open)
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("apq")
        .hasMessageContaining("did you mean app?");
  }
}
