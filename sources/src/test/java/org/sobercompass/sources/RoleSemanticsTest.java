package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** How rights come together, rule by rule as docs/combining.md states them, worked out by hand. */
class RoleSemanticsTest {
  private static final String SHAPE =
      """
      areas: {records: {loans: , origins: }, labels: }
      levels: [view, edit, own]
      actions: [print]
      nodes: {trust: {vault: {cold: Cold room}, glass: Glasshouses}}
      roles:
        reader: {allows: {records: view}}
        keeper: {allows: {records: edit, records/loans: view, labels: [view, print]}}
        lender: {derives: keeper, allows: {records/loans: own}}
        mixed: {includes: [reader, lender]}
        all: {allows: {"*": view, labels: none}}
      """;

  @TempDir Path root;

  private SmallWorkspace people() {
    return new SmallWorkspace(root)
        .unit("vault")
        .account("ann", "vault")
        .account("bo", "vault")
        .account("cy", "glass")
        .group("crew", "uid=ann,ou=vault", "uid=bo,ou=vault")
        .group("leads", "uid=ann,ou=vault")
        .group("staff", "cn=crew,ou=groups", "uid=cy,ou=glass");
  }

  private SmallWorkspace.Asked union(String... assignments) {
    return people().with("sight: {directory: main}\n" + SHAPE, assignments);
  }

  @ParameterizedTest
  @CsvSource({
    "reader, records:view, yes",
    "reader, records/loans:view, yes",
    "reader, records/loans:edit, no",
    "keeper, records:edit, yes",
    "keeper, records/origins:edit, yes",
    "keeper, records/loans:view, yes",
    "keeper, records/loans:edit, no",
    "keeper, labels:print, yes",
    "keeper, labels:edit, no",
    "lender, records/loans:edit, yes",
    "lender, records/loans:own, yes",
    "lender, records/origins:edit, yes",
    "lender, labels:print, yes",
    "mixed, records/loans:own, yes",
    "mixed, records:edit, yes",
    "all, records/origins:view, yes",
    "all, labels:view, no"
  })
  void theEntryOfAnAreaOrTheNearestAboveCounts(String role, String permission, String answer) {
    assertThat(union(role + ",group,crew,,,,,").can("ann", permission, "")).isEqualTo(answer);
  }

  @Test
  void aLowEntryOfOneRoleTakesNothingFromAnother() {
    SmallWorkspace.Asked asked = union("keeper,group,crew,,,,,", "lender,group,leads,,,,,");
    assertThat(asked.can("ann", "records/loans:own", "")).isEqualTo("yes");
    assertThat(asked.can("bo", "records/loans:own", "")).isEqualTo("no");
  }

  @ParameterizedTest
  @CsvSource({
    "vault, yes, trust, no",
    "vault, yes, vault, yes",
    "vault, yes, cold, yes",
    "vault, yes, glass, no",
    "vault, no, vault, yes",
    "vault, no, cold, no",
    "'', yes, cold, yes",
    "'', no, cold, no",
    "'', no, trust, yes"
  })
  void anAssignmentReachesItsNodeAndItsDescendantsUnlessItSaysNo(
      String at, String descends, String node, String answer) {
    String row = "keeper,group,crew," + at + "," + descends + ",,,";
    assertThat(union(row).can("ann", "records:edit", node)).isEqualTo(answer);
  }

  @ParameterizedTest
  @CsvSource({
    "2026-06-01T00:00:00Z, 2026-06-01, , yes",
    "2026-05-31T23:59:59Z, 2026-06-01, , no",
    "2026-06-30T23:59:59Z, , 2026-06-30, yes",
    "2026-07-01T00:00:00Z, , 2026-06-30, no",
    "2026-06-30T11:59:59Z, , 2026-06-30T12:00:00Z, yes",
    "2026-06-30T12:00:00Z, , 2026-06-30T12:00:00Z, no"
  })
  void aDateIncludesItsDayAndAnInstantIsTheFirstMomentWithout(
      String at, String from, String until, String answer) {
    String row =
        "keeper,group,crew,,," + (from == null ? "" : from) + "," + (until == null ? "" : until);
    SmallWorkspace.Asked asked =
        people().at(at).with("sight: {directory: main}\n" + SHAPE, row + ",");
    assertThat(asked.can("ann", "records:edit", "")).isEqualTo(answer);
  }

  @ParameterizedTest
  @CsvSource({"2026-06-30T22:59:59Z, yes", "2026-06-30T23:00:00Z, no"})
  void aDayEndsInTheZoneOfTheWorkspaceInSummerTimeToo(String at, String answer) {
    SmallWorkspace.Asked asked =
        people()
            .main("zone: Europe/Lisbon\n")
            .at(at)
            .with("sight: {directory: main}\n" + SHAPE, "keeper,group,crew,,,,2026-06-30,");
    assertThat(asked.can("ann", "records:edit", "")).isEqualTo(answer);
  }

