package org.sobercompass.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.contract.SmallFacts;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.system.Change;

/**
 * Settings of applications written otherwise, and assignments switched, on random organizations.
 */
class SettingStepsTest {
  private static final int SEEDS = 300;

  private static Step.Setting setting(String was, String is) {
    return new Step.Setting("x", OneSetting.PATH, was, is);
  }

  private static Proposal one(Step step) {
    return new Proposal("", List.of(step));
  }

  @Test
  void anApplicationDefinedOtherwiseIsTheOneThatWasReadSo() {
    int changed = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      SmallWorld.Rewritten world = new SmallWorld(seed).rewritten();
      Bound bound = one(setting("was", "is")).on(world.before());
      assertThat(bound.notes()).as("seed " + seed).isEmpty();
      AccessModel after = world.before().with(bound.changes());
      assertThat(ProposalTest.all(after))
          .as("seed " + seed)
          .isEqualTo(ProposalTest.all(world.after()));
      Effects effects = Effects.of(world.before(), bound.changes());
      assertThat(ProposalTest.told(effects.gives()))
          .as("seed " + seed)
          .isEqualTo(ProposalTest.differing(world.before(), world.after()));
      assertThat(ProposalTest.told(effects.ends()))
          .as("seed " + seed)
          .isEqualTo(ProposalTest.differing(world.after(), world.before()));
      changed += effects.isNone() ? 0 : 1;
    }
    assertThat(changed).isGreaterThan(SEEDS / 3);
  }

  /** Other steps of the same proposal are laid over what the setting makes of the application. */
  @Test
  void otherStepsAreLaidOverIt() {
    int changed = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      SmallWorld.Rewritten world = new SmallWorld(seed).rewritten();
      List<Step> steps = new ArrayList<>(RandomSteps.of(world.before(), new Random(seed)).steps());
      AccessModel without = world.after().with(new Proposal("", steps).on(world.after()).changes());
      steps.add(setting("was", "is"));
      AccessModel together =
          world.before().with(new Proposal("", steps).on(world.before()).changes());
      assertThat(ProposalTest.all(together))
          .as("seed " + seed)
          .isEqualTo(ProposalTest.all(without));
      changed += ProposalTest.all(together).equals(ProposalTest.all(world.before())) ? 0 : 1;
    }
    assertThat(changed).isGreaterThan(SEEDS / 3);
  }

  @Test
  void oneAfterTheOtherIsBothAtOnce() {
    int changed = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      SmallWorld.Rewritten world = new SmallWorld(seed).rewritten();
      Proposal random = RandomSteps.of(world.before(), new Random(seed));
      List<Change> steps = random.on(world.before()).changes();
      List<Change> settings = one(setting("was", "is")).on(world.before()).changes();
      List<Change> both = new ArrayList<>(steps);
      both.addAll(settings);
      assertThat(ProposalTest.all(world.before().with(steps).with(settings)))
          .as("seed " + seed)
          .isEqualTo(ProposalTest.all(world.before().with(both)));
      changed +=
          ProposalTest.all(world.before().with(both)).equals(ProposalTest.all(world.before()))
              ? 0
              : 1;
    }
    assertThat(changed).isGreaterThan(SEEDS / 3);
  }

  @Test
  void whatTheFileDoesNotSayOrCannotSayIsTold() {
    AccessModel model = new SmallWorld(1).rewritten().before();
    assertThat(kinds(one(setting("was", "was")), model)).containsExactly(Bound.Kind.ALREADY);
    assertThat(kinds(one(setting("other", "is")), model)).containsExactly(Bound.Kind.UNKNOWN);
    assertThat(one(setting("other", "is")).on(model).notes().get(0).what())
        .isEqualTo("all says was now, and not other any more");
    assertThat(kinds(one(setting("was", "nonsense")), model)).containsExactly(Bound.Kind.UNKNOWN);
    assertThat(one(setting("was", "nonsense")).on(model).notes().get(0).what())
        .isEqualTo("it cannot be read then");
    Step elsewhere = new Step.Setting("x", List.of("nodes"), "", "is");
    assertThat(kinds(one(elsewhere), model)).containsExactly(Bound.Kind.UNKNOWN);
    Proposal twice = new Proposal("", List.of(setting("was", "is"), setting("is", "other")));
    assertThat(kinds(twice, model)).containsExactly(Bound.Kind.CONTRADICTS);
    AccessModel without = new SmallWorld(1).model();
    Step none = new Step.Setting("app", OneSetting.PATH, "was", "is");
    assertThat(one(none).on(without).notes().get(0).what())
        .isEqualTo("no proposal can change the settings of Application app");
  }

  private static List<Bound.Kind> kinds(Proposal proposal, AccessModel model) {
    return proposal.on(model).notes().stream().map(Bound.Note::kind).toList();
  }

  /** Switched off an assignment gives what a withdrawn one gives, and can be switched on again. */
  @Test
  void switchedOffIsAsIfWithdrawn() {
    int switched = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      Proposal random = RandomSteps.of(model, new Random(seed));
      for (Step step : random.steps()) {
        if (step instanceof Step.Withdraw withdraw && withdraw.what().on()) {
          Proposal off =
              new Proposal("", List.of(withdraw, new Step.Assign(withdraw.what().switched(false))));
          List<Change> changes = off.on(model).changes();
          AccessModel after = model.with(changes);
          assertThat(ProposalTest.all(after))
              .isEqualTo(ProposalTest.all(model.with(one(withdraw).on(model).changes())));
          assertThat(kinds(off, after)).contains(Bound.Kind.ALREADY);
          assertThat(ProposalTest.all(after.with(off.inverse().on(after).changes())))
              .isEqualTo(ProposalTest.all(model));
          switched++;
        }
      }
    }
    assertThat(switched).isGreaterThan(SEEDS / 10);
  }

  @Test
  void anAssignmentThatIsSwitchedOffGivesNothing() {
    AccessModel model = new SmallWorld(3).model();
    Step.Assignment off =
        new Step.Assignment(
            "app",
            model.systems().get(0).system().roles().get(0).id(),
            model.facts().key(0),
            model.systems().get(0).resources().id(0),
            true,
            Optional.empty(),
            Optional.of(Instant.ofEpochSecond(SmallWorld.NOW + 1)),
            false);
    List<Change> changes = one(new Step.Assign(off)).on(model).changes();
    assertThat(Effects.of(model, changes).isNone()).isTrue();
    assertThat(kinds(one(new Step.Assign(off)), model.with(changes)))
        .containsExactly(Bound.Kind.ALREADY);
  }

  /** From where accounts may sign in is not said where the attributes for it were not kept. */
  @Test
  void hostsThatWereNotReadAreNotCalledFree() {
    Facts facts = SmallFacts.of(new Random(1), 2, 1);
    AccessModel model = AccessModel.of(facts, List.of(), Instant.EPOCH, Optional.empty());
    Step.Hosts free = new Step.Hosts(facts.key(0), List.of(), List.of());
    assertThat(kinds(one(free), model)).containsExactly(Bound.Kind.UNKNOWN);
    AccessModel read = new SmallWorld(1).model();
    Step.Hosts same = new Step.Hosts(read.facts().key(0), List.of(), List.of());
    assertThat(kinds(one(same), read)).containsExactly(Bound.Kind.ALREADY);
  }

  @Test
  void anAccountHasOnePrimaryGroup() {
    int moved = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      Facts facts = model.facts();
      int group = facts.firstGroup() + (int) (seed % facts.groups());
      Step.Primary step = Step.Primary.of(model, 0, group);
      AccessModel after = model.with(one(step).on(model).changes());
      assertThat(Step.Primary.of(after, 0, group).was()).contains(facts.key(group));
      Step.Primary none = new Step.Primary(facts.key(0), step.is(), Optional.empty());
      AccessModel without = after.with(one(none).on(after).changes());
      assertThat(Step.Primary.of(without, 0, group).was()).isEmpty();
      moved += step.was().isPresent() && !step.was().equals(step.is()) ? 1 : 0;
    }
    assertThat(moved).isGreaterThan(SEEDS / 10);
  }
}
