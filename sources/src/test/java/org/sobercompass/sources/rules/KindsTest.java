package org.sobercompass.sources.rules;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.report.findings.FindingWords;

/** The kinds of finding that thresholds and rules decide: yes, no, and the border between. */
class KindsTest {
  @TempDir Path root;
  private SmallWorkspace world;

  @BeforeEach
  void twoPeople() {
    world = new SmallWorkspace(root).account("ann").account("bo").group("crew", "ann");
  }

  private Finding only(String kind) {
    List<Finding> found =
        world.findings().stream().filter(f -> f.kind().id().equals(kind)).toList();
    assertThat(found).hasSize(1);
    return found.get(0);
  }

  @Test
  void anAssignmentIsOverAfterItsLastDay() {
    world.given("reader,group,crew,top,,2026-06-01,").given("a,group,crew,top,,2026-05-31,");
    assertThat(world.kinds()).containsExactly("expired-assignment");
    assertThat(FindingWords.sentence(only("expired-assignment"))).contains("role a of app");
  }

  @Test
  void aGroupWithNobodyInItIsTold() {
    world.group("hollow", "member: uid=gone,dc=x").given("reader,group,hollow,top,,,");
    assertThat(world.kinds()).contains("assigned-to-empty-group");
    world = new SmallWorkspace(root.resolve(".")).account("ann").group("crew", "ann");
    world.given("reader,group,crew,top,,,");
    assertThat(world.kinds()).isEmpty();
  }

  private void tenMore(int inGroup) {
    String[] members = new String[inGroup];
    for (int i = 0; i < 18; i++) {
      world.account("p" + i);
      if (i < inGroup) {
        members[i] = "p" + i;
      }
    }
    world.group("many", members);
  }

  @Test
  void aGroupIsBroadFromHalfOfThoseSeenOn() {
    tenMore(10);
    world.given("a,group,many,top,,,");
    assertThat(world.kinds()).containsExactly("assigned-to-large-group");
    assertThat(FindingWords.of(only("assigned-to-large-group")).why())
        .anyMatch(w -> w.startsWith("10 of the 20"));
  }

  @Test
  void aGroupIsNotBroadBelowHalfNorForTheLowestLevelNorForWhatIsEveryday() {
    tenMore(9);
    world.unit("dc=x").given("a,group,many,top,,,", "reader,unit,dc=x,top,,,");
    assertThat(world.kinds()).doesNotContain("assigned-to-large-group");
    world.rules("findings: {broad: {share: 45}, everyday: [app:a:edit]}");
    assertThat(world.kinds()).doesNotContain("assigned-to-large-group");
  }

  @Test
  void aUnitIsBroadAsAGroupIs() {
    tenMore(0);
    world.unit("dc=x").given("a,unit,dc=x,top,,,");
    assertThat(FindingWords.sentence(only("assigned-to-large-group")))
        .startsWith("given to a unit with 20 accounts: the role a of app to");
  }

  @Test
  void aUnitWithNobodyInItIsTold() {
    world.unit("ou=later,dc=x").given("a,unit,\"ou=later,dc=x\",top,,,");
    assertThat(world.kinds()).containsExactly("assigned-to-empty-group");
  }

  @Test
  void aGroupThatTheWorkspaceCallsBroadIsBroad() {
    world.given("a,group,crew,top,,,").rules("findings: {broad: {groups: [group crew]}}");
    assertThat(world.kinds()).containsExactly("assigned-to-large-group");
  }

  @Test
  void givenEverywhereIsToldWhereThreeOthersHaveItAtOnePlace() {
    world.group("n", "bo").group("s", "bo", "ann").group("h", "bo", "crew");
    world.given("a,group,n,north,,,", "a,group,s,south,,,", "a,group,crew,top,,,");
    assertThat(world.kinds()).doesNotContain("unscoped-assignment");
    world.given("a,group,h,house,,,");
    assertThat(FindingWords.sentence(only("unscoped-assignment"))).contains("crew");
  }

