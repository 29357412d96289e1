package org.sobercompass.core.carry;

import java.util.List;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.RowCheck;
import org.sobercompass.core.proposal.Step;

/**
 * One right, and what it becomes.
 *
 * @param from whose right it is: an account, group or unit of the one side; of a right that comes
 *     by a group without a counterpart the group
 * @param to whose it becomes
 * @param source what gives it to the one, as a step that would give it
 * @param target what gives it to the other
 * @param ends what takes it from the one, where that is asked for; else empty
 * @param there whether the other has all of that already
 */
public record CarriedRight(
    int from, int to, Step source, List<Step> target, List<Step> ends, boolean there) {
  /** Copies. */
  public CarriedRight {
    target = List.copyOf(target);
    ends = List.copyOf(ends);
  }

  /** An id that stays as long as the same right is carried to the same. */
  public String id(Facts facts) {
    return RowCheck.of(List.of(StepText.of(source), facts.key(to).text()));
  }

  /** What gives it to the other, as texts. */
  public List<String> texts() {
    return target.stream().map(StepText::of).toList();
  }
}
