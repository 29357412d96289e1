package org.sobercompass.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.system.Verdict;

/** Proposals on random organizations: what they change, what takes them back, what is told. */
class ProposalTest {
  private static final int SEEDS = 400;
  private static final Set<Bound.Kind> SAID_OF_DELETIONS =
      Set.of(Bound.Kind.FOR_GOOD, Bound.Kind.LEFTOVER);

  /** What every account may do everywhere, as text. */
  static Set<String> all(AccessModel model) {
    Set<String> all = new TreeSet<>();
    Asker asker = model.asker();
    for (SystemView view : model.systems()) {
      for (int account = 0; account < model.facts().accounts(); account++) {
        for (int right = 0; right < view.rights().size(); right++) {
          for (int node = 0; node < view.resources().size(); node++) {
            all.add(
                account
                    + " "
                    + right
                    + " "
                    + node
                    + " "
                    + asker.can(view, account, right, node).verdict()
                    + asker.can(view, account, right, node).held());
          }
        }
      }
    }
    return all;
  }

  /** Not at all, blocked, undecided, usable: of every account, right and node. */
  private static int rank(Can can) {
    return can.held() == Verdict.NO
        ? 0
        : can.verdict() == Verdict.NO ? 1 : can.verdict() == Verdict.UNDECIDED ? 2 : 3;
  }

  /** What accounts have more of in one model than in another: which right of which account. */
  static Set<String> differing(AccessModel less, AccessModel more) {
    Set<String> all = new TreeSet<>();
    SystemView view = less.systems().get(0);
    for (int account = 0; account < less.facts().accounts(); account++) {
      for (int right = 0; right < view.rights().size(); right++) {
        for (int node = 0; node < view.resources().size(); node++) {
          int then = rank(less.asker().can(view, account, right, node));
          int now = rank(more.asker().can(more.systems().get(0), account, right, node));
          if (now > then) {
            all.add(account + " " + right);
          }
        }
      }
    }
    return all;
  }

  static Set<String> told(List<Effects.Effect> effects) {
    Set<String> all = new TreeSet<>();
    effects.forEach(effect -> all.add(effect.account() + " " + effect.right()));
    return all;
  }

  @Test
  void effectsAreTheDifferenceOfTwoWholeEvaluations() {
    int changed = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      Bound bound = RandomSteps.withDeletions(model, new Random(seed)).on(model);
      AccessModel after = model.with(bound.changes());
      Effects effects = Effects.of(model, bound.changes());
      Set<String> gives = differing(model, after);
      Set<String> ends = differing(after, model);
      assertThat(told(effects.gives())).as("seed " + seed).isEqualTo(gives);
      assertThat(told(effects.ends())).as("seed " + seed).isEqualTo(ends);
      changed += gives.isEmpty() && ends.isEmpty() ? 0 : 1;
    }
    assertThat(changed).isGreaterThan(SEEDS / 5);
  }

  @Test
  void aProposalAndItsInverseChangeNothing() {
    int changed = 0;
    for (long seed = 0; seed < SEEDS; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      Proposal proposal = RandomSteps.withDeletions(model, new Random(seed));
      Bound bound = proposal.on(model);
      boolean entries = proposal.steps().stream().anyMatch(s -> s instanceof Step.Entry);
      if (!bound.notes().stream().allMatch(note -> SAID_OF_DELETIONS.contains(note.kind()))
          || entries) {
        // What was there already would be taken away; what names nobody cannot be put back.
        continue;
      }
      AccessModel after = model.with(bound.changes());
      Bound back = proposal.inverse().on(after);
      assertThat(back.notes()).as("seed " + seed).noneMatch(Bound.Note::isWrong);
      assertThat(all(after.with(back.changes()))).as("seed " + seed).isEqualTo(all(model));
      assertThat(proposal.then(proposal.inverse()).on(model).changes()).isEmpty();
      changed++;
    }
    assertThat(changed).isGreaterThan(SEEDS / 10);
  }

  @Test
  void whatIsUnknownDoneOrContradictoryIsTold() {
    AccessModel model = new SmallWorld(1).model();
    Facts facts = model.facts();
    Key account = facts.key(0);
    Key group = facts.key(facts.firstGroup());
    Key nobody = new Key(KeyKind.ACCOUNT, "dir", "nobody");
    SystemView view = model.systems().get(0);
    Step.Assignment what =
        new Step.Assignment(
            view.id(),
            "no-role",
            account,
            view.resources().id(0),
            true,
            Optional.empty(),
            Optional.empty());
    Bound bound =
        new Proposal(
                "",
                List.of(
                    new Step.Join(nobody, group),
                    new Step.Join(account, account),
                    new Step.Assign(what),
                    new Step.Assign(
                        new Step.Assignment(
                            "no-app", "r", account, "n", true, Optional.empty(), Optional.empty())),
                    new Step.Join(group, group),
                    new Step.Leave(group, group)))
            .on(model);
    assertThat(bound.notes())
        .extracting(Bound.Note::kind)
        .containsExactly(
            Bound.Kind.UNKNOWN,
            Bound.Kind.UNKNOWN,
            Bound.Kind.UNKNOWN,
            Bound.Kind.UNKNOWN,
            Bound.Kind.CIRCLE,
            Bound.Kind.CONTRADICTS);
    assertThat(bound.notes().get(2).what()).contains("\"no-role\"");
    assertThat(bound.changes()).isEmpty();
    assertThat(bound.isSound()).isFalse();
  }
}
