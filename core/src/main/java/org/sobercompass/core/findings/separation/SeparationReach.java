package org.sobercompass.core.findings.separation;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.admin.ReachChains;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.separation.SeparationSweep.Hold;
import org.sobercompass.core.system.Grant;

/**
 * Who could give himself a side of a rule: by editing a group that has it, or by acting as somebody
 * who has it. Asked only where there are directories with lists, or admin roles.
 */
final class SeparationReach {
  private static final int SIDES = 64;
  private static final BitSet NOBODY = new BitSet();

  private final FindingContext context;
  private final SeparationTests tests;
  private final Map<Integer, Within> within = new HashMap<>();
  private final boolean asked;

  SeparationReach(FindingContext context, SeparationTests tests) {
    this.context = context;
    this.tests = tests;
    this.asked = !tests.rules.isEmpty() && counts(context.assessment.powers());
  }

  /** Whether anything can be within reach: there are lists of directories, or admin roles. */
  static boolean counts(Powers powers) {
    return !powers.trees().all().isEmpty() || !powers.roles().administration().grants().isEmpty();
  }

  boolean isAsked() {
    return asked;
  }

  /** The sides of a rule that are within reach of any of a person's accounts. */
  long of(int rule, List<Hold> person) {
    long sides = 0;
    if (asked) {
      for (int side = 0; side < tests.rules.get(rule).sides().size(); side++) {
        BitSet accounts = within(rule, side);
        for (Hold hold : person) {
          sides |= accounts.get(hold.account()) ? 1L << side : 0;
        }
      }
    }
    return sides;
  }

  /** Who could give himself what some trustees are given, and by which chains. */
  private record Within(List<Integer> trustees, BitSet accounts, ReachChains chains) {}

  private static int key(int rule, int side) {
    return rule * SIDES + side;
  }

  private BitSet within(int rule, int side) {
    Within found = within.get(key(rule, side));
    return found == null ? NOBODY : found.accounts;
  }

  /** All who could give themselves a side of a rule that was worked out. */
  BitSet accounts() {
    BitSet all = new BitSet();
    within.values().forEach(side -> all.or(side.accounts));
    return all;
  }

  /**
   * Works out who could give himself which side of some rules, on all processors. Sides that are
   * given to the same are followed once: rules share permissions.
   */
  void prepare(BitSet rules) {
    if (!asked) {
      return;
    }
    Map<List<Integer>, List<Integer>> byTrustees = new LinkedHashMap<>();
    rules.stream()
        .forEach(
            rule -> {
              for (int side = 0; side < tests.rules.get(rule).sides().size(); side++) {
                List<Integer> trustees = trustees(rule, side);
                if (!trustees.isEmpty()) {
                  int key = key(rule, side);
                  byTrustees.computeIfAbsent(trustees, t -> new ArrayList<>()).add(key);
                }
              }
            });
    List<List<Integer>> distinct = List.copyOf(byTrustees.keySet());
    context.work(
        distinct.size(),
        1,
        own -> number -> within(own, distinct.get(number)),
        found -> {
          for (int key : byTrustees.getOrDefault(found.trustees, List.of())) {
            within.put(key, found);
          }
        });
  }

  private static Within within(FindingContext own, List<Integer> trustees) {
    Reach reach = new Reach(own.assessment.powers(), new NamedPower("side", "", false, trustees));
    BitSet accounts = reach.answer().within();
    return new Within(trustees, accounts, reach.chains(accounts));
  }

  /** To whom the roles that give a side are given. */
  private List<Integer> trustees(int rule, int side) {
    TreeSet<Integer> found = new TreeSet<>();
    long asOf = context.model.asOf().getEpochSecond();
    for (SystemView view : tests.systems(rule)) {
      if (view.admission().isOpen() || view.assigned().isEmpty()) {
        continue;
      }
      for (Grant grant : view.grants()) {
        boolean gives =
            grant.subject() >= 0
                && grant.activeAt(asOf)
                && context.facts.kind(grant.subject()) != SubjectKind.IMPLICIT
                && (tests.sides(view, grant.role(), rule) >>> side & 1) != 0;
        if (gives) {
          found.add(grant.subject());
        }
      }
    }
    return List.copyOf(found);
  }

  /** The chain by which an account could give itself a side. */
  Optional<List<Reach.Step>> chain(int rule, int side, int account) {
    Within found = within.get(key(rule, side));
    if (found == null || !found.accounts.get(account)) {
      return Optional.empty();
    }
    return Optional.of(found.chains.of(account));
  }
}
