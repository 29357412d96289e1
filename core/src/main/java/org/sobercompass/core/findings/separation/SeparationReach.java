package org.sobercompass.core.findings.separation;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.separation.SeparationSweep.Hold;
import org.sobercompass.core.system.Grant;

/**
 * Who could give himself a side of a rule: by editing a group that has it, or by acting as somebody
 * who has it. Asked only where there are directories with lists, or admin roles.
 */
final class SeparationReach {
  private final FindingContext context;
  private final SeparationTests tests;
  private final Map<Integer, Reach> reaches = new HashMap<>();
  private final Map<Integer, BitSet> within = new HashMap<>();
  private final boolean asked;

  SeparationReach(FindingContext context, SeparationTests tests) {
    this.context = context;
    this.tests = tests;
    var powers = context.assessment.powers();
    this.asked =
        !tests.rules.isEmpty()
            && (!powers.trees().all().isEmpty()
                || !powers.roles().administration().grants().isEmpty());
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

  private static int key(int rule, int side) {
    return rule * 64 + side;
  }

  private BitSet within(int rule, int side) {
    return within.computeIfAbsent(
        key(rule, side),
        k -> {
          List<Integer> trustees = trustees(rule, side);
          if (trustees.isEmpty()) {
            return new BitSet();
          }
          Reach reach =
              new Reach(context.assessment.powers(), new NamedPower("side", "", false, trustees));
          reaches.put(k, reach);
          return reach.answer().within();
        });
  }

  /** To whom the roles that give a side are given. */
  private List<Integer> trustees(int rule, int side) {
    TreeSet<Integer> found = new TreeSet<>();
    long asOf = context.model.asOf().getEpochSecond();
    for (SystemView view : context.model.systems()) {
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
  Optional<String> chain(int rule, int side, int account) {
    Reach reach = reaches.get(key(rule, side));
    if (reach == null || !within(rule, side).get(account)) {
      return Optional.empty();
    }
    List<String> parts = new ArrayList<>();
    reach.chain(account).forEach(step -> parts.add(context.words(step)));
    return Optional.of(String.join(" → ", parts));
  }
}
