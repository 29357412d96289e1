package org.sobercompass.core.carry;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;

/**
 * Rights carried from one side to the other.
 *
 * @param rights each right and what it becomes
 * @param left what is not carried, or otherwise than it was given
 */
public record Carried(List<CarriedRight> rights, List<Left> left) {
  private static final Set<Left.Why> STOPPED =
      EnumSet.of(
          Left.Why.NOT_SEEN,
          Left.Why.NO_NAME,
          Left.Why.POWERFUL,
          Left.Why.BY_RULE,
          Left.Why.SIGNS_IN);

  /** Copies. */
  public Carried {
    rights = List.copyOf(rights);
    left = List.copyOf(left);
  }

  /** What is to be done: what begins before what ends, each once. */
  public Proposal proposal(String name) {
    Set<Step> steps = new LinkedHashSet<>();
    for (CarriedRight right : rights) {
      if (!right.there()) {
        steps.addAll(right.target());
      }
    }
    rights.forEach(right -> steps.addAll(right.ends()));
    return new Proposal(name, new ArrayList<>(steps));
  }

  /** Whether rights are left that somebody could still carry, by doing something first. */
  public boolean leavesAny() {
    return left.stream().anyMatch(one -> STOPPED.contains(one.why()));
  }

  /** How many rights are not there yet. */
  public int open() {
    return (int) rights.stream().filter(right -> !right.there()).count();
  }
}
