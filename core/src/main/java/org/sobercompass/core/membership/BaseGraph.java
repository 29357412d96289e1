package org.sobercompass.core.membership;

import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.MembershipRows;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.store.IntRows;

/** The graph of the facts as read. */
final class BaseGraph implements MembershipGraph {
  private final Facts facts;
  private final IntRows up;
  private final byte[] via;

  /** Asked for by the first question from a group downwards. */
  private MembershipRows.@Nullable Down down;

  BaseGraph(Facts facts) {
    this.facts = facts;
    this.up = facts.arrays().up();
    this.via = facts.arrays().upVia();
  }

  @Override
  public Facts facts() {
    return facts;
  }

  @Override
  public boolean mayHave(Via via) {
    return facts.arrays().memberships().isAny(via);
  }

  @Override
  public int upCount(int subject) {
    return up.size(subject);
  }

  @Override
  public int upGroup(int subject, int index) {
    return up.at(up.start(subject) + index);
  }

  @Override
  public Via upVia(int subject, int index) {
    return Via.of(via[up.start(subject) + index]);
  }

  private MembershipRows.Down down() {
    MembershipRows.Down known = down;
    if (known == null) {
      known = facts.arrays().memberships().down();
      down = known;
    }
    return known;
  }

  @Override
  public int downCount(int group) {
    return down().rows().size(group);
  }

  @Override
  public int downMember(int group, int index) {
    IntRows rows = down().rows();
    return rows.at(rows.start(group) + index);
  }

  @Override
  public Via downVia(int group, int index) {
    return Via.of(down().via()[down().rows().start(group) + index]);
  }
}
