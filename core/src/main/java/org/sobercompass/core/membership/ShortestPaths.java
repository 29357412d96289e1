package org.sobercompass.core.membership;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.membership.MembershipPaths.Path;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.Stamps;

/**
 * One shortest chain from an account or group to a group: upwards, level by level, until it is met.
 * Keeps its marks from question to question. O(groups above, until met); 4 bytes a subject. Not
 * thread-safe.
 */
public final class ShortestPaths {
  private final Memberships memberships;
  private final MembershipGraph graph;
  private final Stamps met;
  private final IntList reached = new IntList();
  private final IntList reachedFrom = new IntList();

  /** Chains as these memberships count them. */
  public ShortestPaths(Memberships memberships) {
    this.memberships = memberships;
    this.graph = memberships.graph();
    this.met = new Stamps(graph.facts().subjects());
  }

  /** The chain, or nothing where there is none within the nesting that counts. */
  public Optional<Path> find(int from, int target) {
    met.clear();
    reached.clear();
    reachedFrom.clear();
    met.add(from);
    reached.add(from);
    reachedFrom.add(-1);
    int start = 0;
    for (int level = 0; level <= memberships.profile().nesting(); level++) {
      int end = reached.size();
      for (int at = start; at < end; at++) {
        if (spread(at, target)) {
          return Optional.of(path());
        }
      }
      start = end;
      if (start == reached.size()) {
        break;
      }
    }
    return Optional.empty();
  }

  /** Adds the groups of one that was reached; true when the target is the last one added. */
  private boolean spread(int at, int target) {
    int member = reached.get(at);
    if (at == 0) {
      for (int group : memberships.openFor(member)) {
        if (add(group, at, target)) {
          return true;
        }
      }
    }
    for (int i = 0; i < graph.upCount(member); i++) {
      int group = graph.upGroup(member, i);
      if (memberships.countsPerhaps(member, i, group) && add(group, at, target)) {
        return true;
      }
    }
    return false;
  }

  private boolean add(int group, int from, int target) {
    if (!met.add(group)) {
      return false;
    }
    reached.add(group);
    reachedFrom.add(from);
    return group == target;
  }

  private Path path() {
    List<Integer> chain = new ArrayList<>();
    for (int at = reached.size() - 1; at >= 0; at = reachedFrom.get(at)) {
      chain.add(reached.get(at));
    }
    Collections.reverse(chain);
    List<Via> vias = new ArrayList<>();
    for (int i = 1; i < chain.size(); i++) {
      vias.add(memberships.via(chain.get(i - 1), chain.get(i)));
    }
    return new Path(List.copyOf(chain), List.copyOf(vias));
  }
}
