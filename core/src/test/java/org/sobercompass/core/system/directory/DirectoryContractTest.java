package org.sobercompass.core.system.directory;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.contract.Sample;
import org.sobercompass.core.contract.SystemContract;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.system.Change;

/** The contract on random directories. */
class DirectoryContractTest extends SystemContract {
  /** An account without a SID and a trustee of elsewhere are each taken both ways. */
  @Override
  protected boolean isExact() {
    return false;
  }

  /** Memberships by SID count in lists and in nothing else. */
  @Override
  protected boolean isPricedSimply() {
    return false;
  }

  private static AccessModel model(RandomDirectory world) {
    DirectoryTrees trees = new DirectoryTrees(world.facts, List.of(world.tree));
    return AccessModel.of(
        world.facts,
        DirectorySystem.of(trees, new ActionRights(world.actions)),
        Instant.EPOCH,
        Optional.empty());
  }

  @Override
  protected Sample sample(long seed) {
    RandomDirectory world = new RandomDirectory(seed);
    return Sample.of(model(world), new NaiveDirectory(world)::decide);
  }

  /** A membership by SID can be taken away in a preview, and what is above goes with it. */
  @Test
  void aMembershipBySidCanBeTakenAway() {
    int taken = 0;
    for (long seed = 0; seed < 60; seed++) {
      RandomDirectory world = new RandomDirectory(seed);
      AccessModel model = model(world);
      SystemView view = model.systems().get(0);
      for (int account = 0; account < RandomDirectory.ACCOUNTS; account++) {
        for (int group = RandomDirectory.ACCOUNTS; group < 9; group++) {
          boolean bySid = !isListed(model, account, group) && isListed(view, account, group);
          if (bySid) {
            taken++;
            AccessModel after =
                model.with(List.of(new Change.MembershipRemoved(account, group, Via.MEMBER)));
            assertThat(isListed(after.systems().get(0), account, group)).isFalse();
          }
        }
      }
    }
    assertThat(taken).isGreaterThan(3);
  }

  private static boolean isListed(AccessModel model, int account, int group) {
    for (int i = 0; i < model.graph().upCount(account); i++) {
      if (model.graph().upGroup(account, i) == group) {
        return true;
      }
    }
    return false;
  }

  private static boolean isListed(SystemView view, int account, int group) {
    var graph = view.memberships().graph();
    for (int i = 0; i < graph.upCount(account); i++) {
      if (graph.upGroup(account, i) == group && graph.upVia(account, i) == Via.MEMBER) {
        return true;
      }
    }
    return false;
  }

  @Test
  void anAccountWhoseSidWasWithheldCountsAsNothingForSure() {
    int unsure = 0;
    for (long seed = 0; seed < 60; seed++) {
      RandomDirectory world = new RandomDirectory(seed);
      AccessModel model = model(world);
      SystemView view = model.systems().get(0);
      Asker asker = model.asker();
      for (int account = 0; account < RandomDirectory.ACCOUNTS; account++) {
        boolean withoutSid = world.tree.sid(world.object(account)).isEmpty();
        unsure += withoutSid ? 1 : 0;
        assertThat(asker.subjects(view, account).sure().isEmpty()).isEqualTo(withoutSid);
      }
    }
    assertThat(unsure).isGreaterThan(10);
  }
}
