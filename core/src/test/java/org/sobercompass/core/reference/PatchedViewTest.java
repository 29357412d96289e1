package org.sobercompass.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Question;

/** A view with changes laid over a model decides as if they had been made, and leaves the model. */
class PatchedViewTest {
  static LongStream seeds() {
    return LongStream.range(5000, 5150);
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void aWithdrawnAssignmentIsAsIfItHadNeverBeen(long seed) {
    SmallWorld world = new SmallWorld(seed);
    Naive naive = new Naive(world);
    AccessModel model = world.model();
    List<Grant> grants = world.application.grants(Basis.ACTUAL);
    for (int g = 0; g < grants.size(); g++) {
      Change change = new Change.AssignmentRemoved(0, g);
      Asker after = model.with(List.of(change)).asker();
      SystemView view = after.model().systems().get(0);
      for (int a = 0; a < world.facts.accounts(); a++) {
        for (int node = 0; node < view.resources().size(); node++) {
          for (int right = 0; right < world.rights.size(); right++) {
            var expected =
                naive.decide(a, world.rights.text(right), node, SmallWorld.NOW, grants.get(g));
            assertThat(after.decide(view, a, Question.of(node, right)))
                .as("seed " + seed)
                .isEqualTo(expected);
          }
        }
      }
    }
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void membershipsAddedAndRemovedAreAsIfTheyHadBeenRead(long seed) {
    SmallWorld world = new SmallWorld(seed);
    AccessModel model = world.model();
    int account = (int) (seed % world.facts.accounts());
    int first = world.facts.firstGroup();
    int group = first + (int) (seed % world.facts.groups());
    Change add = new Change.MembershipAdded(account, group, Via.MEMBER);
    check(world, model.with(List.of(add)), seed);
    check(
        world,
        model.with(List.of(add, new Change.MembershipRemoved(account, group, Via.MEMBER))),
        seed);
    int other = first + (int) (seed / 7 % world.facts.groups());
    check(world, model.with(List.of(new Change.MembershipAdded(group, other, Via.MEMBER))), seed);
    Naive before = new Naive(world);
    Asker asker = model.asker();
    assertThat(set(asker, asker.model().systems().get(0), account))
        .as("the model stays")
        .isEqualTo(before.sure(account));
  }

  private static void check(SmallWorld world, AccessModel patched, long seed) {
    Naive naive = new Naive(world, patched.graph());
    Asker asker = patched.asker();
    SystemView view = patched.systems().get(0);
    for (int a = 0; a < world.facts.accounts(); a++) {
      assertThat(set(asker, view, a)).as("seed " + seed).isEqualTo(naive.sure(a));
      for (int right = 0; right < world.rights.size(); right += 3) {
        assertThat(asker.decide(view, a, Question.of(0, right)))
            .as("seed " + seed)
            .isEqualTo(naive.decide(a, world.rights.text(right), 0));
      }
    }
  }

  private static Set<Integer> set(Asker asker, SystemView view, int account) {
    Set<Integer> all = new java.util.HashSet<>();
    var sure = asker.subjects(view, account).sure();
    for (int i = 0; i < sure.size(); i++) {
      all.add(sure.get(i));
    }
    return all;
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void anAssignmentAddedGivesWhatItsRoleGivesWhereItReaches(long seed) {
    SmallWorld world = new SmallWorld(seed);
    AccessModel model = world.model();
    SystemView before = model.systems().get(0);
    int account = (int) (seed % world.facts.accounts());
    Change add =
        new Change.AssignmentAdded(0, 0, account, 0, true, Optional.empty(), Optional.empty());
    Asker asker = model.with(List.of(add)).asker();
    SystemView view = asker.model().systems().get(0);
    assertThat(view.grants()).hasSize(before.grants().size() + 1);
    boolean seen = new Naive(world).sure(account).contains(account);
    for (int right = 0;
        right < world.rights.size() && seen && before.decider().isMonotone();
        right++) {
      if (view.system().roles().get(0).allows(right)) {
        assertThat(asker.decide(view, account, Question.of(view.resources().size() - 1, right)))
            .isEqualTo(org.sobercompass.core.system.Verdict.YES);
      }
    }
  }
}
