package org.sobercompass.core.findings.grants;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.SmallOffice;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.GroupDetails;

/** What is found of groups that carry rights, as data. */
class GroupFindersTest {
  private final SmallOffice office = new SmallOffice().accounts("ann", "bo");

  @Test
  void groupsThatContainEachOtherAreToldWhereTheyCarryRights() {
    office.group("one", "two", "ann").group("two", "three").group("three", "one");
    office.group("idle", "idler").group("idler", "idle").given("x", "owner", "two", "top");
    List<Finding> found = office.find(FindingKind.CIRCULAR_NESTING);
    assertThat(found).hasSize(1);
    List<Integer> groups = ((GroupDetails.Circle) found.get(0).details()).groups();
    assertThat(groups)
        .containsExactlyInAnyOrder(
            office.subject("one"), office.subject("two"), office.subject("three"));
    assertThat(found.get(0).aim()).isEqualTo(new Remedy.Uncircled(groups));
    assertThat(found.get(0).evidence()).containsExactly(new Evidence.Circle(groups));
  }

  @Test
  void membersThatDoNotExistAreToldOfGroupsBelowOneThatIsGivenSomething() {
    office.group("given", "below").group("below", "gone", "away", "ann").group("idle", "gone");
    office.given("x", "owner", "given", "top");
    List<Finding> found = office.find(FindingKind.DANGLING_MEMBER);
    assertThat(found).hasSize(1);
    assertThat(found.get(0).details())
        .isEqualTo(new GroupDetails.MissingMembers(office.subject("below"), 2));
    assertThat(found.get(0).evidence())
        .containsExactly(
            new Evidence.MissingMember("member", "away"),
            new Evidence.MissingMember("member", "gone"));
  }

  @Test
  void whatIsGivenNoMoreCarriesNothing() {
    office.group("crew", "gone");
    office.given("x", "owner", "crew", "top", Long.MIN_VALUE, SmallOffice.NOW);
    assertThat(office.find(FindingKind.DANGLING_MEMBER)).isEmpty();
  }

  @Test
  void nestingIsDeepFromTheLimitOnByTheShortestChain() {
    office.group("g1", "g2").group("g2", "g3").group("g3", "g4").group("g4", "g5", "bo");
    office.group("g5", "ann").given("x", "owner", "g1", "top").given("y", "clerk", "g1", "top");
    List<Finding> found = office.find(FindingKind.DEEP_NESTING);
    assertThat(found).hasSize(1);
    assertThat(found.get(0).details())
        .isEqualTo(new GroupDetails.DeepNesting(office.subject("g1"), List.of(0, 1), 1, 5, 4));
    assertThat(found.get(0).subjects()).containsExactly(office.facts().key(office.subject("ann")));
    Evidence.Chain chain = (Evidence.Chain) found.get(0).evidence().get(0);
    assertThat(chain.subjects()).hasSize(6).startsWith(office.subject("ann"));
  }

  @Test
  void aShorterChainIsTheOneThatCounts() {
    office.group("g1", "g2", "ann").group("g2", "g3").group("g3", "g4").group("g4", "g5");
    office.group("g5", "ann").given("x", "owner", "g1", "top");
    assertThat(office.find(FindingKind.DEEP_NESTING)).isEmpty();
  }
}
