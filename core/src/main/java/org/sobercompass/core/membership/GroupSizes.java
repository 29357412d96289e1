package org.sobercompass.core.membership;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.store.IntList;

/**
 * How many accounts count as each group, of all groups at once, where groups in groups count to any
 * depth and all groups are visible: groups that are in one another first become one, then each is
 * the union of those in it, from the innermost outwards. O(memberships + nestings x accounts / 64);
 * a set of accounts is kept only until all groups around it have it.
 */
public final class GroupSizes {
  private final Memberships memberships;
  private final MembershipGraph graph;
  private final Facts facts;
  private final List<IntList> groups = new ArrayList<>();
  private final GroupClosures closures;

  private GroupSizes(Memberships memberships) {
    this.memberships = memberships;
    this.graph = memberships.graph();
    this.facts = graph.facts();
    this.closures = GroupClosures.of(graph, memberships::counts);
    int first = facts.firstGroup();
    for (int group = first; group < first + facts.groups(); group++) {
      int component = closures.component(group);
      while (groups.size() <= component) {
        groups.add(new IntList());
      }
      groups.get(component).add(group);
    }
  }

  /**
   * The sizes, by the number of the group without that of the first.
   *
   * @throws IllegalArgumentException when nesting is limited, or a group that is there is not
   *     visible
   */
  public static int[] of(Memberships memberships) {
    Facts facts = memberships.graph().facts();
    int first = facts.firstGroup();
    if (memberships.profile().nesting() != MembershipProfile.FULL
        || !memberships.visibility().seesAllOf(facts, first, first + facts.groups())) {
      throw new IllegalArgumentException(
          "sizes of all groups at once need full nesting and no group hidden;"
              + " ask a walker for one group");
    }
    return new GroupSizes(memberships).sizes();
  }

  private int[] sizes() {
    int[] sizes = new int[facts.groups()];
    int[] waiting = waiting();
    BitSet[] sets = new BitSet[groups.size()];
    // Components come out outer ones first, so the inner ones are made before those around them.
    for (int component = groups.size() - 1; component >= 0; component--) {
      BitSet all = new BitSet();
      IntList own = groups.get(component);
      for (int i = 0; i < own.size(); i++) {
        add(own.get(i), component, all, sets, waiting);
      }
      int size = all.cardinality();
      for (int i = 0; i < own.size(); i++) {
        sizes[own.get(i) - facts.firstGroup()] = size;
      }
      sets[component] = waiting[component] == 0 ? null : all;
    }
    return sizes;
  }

  private void add(int group, int component, BitSet all, @Nullable BitSet[] sets, int[] waiting) {
    for (int i = 0; i < graph.downCount(group); i++) {
      int member = graph.downMember(group, i);
      if (!memberships.countsDown(group, i)) {
        continue;
      }
      if (member < facts.accounts()) {
        all.set(member, all.get(member) || memberships.visibility().sees(member));
      } else if (isGroup(member) && closures.component(member) != component) {
        int inner = closures.component(member);
        BitSet set = sets[inner];
        if (set != null) {
          all.or(set);
        }
        if (--waiting[inner] == 0) {
          sets[inner] = null;
        }
      }
    }
  }

  /** How often each component is still listed by a group around it. */
  private int[] waiting() {
    int[] waiting = new int[groups.size()];
    for (int component = 0; component < groups.size(); component++) {
      IntList own = groups.get(component);
      for (int g = 0; g < own.size(); g++) {
        int group = own.get(g);
        for (int i = 0; i < graph.downCount(group); i++) {
          int member = graph.downMember(group, i);
          if (isGroup(member)
              && memberships.countsDown(group, i)
              && closures.component(member) != component) {
            waiting[closures.component(member)]++;
          }
        }
      }
    }
    return waiting;
  }

  private boolean isGroup(int member) {
    return member >= facts.firstGroup() && member < facts.firstGroup() + facts.groups();
  }
}
