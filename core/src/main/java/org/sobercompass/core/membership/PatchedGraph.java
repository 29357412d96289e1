package org.sobercompass.core.membership;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Via;

/**
 * A graph with some memberships added or removed, laid over another one that stays as it is. Only
 * the rows that change are copied. Built first, then frozen by use: not thread-safe while changed.
 */
public final class PatchedGraph implements MembershipGraph {
  private record Edge(int other, Via via) {}

  private final MembershipGraph base;
  private final Facts facts;
  private final Map<Integer, List<Edge>> up = new HashMap<>();
  private final Map<Integer, List<Edge>> down = new HashMap<>();
  private final Set<Long> taken = new HashSet<>();
  private final Set<Via> added = EnumSet.noneOf(Via.class);

  /** An overlay without changes. */
  public PatchedGraph(MembershipGraph base) {
    this(base, base.facts());
  }

  /** The same over facts in which accounts are otherwise; their subjects have the same numbers. */
  public PatchedGraph(MembershipGraph base, Facts facts) {
    this.base = base;
    this.facts = facts;
  }

  /** Adds a membership; nothing happens when it is there. */
  public void add(int member, int group, Via via) {
    added.add(via);
    if (!up(member).contains(new Edge(group, via))) {
      up(member).add(new Edge(group, via));
      up(member).sort(java.util.Comparator.comparingInt(Edge::other).thenComparing(Edge::via));
      down(group).add(new Edge(member, via));
      down(group).sort(java.util.Comparator.comparingInt(Edge::other).thenComparing(Edge::via));
    }
  }

  /** Takes a membership away; false when it was not there. */
  public boolean remove(int member, int group, Via via) {
    taken.add((long) member << 32 | group);
    return up(member).remove(new Edge(group, via)) && down(group).remove(new Edge(member, via));
  }

  private List<Edge> up(int subject) {
    return up.computeIfAbsent(
        subject,
        s -> {
          List<Edge> row = new ArrayList<>();
          for (int i = 0; i < base.upCount(s); i++) {
            row.add(new Edge(base.upGroup(s, i), base.upVia(s, i)));
          }
          return row;
        });
  }

  private List<Edge> down(int group) {
    return down.computeIfAbsent(
        group,
        g -> {
          List<Edge> row = new ArrayList<>();
          for (int i = 0; i < base.downCount(g); i++) {
            row.add(new Edge(base.downMember(g, i), base.downVia(g, i)));
          }
          return row;
        });
  }

  @Override
  public boolean mayHave(Via via) {
    return added.contains(via) || base.mayHave(via);
  }

  @Override
  public boolean isTaken(int member, int group) {
    return taken.contains((long) member << 32 | group) || base.isTaken(member, group);
  }

  @Override
  public Facts facts() {
    return facts;
  }

  @Override
  public int upCount(int subject) {
    List<Edge> row = up.get(subject);
    return row == null ? base.upCount(subject) : row.size();
  }

  @Override
  public int upGroup(int subject, int index) {
    List<Edge> row = up.get(subject);
    return row == null ? base.upGroup(subject, index) : row.get(index).other();
  }

  @Override
  public Via upVia(int subject, int index) {
    List<Edge> row = up.get(subject);
    return row == null ? base.upVia(subject, index) : row.get(index).via();
  }

  @Override
  public int downCount(int group) {
    List<Edge> row = down.get(group);
    return row == null ? base.downCount(group) : row.size();
  }

  @Override
  public int downMember(int group, int index) {
    List<Edge> row = down.get(group);
    return row == null ? base.downMember(group, index) : row.get(index).other();
  }

  @Override
  public Via downVia(int group, int index) {
    List<Edge> row = down.get(group);
    return row == null ? base.downVia(group, index) : row.get(index).via();
  }
}
