package org.sobercompass.core.system.directory;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.contract.Sample;
import org.sobercompass.core.contract.SystemContract;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;

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

  /** Whoever is given an action can do it unless denied, loses nothing, and all is taken back. */
  @Test
  void whatIsGivenCanBeDoneAndTakenBack() {
    int can = 0;
    int asked = 0;
    for (long seed = 0; seed < 150; seed++) {
      RandomDirectory world = new RandomDirectory(seed);
      AccessModel before = model(world);
      SystemView view = before.systems().get(0);
      Random random = new Random(seed);
      int account = random.nextInt(RandomDirectory.ACCOUNTS);
      int object = random.nextInt(world.tree.size());
      int right = random.nextInt(view.rights().size());
      List<Step> steps = new ArrayList<>();
      try {
        ListWish wish = new ListWish(account, object, List.of(right), random.nextBoolean());
        for (ListWish.Edit edit : view.system().giving(wish)) {
          String at = view.resources().id(edit.resource());
          steps.add(new Step.ListItem(view.id(), at, edit.text(), edit.added()));
        }
      } catch (IllegalArgumentException e) {
        assertThat(e).hasMessageMatching(".+");
        continue;
      }
      Proposal proposal = new Proposal("", steps);
      AccessModel after = before.with(proposal.on(before).changes());
      List<Verdict> was = decisions(before, account);
      List<Verdict> is = decisions(after, account);
      for (int i = 0; i < was.size(); i++) {
        assertThat(is.get(i)).as("seed " + seed).isGreaterThanOrEqualTo(was.get(i));
      }
      Verdict there =
          after.asker().decide(after.systems().get(0), account, Question.of(object, right));
      boolean fits =
          world.actions.get(right).fits(world.tree.names(), world.tree.objectClass(object));
      asked += fits && proposal.on(before).isSound() ? 1 : 0;
      can += fits && there == Verdict.YES ? 1 : 0;
      AccessModel back = after.with(proposal.inverse().on(after).changes());
      assertThat(decisions(back, account)).as("seed " + seed).isEqualTo(was);
    }
    assertThat(can).isGreaterThan(asked / 2).isGreaterThan(20);
  }

  private static List<Verdict> decisions(AccessModel model, int account) {
    List<Verdict> all = new ArrayList<>();
    SystemView view = model.systems().get(0);
    Asker asker = model.asker();
    for (int r = 0; r < view.resources().size(); r++) {
      for (int right = 0; right < view.rights().size(); right++) {
        all.add(asker.decide(view, account, Question.of(r, right)));
      }
    }
    return all;
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