  @Test
  void anAssignmentSwitchedOffGivesNothing() {
    assertThat(union("keeper,group,crew,,,,,no").can("ann", "records:edit", "")).isEqualTo("no");
  }

  private SmallWorkspace.Asked denying(String... assignments) {
    return people()
        .with(
            """
            sight: {directory: main}
            areas: {records: {loans: }}
            levels: [view, edit, own]
            nodes: {trust: {vault: {cold: Cold room}, glass: Glasshouses}}
            combining: deny-overrides
            roles:
              owner: {allows: {records: own}}
              no-edit: {denies: {records: edit}}
              no-loans: {denies: {records/loans: view}}
            """,
            assignments);
  }

  @ParameterizedTest
  @CsvSource({
    "no-edit, records:view, cold, yes",
    "no-edit, records:edit, cold, no",
    "no-edit, records:own, cold, no",
    "no-edit, records/loans:edit, cold, no",
    "no-loans, records:own, cold, yes",
    "no-loans, records/loans:view, cold, no"
  })
  void aDenyTakesItsLevelAndThoseAboveFromAllAreasBelow(
      String role, String permission, String node, String answer) {
    SmallWorkspace.Asked asked = denying("owner,group,leads,cold,,,,", role + ",group,staff,,,,,");
    assertThat(asked.can("ann", permission, node)).isEqualTo(answer);
  }

  @Test
  void aFarDenyBeatsANearAllowAndADenyElsewhereDoesNot() {
    assertThat(
            denying("owner,account,ann,cold,,,,", "no-edit,group,staff,trust,,,,")
                .can("ann", "records:edit", "cold"))
        .isEqualTo("no");
    assertThat(
            denying("owner,account,ann,cold,,,,", "no-edit,group,staff,glass,,,,")
                .can("ann", "records:edit", "cold"))
        .isEqualTo("yes");
    assertThat(
            denying("owner,account,ann,cold,,,,", "no-edit,group,staff,vault,no,,,")
                .can("ann", "records:edit", "cold"))
        .isEqualTo("yes");
  }

  private SmallWorkspace.Asked nearest(String settings, String... assignments) {
    return people()
        .with(
            "sight: {directory: main}\nareas: [door]\nactions: [open, hold]\n"
                + "nodes: {trust: {vault: {cold: Cold room}, glass: Glasshouses}}\n"
                + "roles: {open: {allows: {door: open}}, both: {allows: {door: [open, hold]}},"
                + " shut: {allows: {door: none}}}\n"
                + "combining: {nearest: ["
                + settings
                + "]}\n",
            assignments);
  }

  @Test
  void byNodeTheDeepestDecidesAndReplacesWhatIsAbove() {
    SmallWorkspace.Asked asked =
        nearest("node", "both,group,crew,,,,,", "open,group,staff,vault,,,,");
    assertThat(asked.can("ann", "door:hold", "trust")).isEqualTo("yes");
    assertThat(asked.can("ann", "door:hold", "cold")).isEqualTo("no");
    assertThat(asked.can("ann", "door:open", "cold")).isEqualTo("yes");
    assertThat(asked.can("ann", "door:hold", "glass")).isEqualTo("yes");
  }

  @Test
  void bySubjectTheAccountBeatsItsGroupsAndTheyBeatImplicitOnes() {
    SmallWorkspace.Asked asked =
        nearest(
            "subject",
            "shut,account,ann,,,,,",
            "both,group,crew,,,,,",
            "open,implicit,signed-in,,,,,");
    assertThat(asked.can("ann", "door:open", "cold")).isEqualTo("no");
    assertThat(asked.can("bo", "door:hold", "cold")).isEqualTo("yes");
    assertThat(asked.can("cy", "door:open", "cold")).isEqualTo("yes");
    assertThat(asked.can("cy", "door:hold", "cold")).isEqualTo("no");
  }

  @Test
  void howDeepAGroupIsNestedDoesNotMatterAndEqualsAddUp() {
    SmallWorkspace.Asked asked =
        nearest("subject", "open,group,crew,,,,,", "both,group,staff,,,,,");
    assertThat(asked.can("ann", "door:hold", "")).isEqualTo("yes");
    assertThat(
            nearest("node, subject", "shut,group,crew,vault,,,,", "open,group,staff,vault,,,,")
                .can("ann", "door:open", "cold"))
        .isEqualTo("yes");
  }

  @Test
  void withBothTheNodeIsAskedFirst() {
    SmallWorkspace.Asked asked =
        nearest("node, subject", "both,account,ann,,,,,", "open,implicit,everyone,cold,,,,");
    assertThat(asked.can("ann", "door:hold", "vault")).isEqualTo("yes");
    assertThat(asked.can("ann", "door:hold", "cold")).isEqualTo("no");
  }

  @Test
  void anAssignmentThatIsOverDoesNotDecide() {
    SmallWorkspace.Asked asked =
        nearest("node", "both,group,crew,,,,,", "shut,group,crew,vault,,,2026-05-31,");
    assertThat(asked.can("ann", "door:hold", "cold")).isEqualTo("yes");
  }
}
