package org.sobercompass.bench;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.comparison.Comparison;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.organization.Organization;

/** Times what changed between two readings: {@code CompareYardstick DIR}. */
public final class CompareYardstick {
  private static final int[] SIZES = {1, 100, 1_000};

  private CompareYardstick() {}

  /** Runs it on a workspace that {@link Generator} wrote, with ever more changes. */
  public static void main(String[] args) {
    Assessment before = Organization.open(Path.of(args[0])).assessment();
    for (int size : SIZES) {
      Assessment now = before.with(random(before, size).on(before.model()).changes());
      long begun = System.nanoTime();
      Comparison comparison = Comparison.of(before, now);
      long millis = (System.nanoTime() - begun) / 1_000_000;
      Runtime runtime = Runtime.getRuntime();
      long used = (runtime.totalMemory() - runtime.freeMemory()) >> 20;
      System.out.printf(
          "%,d changes: %,d ms, %,d permissions by %,d causes, %,d findings begun, %,d MiB used%n",
          size,
          millis,
          comparison.causes().stream().mapToInt(cause -> cause.shifts().size()).sum(),
          comparison.causes().size(),
          comparison.begun().size(),
          used);
    }
  }

  /** Accounts and groups into groups, roles given, accounts disabled. */
  private static Proposal random(Assessment assessment, int size) {
    Random random = new Random(size);
    Facts facts = assessment.model().facts();
    List<Step> steps = new ArrayList<>();
    while (steps.size() < size) {
      int account = random.nextInt(facts.accounts());
      int group = facts.firstGroup() + random.nextInt(facts.groups());
      SystemView view =
          assessment.model().systems().get(random.nextInt(assessment.model().systems().size()));
      steps.add(
          switch (random.nextInt(8)) {
            case 0 -> new Step.Disable(facts.key(account), true);
            case 1, 2 ->
                new Step.Assign(
                    new Step.Assignment(
                        view.id(),
                        view.system().roles().get(0).id(),
                        facts.key(account),
                        view.resources().id(random.nextInt(view.resources().size())),
                        true,
                        Optional.empty(),
                        Optional.empty()));
            default -> new Step.Join(facts.key(account), facts.key(group));
          });
    }
    return new Proposal("", steps);
  }
}
