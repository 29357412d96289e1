package org.sobercompass.core.reference;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.HostLimits;

/** Steps at random over a {@link SmallWorld}. */
public final class RandomSteps {
  private RandomSteps() {}

  /** One to four steps on a model, in which nobody is deleted. */
  public static Proposal of(AccessModel model, Random random) {
    return of(model, random, 9);
  }

  /** One to four steps of all kinds. */
  static Proposal withDeletions(AccessModel model, Random random) {
    return of(model, random, 10);
  }

  private static Proposal of(AccessModel model, Random random, int kinds) {
    Facts facts = model.facts();
    SystemView view = model.systems().get(0);
    List<Step> steps = new ArrayList<>();
    for (int i = 1 + random.nextInt(4); i > 0; i--) {
      int account = random.nextInt(facts.accounts());
      Key member = facts.key(random.nextInt(facts.accounts() + facts.groups()));
      Key group = facts.key(facts.firstGroup() + random.nextInt(facts.groups()));
      Proposal taken =
          view.grants().size() == 0
              ? new Proposal("", List.of(new Step.Join(member, group)))
              : Proposal.of(
                  "",
                  model,
                  List.of(new Change.AssignmentRemoved(0, random.nextInt(view.grants().size()))));
      Step.Assignment what =
          new Step.Assignment(
              view.id(),
              view.system().roles().get(random.nextInt(view.system().roles().size())).id(),
              facts.key(random.nextInt(facts.subjects())),
              view.resources().id(random.nextInt(view.resources().size())),
              random.nextBoolean(),
              random.nextInt(4) == 0
                  ? Optional.of(Instant.ofEpochSecond(SmallWorld.NOW + random.nextInt(9) - 4))
                  : Optional.empty(),
              Optional.empty());
      steps.add(
          switch (random.nextInt(kinds)) {
            case 4 -> new Step.Disable(facts.key(account), random.nextBoolean());
            case 5 ->
                Step.Ends.of(
                    facts,
                    account,
                    random.nextInt(3) == 0 ? Facts.NEVER : SmallWorld.NOW + random.nextInt(9) - 4);
            case 6 ->
                new Step.Register(
                    view.id(), member, "directory", random.nextBoolean(), false, "", true);
            case 7 ->
                new Step.Hosts(
                    facts.key(account),
                    HostLimits.of(facts, account),
                    random.nextInt(3) == 0 ? List.of() : List.of("h" + random.nextInt(2)));
            case 8 ->
                Step.Primary.of(
                    model, account, facts.firstGroup() + random.nextInt(facts.groups()));
            case 9 -> new Step.Presence(member, member.id(), Map.of(), false);
            case 0 -> new Step.Join(member, group);
            case 1 -> new Step.Leave(member, group);
            case 2 -> new Step.Assign(what);
            default -> taken.steps().get(0);
          });
    }
    return new Proposal("random", steps);
  }
}