  @Test
  void aNearerAssignmentThatGivesLessTakesAway() {
    world.combining("{nearest: [node]}");
    world.given("both,group,crew,top,,,", "reader,group,crew,north,,,");
    assertThat(only("assignment-removes-rights").subjects()).hasSize(1);
    assertThat(FindingWords.sentence(only("assignment-removes-rights"))).contains("at north");
  }

  @Test
  void aRoleThatIsThereToTakeAwayIsToldOnlyWhereItIsAskedFor() {
    world.combining("deny-overrides");
    world.given("a,group,crew,top,,,", "stop,group,crew,top,,,");
    assertThat(world.kinds()).doesNotContain("assignment-removes-rights");
    world.rules("findings: {blocking-roles: yes}");
    assertThat(FindingWords.sentence(only("assignment-removes-rights"))).contains("stop");
  }

  @Test
  void aRoleThatDeniesOnlyWhatItAllowsItselfTakesNothingFromAnother() {
    world.combining("deny-overrides");
    world.given("odd,group,crew,top,,,", "b,group,crew,top,,,");
    assertThat(world.kinds()).doesNotContain("assignment-removes-rights");
    world.given("a,group,crew,top,,,");
    assertThat(only("assignment-removes-rights").subjects()).isNotEmpty();
  }

  @Test
  void aRoleThatGivesAndDeniesTakesAway() {
    world.combining("deny-overrides");
    world.given("a,group,crew,top,,,", "swap,group,crew,top,,,");
    assertThat(FindingWords.of(only("assignment-removes-rights")).why().get(0)).contains("denied");
  }

  @Test
  void anAccountSleepsAfterNinetyDaysAndNeverWhereTheDirectoryDoesNotTell() {
    world = new SmallWorkspace(root);
    world
        .account("ann", "authTimestamp: 20260303115900Z")
        .account("bo", "authTimestamp: 20260303120100Z");
    world.account("cy").group("crew", "ann", "bo", "cy").given("a,group,crew,top,,,");
    assertThat(world.findings())
        .extracting(f -> f.kind().id() + " " + f.cause().id())
        .containsExactlyInAnyOrder("dormant-account uid=ann,dc=x", "dormant-account uid=cy,dc=x");
    world.account("dee").account("eve");
    assertThat(world.kinds()).isEmpty();
  }

  @Test
  void anAccountMadeLatelyNeedNotHaveSignedIn() {
    world = new SmallWorkspace(root);
    world.account("ann", "authTimestamp: 20260530115900Z");
    world.account("bo", "createTimestamp: 20260520080000Z").group("crew", "ann", "bo");
    world.given("a,group,crew,top,,,");
    assertThat(world.kinds()).isEmpty();
  }

  @Test
  void aServiceAccountWithAShellSignsInAndOneWithMuchHoldsMore() {
    world = new SmallWorkspace(root);
    world.account("svc", "loginShell: /bin/sh").account("job", "loginShell: /sbin/nologin");
    world.given("a,account,svc,top,,,", "reader,account,job,top,,,");
    assertThat(world.kinds()).containsOnly("direct-assignment");
    world.rules("findings: {services: {accounts: [svc, job]}}");
    assertThat(world.kinds())
        .containsExactlyInAnyOrder("service-account-signs-in", "service-account-excess");
  }

  @Test
  void whatServicesMayHoldIsNotMore() {
    world = new SmallWorkspace(root).account("svc").given("a,account,svc,top,,,");
    world.rules("findings: {services: {accounts: [svc], may-hold: [app:a:edit]}}");
    assertThat(world.kinds()).isEmpty();
  }

  @Test
  void whatNobodyUsedAndWhatOneDidNotUseAreOneFindingEach() {
    world.group("all", "ann", "bo").given("a,group,all,top,,,", "b,group,crew,top,,,");
    world.rules("usage: [{application: app, file: u.csv, since: 2026-01-01}]");
    world.file("u.csv", "account,permission,last\nann,a:edit,2026-05-03\nbo,a:edit,2026-05-03\n");
    assertThat(FindingWords.sentence(only("unused-rights")))
        .startsWith("the only account that is given it has not used");
    world.file("u.csv", "account,permission,last\nann,a:edit,2026-05-03\nann,b:edit,2026-05-03\n");
    assertThat(only("unused-rights").subjects()).hasSize(1);
    assertThat(FindingWords.sentence(only("unused-rights"))).startsWith("1 of the 2 accounts");
  }

