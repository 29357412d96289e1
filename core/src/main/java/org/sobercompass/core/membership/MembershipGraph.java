package org.sobercompass.core.membership;

import java.util.Optional;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Via;

/** Typed membership edges both ways, as they stand in the facts or in a patched view of them. */
public interface MembershipGraph {
  /** The facts behind the graph. */
  Facts facts();

  /** How many groups list a subject. */
  int upCount(int subject);

  /** The group at {@code index} of those that list a subject, ascending. */
  int upGroup(int subject, int index);

  /** How that group lists the subject. */
  Via upVia(int subject, int index);

  /** How a group surely lists a subject itself; empty when it does not. */
  default Optional<Via> surely(int subject, int group) {
    for (int i = 0; i < upCount(subject); i++) {
      if (upGroup(subject, i) == group && upVia(subject, i).isSure()) {
        return Optional.of(upVia(subject, i));
      }
    }
    return Optional.empty();
  }

  /** How many members a group lists. */
  int downCount(int group);

  /** The member at {@code index}. */
  int downMember(int group, int index);

  /** How the group lists the member at {@code index}. */
  Via downVia(int group, int index);

  /** Whether a membership was taken away from the graph, as a change that is looked at. */
  default boolean isTaken(int member, int group) {
    return false;
  }

  /** Whether anybody may be in a group in this way: no only where surely nobody is. O(1). */
  default boolean mayHave(Via via) {
    return true;
  }

  /** The graph of the facts as read. */
  static MembershipGraph of(Facts facts) {
    return new BaseGraph(facts);
  }
}
