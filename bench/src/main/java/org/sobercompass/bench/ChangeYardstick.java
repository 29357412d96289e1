package org.sobercompass.bench;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.RoleSteps;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.organization.Organization;

/** Times previews of changes and removals that end a holding: {@code ChangeYardstick DIR}. */
public final class ChangeYardstick {
  private static final int ROUNDS = 9;

  private final Organization organization;
  private final AccessModel model;
  private final Facts facts;
  private final Random random = new Random(7);

  private ChangeYardstick(Organization organization) {
    this.organization = organization;
    this.model = organization.model();
    this.facts = model.facts();
  }

  /** Runs all of it on a workspace that {@link Generator} wrote. */
  public static void main(String[] args) {
    new ChangeYardstick(Organization.open(Path.of(args[0]))).run();
  }

  private void run() {
    tell(
        "1 assignment to an account",
        () -> effects(List.of(assign(random.nextInt(facts.accounts())))));
    tell("1 assignment to a group", () -> effects(List.of(assign(group()))));
    tell("1 account into a group", () -> effects(List.of(join(random.nextInt(facts.accounts())))));
    tell("1 group into a group", () -> effects(List.of(join(group()))));
    tell("1 account disabled", () -> effects(List.of(disable())));
    tell("1 role written otherwise", () -> effects(List.of(redefine())));
    tell("1,000 assignments to accounts", () -> effects(many()));
    tell("unpick of one holding", this::unpick);
    tell(
        "and findings: 1 assignment",
        () -> preview(List.of(assign(random.nextInt(facts.accounts())))));
    tell("and findings: 1 to a group", () -> preview(List.of(assign(group()))));
    tell(
        "and findings: 1 into a group",
        () -> preview(List.of(join(random.nextInt(facts.accounts())))));
    tell("and findings: a group into one", () -> preview(List.of(join(group()))));
    tell("and findings: 1 disabled", () -> preview(List.of(disable())));
    tell("beside it: all findings, twice", this::twice);
  }

  /** What a preview would cost if it looked for everything before and after. */
  private String twice() {
    int before = Findings.of(organization.assessment()).size();
    return before + " findings, then " + Findings.of(organization.assessment()).size();
  }

  private String preview(List<Step> steps) {
    Bound bound = new Proposal("", steps).on(model);
    Preview preview = organization.preview(bound.changes());
    return preview.begin().size() + " findings begin, " + preview.end().size() + " end";
  }

  private int group() {
    return facts.firstGroup() + random.nextInt(facts.groups());
  }

  private Step assign(int subject) {
    SystemView view = model.systems().get(random.nextInt(model.systems().size()));
    return new Step.Assign(
        new Step.Assignment(
            view.id(),
            view.system().roles().get(random.nextInt(view.system().roles().size())).id(),
            facts.key(subject),
            view.resources().id(random.nextInt(view.resources().size())),
            true,
            Optional.empty(),
            Optional.empty()));
  }

  private Step join(int member) {
    return new Step.Join(facts.key(member), facts.key(group()));
  }

  private Step disable() {
    return new Step.Disable(facts.key(random.nextInt(facts.accounts())), true);
  }

  /** One role includes another one besides, of those where that closes no circle. */
  private Step redefine() {
    while (true) {
      SystemView view = model.systems().get(random.nextInt(model.systems().size()));
      int roles = view.system().roles().size();
      String other = view.system().roles().get(random.nextInt(roles)).id();
      Optional<Step> step =
          RoleSteps.of(view, random.nextInt(roles))
              .map(role -> role.including(List.of(other), List.of()));
      if (step.isPresent() && new Proposal("", List.of(step.get())).on(model).isSound()) {
        return step.get();
      }
    }
  }

  private List<Step> many() {
    List<Step> steps = new ArrayList<>();
    for (int i = 0; i < 1_000; i++) {
      steps.add(assign(random.nextInt(facts.accounts())));
    }
    return steps;
  }

  private String effects(List<Step> steps) {
    Bound bound = new Proposal("", steps).on(model);
    Effects effects = Effects.of(model, bound.changes());
    return effects.gives().size() + " gained, " + effects.ends().size() + " lost";
  }

  private String unpick() {
    var asker = model.asker();
    while (true) {
      int account = random.nextInt(facts.accounts());
      SystemView view = model.systems().get(random.nextInt(model.systems().size()));
      var held = asker.holdings(view, account);
      if (!held.isEmpty()) {
        var one = held.get(random.nextInt(held.size()));
        var asked =
            organization
                .names()
                .at(
                    organization
                        .names()
                        .permission(view.id() + ":" + view.rights().text(one.right())),
                    view.resources().id(one.resource()));
        if (organization.can(organization.account(account), asked).held() != Verdict.NO) {
          List<Removal> ways =
              organization.unpick(organization.account(account), List.of(asked), 3);
          return ways.size() + " ways, " + ways.get(0).result().words();
        }
      }
    }
  }

  private interface Timed {
    String run();
  }

  private static void tell(String what, Timed timed) {
    List<Double> all = new ArrayList<>();
    String last = "";
    for (int i = 0; i < ROUNDS; i++) {
      long begin = System.nanoTime();
      last = timed.run();
      all.add((System.nanoTime() - begin) / 1e6);
    }
    double first = all.get(0);
    all.sort(null);
    System.out.printf(
        "%-32s first %8.1f ms  median %8.1f ms  worst %8.1f ms   (%s)%n",
        what, first, all.get(ROUNDS / 2), all.get(ROUNDS - 1), last);
  }
}