  @Test
  void recordsThatDoNotReachBackFarEnoughSayNothing() {
    world.given("a,group,crew,top,,,");
    world.rules("usage: [{application: app, file: u.csv, since: 2026-03-20}]");
    world.file("u.csv", "account,permission,last\n");
    assertThat(world.kinds()).isEmpty();
  }

  @Test
  void aRoleIsHardlyUsedBelowTheShare() {
    world.given("both,group,crew,top,,,");
    world.rules(
        "findings: {used-share: 50}\n"
            + "usage: [{application: app, file: u.csv, since: 2026-01-01}]");
    world.file("u.csv", "account,permission,last\nann,a:view,2026-05-03\n");
    assertThat(world.kinds()).containsExactly("rarely-used-role");
    world.file("u.csv", "account,permission,last\nann,a:edit,2026-05-03\n");
    assertThat(world.kinds()).isEmpty();
  }

  private void peers(String share) {
    world = new SmallWorkspace(root);
    for (int i = 0; i < 10; i++) {
      world.account("p" + i, "title: Keeper");
    }
    world.group("one", "p0").group("two", "p1", "p2");
    world.given("a,group,one,top,,,", "b,group,two,top,,,");
    world.rules("findings: {peers: {by: [title], share: " + share + "}}");
  }

  @Test
  void aRightUnlikeThatOfPeersIsToldUpToTheShare() {
    peers("10");
    assertThat(FindingWords.sentence(only("peer-outlier")))
        .contains("holds a:edit")
        .contains("10 peers");
    peers("9");
    assertThat(world.kinds()).doesNotContain("peer-outlier");
  }

  /** What a group of two gives to both is agreed for the group, however few hold it. */
  @Test
  void whatASmallGroupGivesToAllItsMembersIsNoOutlier() {
    peers("20");
    assertThat(world.kinds()).filteredOn("peer-outlier"::equals).hasSize(1);
    assertThat(FindingWords.sentence(only("peer-outlier"))).startsWith("p0 holds");
  }

  @Test
  void whoStandsOutByTheSameRightsIsOneFinding() {
    world = new SmallWorkspace(root);
    for (int i = 0; i < 10; i++) {
      world.account("p" + i, "title: Keeper");
    }
    world.group("one", "p0").group("two", "p1");
    world.given("a,group,one,top,,,", "a,group,two,top,,,");
    world.rules("findings: {peers: {by: [title], share: 20}}");
    assertThat(FindingWords.sentence(only("peer-outlier"))).startsWith("2 accounts hold a:edit");
    assertThat(only("peer-outlier").subjects()).hasSize(2);
  }

  @Test
  void assignmentsThatOneOtherMakesRedundantAreOneFinding() {
    world.group("all", "crew");
    world.given("a,group,all,top,,,", "a,account,ann,top,,,", "a,group,crew,top,,,");
    assertThat(world.kinds()).filteredOn("redundant-assignment"::equals).hasSize(1);
    Finding one = only("redundant-assignment");
    assertThat(FindingWords.sentence(one))
        .isEqualTo(
            "2 assignments change nothing, since another gives the same: the role a of app to all,"
                + " everywhere");
    assertThat(one.changes()).hasSize(2);
  }

  @Test
  void anEmptyGroupWithSeveralRolesIsOneFinding() {
    world.group("idle").given("a,group,idle,top,,,", "b,group,idle,top,,,");
    assertThat(FindingWords.sentence(only("assigned-to-empty-group")))
        .isEqualTo(
            "the group idle is empty and has 2 roles in 1 application; its next member gets them");
    assertThat(only("assigned-to-empty-group").changes()).hasSize(2);
  }

  @Test
  void peersAreNotComparedUnlessTheWorkspaceSaysBy() {
    peers("10");
    assertThat(world.assessment().rules().peers()).containsExactly("title");
    world = new SmallWorkspace(root).account("p", "title: x").group("one", "p");
    world.given("a,group,one,top,,,");
    assertThat(world.kinds()).isEmpty();
  }

