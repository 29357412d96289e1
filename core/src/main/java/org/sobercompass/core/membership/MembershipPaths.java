package org.sobercompass.core.membership;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;

/**
 * The chains of memberships from an account to a subject: the shortest, and all that do not contain
 * one another, up to a limit. A chain contains no other exactly when no member of it is listed by a
 * group further on than the next (it has no chord), so chains with a chord are never begun. Only
 * groups from which the target can be reached are entered. The number of such chains can be
 * exponential; the search stops at the limit or after {@link #STEPS} steps and says so.
 * Thread-safe.
 */
public final class MembershipPaths {
  private static final int STEPS = 200_000;
  private static final int[] NO_GROUPS = new int[0];

  private final Memberships memberships;
  private final MembershipGraph graph;
  private final Facts facts;

  /** One chain: subjects from the account to the target, and how each is in the next. */
  public record Path(List<Integer> subjects, List<Via> vias) {
    /** How many memberships it has. */
    public int length() {
      return vias.size();
    }
  }

  /** The chains found, shortest first, and whether there may be more. */
  public record Paths(List<Path> list, boolean more) {}

  /** Chains as these memberships count them. */
  public MembershipPaths(Memberships memberships) {
    this.memberships = memberships;
    this.graph = memberships.graph();
    this.facts = graph.facts();
  }

  /** Chains from an account to a subject that is not an implicit group. */
  public Paths find(int account, int target, int limit) {
    if (account == target) {
      return new Paths(List.of(new Path(List.of(account), List.of())), false);
    }
    if (facts.kind(target) == SubjectKind.UNIT) {
      return units(account, target);
    }
    if (limit == 1) {
      List<Path> one =
          new ShortestPaths(memberships).find(account, target).map(List::of).orElse(List.of());
      return new Paths(one, !one.isEmpty());
    }
    return new Search(account, target, limit).run();
  }

  private Paths units(int account, int target) {
    for (int unit = facts.container(account); unit >= 0; unit = facts.container(unit)) {
      if (unit == target) {
        Path path = new Path(List.of(account, target), List.of(Via.CONTAINER));
        return new Paths(List.of(path), false);
      }
    }
    return new Paths(List.of(), false);
  }

  private final class Search {
    private final int account;
    private final int target;
    private final int limit;
    private final IntList subjects = new IntList();
    private final Map<Integer, Integer> local = new HashMap<>();
    private final List<Path> found = new ArrayList<>();
    private final IntList path = new IntList();
    private final IntList next = new IntList();
    private final BitSet onPath = new BitSet();
    private IntRows above = IntRows.empty(0);
    private IntRows below = IntRows.empty(0);
    private int[] distance = new int[0];
    private int steps;

    Search(int account, int target, int limit) {
      this.account = account;
      this.target = target;
      this.limit = limit;
    }

    Paths run() {
      collect();
      Integer end = local.get(target);
      if (end == null) {
        return new Paths(List.of(), false);
      }
      measure(end);
      if (distance[0] - 1 > memberships.profile().nesting()) {
        return new Paths(List.of(), false);
      }
      shortest(end);
      boolean finished = explore(end);
      found.sort(Comparator.comparingInt(Path::length).thenComparing(p -> p.subjects().toString()));
      return new Paths(List.copyOf(found), !finished);
    }

    /** Everything above the account, with its edges, under numbers of this search. */
    private void collect() {
      IntList from = new IntList();
      IntList to = new IntList();
      number(account);
      for (int at = 0; at < subjects.size(); at++) {
        int subject = subjects.get(at);
        int before = -1;
        for (int group : at == 0 ? memberships.openFor(account) : NO_GROUPS) {
          from.add(at);
          to.add(number(group));
        }
        for (int i = 0; i < graph.upCount(subject); i++) {
          int group = graph.upGroup(subject, i);
          if (group != before && memberships.countsPerhaps(subject, i, group)) {
            before = group;
            from.add(at);
            to.add(number(group));
          }
        }
      }
      above = IntRows.ofPairs(subjects.size(), from, to);
      below = IntRows.ofPairs(subjects.size(), to, from);
    }

    private int number(int subject) {
      Integer known = local.putIfAbsent(subject, subjects.size());
      if (known == null) {
        subjects.add(subject);
        return subjects.size() - 1;
      }
      return known;
    }

    /** Distances to the target, backwards. */
    private void measure(int end) {
      distance = new int[subjects.size()];
      Arrays.fill(distance, Integer.MAX_VALUE);
      IntList queue = IntList.of(end);
      distance[end] = 0;
      for (int at = 0; at < queue.size(); at++) {
        int group = queue.get(at);
        for (int i = below.start(group); i < below.end(group); i++) {
          int member = below.at(i);
          if (distance[member] == Integer.MAX_VALUE) {
            distance[member] = distance[group] + 1;
            queue.add(member);
          }
        }
      }
    }

    /** One shortest chain straight away, however long it is. */
    private void shortest(int end) {
      int at = 0;
      path.add(at);
      while (at != end) {
        int closer = above.start(at);
        while (distance[above.at(closer)] != distance[at] - 1) {
          closer++;
        }
        at = above.at(closer);
        path.add(at);
      }
      keep();
      path.clear();
    }

    /** Depth first over chordless chains; false when it stopped before all were tried. */
    private boolean explore(int end) {
      push(0);
      while (!path.isEmpty()) {
        int at = path.get(path.size() - 1);
        int edge = next.get(path.size() - 1);
        if (edge == above.end(at)) {
          onPath.clear(path.removeLast());
          next.removeLast();
          continue;
        }
        if (++steps > STEPS || found.size() >= limit) {
          return false;
        }
        next.set(path.size() - 1, edge + 1);
        int group = above.at(edge);
        if (isUseful(group) && group == end) {
          path.add(group);
          keep();
          path.removeLast();
        } else if (isUseful(group)) {
          push(group);
        }
      }
      return true;
    }

    private boolean isUseful(int group) {
      return distance[group] != Integer.MAX_VALUE
          && (long) path.size() + distance[group] - 1 <= memberships.profile().nesting()
          && !onPath.get(group)
          && !hasChord(group);
    }

    /** Whether something before the last of the path is itself a member of {@code group}. */
    private boolean hasChord(int group) {
      int last = path.get(path.size() - 1);
      for (int i = below.start(group); i < below.end(group); i++) {
        if (below.at(i) != last && onPath.get(below.at(i))) {
          return true;
        }
      }
      return false;
    }

    private void push(int at) {
      path.add(at);
      next.add(above.start(at));
      onPath.set(at);
    }

    private void keep() {
      List<Integer> chain = new ArrayList<>();
      List<Via> vias = new ArrayList<>();
      for (int i = 0; i < path.size(); i++) {
        chain.add(subjects.get(path.get(i)));
        if (i > 0) {
          vias.add(memberships.via(chain.get(i - 1), chain.get(i)));
        }
      }
      Path made = new Path(List.copyOf(chain), List.copyOf(vias));
      if (found.stream().noneMatch(p -> p.subjects().equals(made.subjects()))) {
        found.add(made);
      }
    }
  }
}
