package org.sobercompass.core.membership;

import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.store.IntRows;

/** The graph of the facts as read. */
final class BaseGraph implements MembershipGraph {
  private final Facts facts;
  private final IntRows up;
  private final IntRows down;
  private final byte[] via;

  BaseGraph(Facts facts) {
    this.facts = facts;
    this.up = facts.arrays().up();
    this.down = facts.arrays().down();
    this.via = facts.arrays().upVia();
  }

  @Override
  public Facts facts() {
    return facts;
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

  @Override
  public int downCount(int group) {
    return down.size(group);
  }

  @Override
  public int downMember(int group, int index) {
    return down.at(down.start(group) + index);
  }

  /** Members may be listed in several ways; the n-th entry of a member is its n-th way. */
  @Override
  public Via downVia(int group, int index) {
    int at = down.start(group) + index;
    int member = down.at(at);
    int nth = 0;
    while (at - nth - 1 >= down.start(group) && down.at(at - nth - 1) == member) {
      nth++;
    }
    int low = up.start(member);
    int high = up.end(member) - 1;
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (up.at(middle) < group) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return Via.of(via[low + nth]);
  }
}