  @Test
  void nestingIsDeepBeyondTheLimit() {
    world.group("g4", "crew").group("g3", "g4").group("g2", "g3").given("a,group,g2,top,,,");
    assertThat(world.kinds()).isEmpty();
    world.rules("findings: {nesting: 3}");
    assertThat(FindingWords.sentence(only("deep-nesting")))
        .contains("through 4 nested memberships");
  }

  @Test
  void anApplicationWithoutAnEmergencyAccountOrWithOneUntried() {
    world.given("reader,group,crew,top,,,").emergency("");
    assertThat(world.kinds()).containsExactly("no-emergency-account");
    world.emergency("emergency: [{account: key, tried: 2025-12-03}]\n");
    assertThat(world.kinds()).isEmpty();
    world.emergency("emergency: [{account: key, tried: 2025-12-02}]\n");
    assertThat(world.kinds()).containsExactly("emergency-account-untested");
    world.emergency("emergency: [{account: key, tried: 2026-06-01}]\n");
    assertThat(world.kinds()).isEmpty();
    world.emergency("emergency: [{account: key, tried: 2026-06-02}]\n");
    assertThat(FindingWords.sentence(only("emergency-account-untested")))
        .contains("which is still to come");
    world.emergency("emergency: [{account: key}]\n");
    assertThat(FindingWords.sentence(only("emergency-account-untested")))
        .endsWith("was never tried");
  }

  @Test
  void nobodyAnswersForAnApplicationOrAGroup() {
    world.group("owned", "ann", "owner: uid=bo,dc=x").given("reader,group,crew,top,,,");
    world.rules("findings: {owners: [applications, groups]}");
    assertThat(world.kinds()).containsExactly("no-owner", "no-owner");
    world.head("owner: ann");
    assertThat(only("no-owner").cause().text()).isEqualTo("group:main/cn=crew,dc=x");
  }

  @Test
  void anAdministratorWithoutASecondFactorWhereTheyAreKept() {
    world.group("heads", "ann", "bo").given("a,group,heads,top,,,");
    world.head("administrators: [a]\nregister: r.csv");
    world.file("r.csv", "kind,subject,second factor\naccount,ann,no\naccount,bo,no\n");
    assertThat(world.kinds()).doesNotContain("powerful-without-second-factor");
    world.file("r.csv", "kind,subject,second factor\naccount,ann,no\naccount,bo,yes\n");
    assertThat(only("powerful-without-second-factor").cause().id()).isEqualTo("uid=ann,dc=x");
  }

  @Test
  void aPowerfulAccountWhosePasswordNeverEndsOrThatComesFromAnywhere() {
    world =
        new SmallWorkspace(root).account("ann", "shadowMax: 99999").account("bo", "shadowMax: 90");
    world.group("heads", "ann", "bo").given("a,group,heads,top,,,").head("administrators: [a]");
    assertThat(world.kinds()).containsExactly("password-never-expires");
    world.rules("findings: {from-anywhere: [app]}");
    assertThat(only("powerful-from-anywhere").subjects()).hasSize(2);
  }

  @Test
  void whatIsCalledPowerfulIsPowerful() {
    world = new SmallWorkspace(root).account("ann", "userAccountControl: 66048");
    world.group("crew", "ann").given("a,group,crew,top,,,");
    assertThat(world.kinds()).isEmpty();
    world.rules("findings: {powerful: [app:a:edit]}");
    assertThat(world.kinds()).containsExactly("password-never-expires");
  }

  @Test
  void aPasswordInClearIsToldWhereTheSightSaysSo() {
    world.given("reader,group,crew,top,,,");
    world.head("sight: {directory: main, bind: bo, connection: plain}");
    assertThat(world.kinds()).containsExactly("password-in-clear");
  }

  @Test
  void kindsAreSwitchedOffAndWeighedByTheWorkspace() {
    world
        .given("reader,account,ann,top,,,")
        .rules("findings: {weights: {direct-assignment: high}}");
    assertThat(only("direct-assignment").weight().word()).isEqualTo("high");
    assertThat(FindingWords.of(only("direct-assignment")).why())
        .contains("the workspace says high");
  }
}
