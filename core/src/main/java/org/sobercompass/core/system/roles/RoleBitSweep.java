package org.sobercompass.core.system.roles;

import org.sobercompass.core.system.GrantBits;
import org.sobercompass.core.system.GrantSink;

/**
 * Sweeps a sum of bits. As in {@link RoleSweep}, outcomes can change only at nodes with a place
 * that was touched; these are met in preorder, and a stack keeps for each open one what holds below
 * it. O(places touched x depth of the tree).
 */
final class RoleBitSweep implements GrantBits.Sweep {
  private static final int RANKS = 3;
  private static final int NOTHING = -1;

  private final RoleBits of;
  private final boolean byNode;
  private final int words;
  private final int stride;
  private final int frame;
  private final int[] nodeOf;
  private final int[] endOf;
  private final boolean[] descends;
  private final long[] yes;
  private final long[] none;
  private final long[] held;
  private final int[] top;
  private final int[] frameEnd;
  private long[] bits = new long[0];
  private int[] touched = new int[0];
  private int first;
  private int base;
  private GrantSink out = (resource, below, count, sure, perhaps) -> {};

  RoleBitSweep(RoleBits of) {
    this.of = of;
    this.byNode = of.decider.combining.byNode() || !of.reachesDown;
    this.words = of.words;
    this.stride = of.stride;
    this.frame = of.ranked ? RANKS * words : stride;
    this.nodeOf = of.node;
    this.endOf = of.end;
    this.descends = of.descends;
    yes = new long[words];
    none = new long[words];
    held = new long[(of.depth + 3) * frame];
    top = new int[of.depth + 3];
    frameEnd = new int[of.depth + 3];
    frameEnd[0] = Integer.MAX_VALUE;
    top[0] = byNode ? NOTHING : 0;
  }

  @Override
  public void run(
      long[] bits, int first, int[] touched, int from, int to, int base, GrantSink out) {
    this.bits = bits;
    this.first = first;
    this.touched = touched;
    this.base = base;
    this.out = out;
    int depth = 0;
    for (int at = from; at < to; ) {
      int node = nodeOf[place(at)];
      int end = endOf[place(at)];
      int next = at + 1;
      while (next < to && nodeOf[place(next)] == node) {
        next++;
      }
      while (node >= frameEnd[depth]) {
        depth--;
      }
      int left = end - node - 1;
      if (left > 0) {
        left -= covered(next, to, end);
      }
      if (byNode) {
        nearest(at, next, depth, left);
      } else {
        add(at, next, depth, left);
      }
      if (end > node + 1) {
        frameEnd[++depth] = end;
      }
      at = next;
    }
  }

  private int place(int at) {
    return touched[at] - base;
  }

  /** How many nodes before {@code end} lie at or below another node that was touched. */
  private int covered(int from, int to, int end) {
    int covered = 0;
    int at = from;
    while (at < to) {
      int place = place(at);
      if (nodeOf[place] >= end) {
        break;
      }
      covered += endOf[place] - nodeOf[place];
      at++;
      while (at < to && nodeOf[place(at)] < endOf[place]) {
        at++;
      }
    }
    return covered;
  }

  /**
   * Where the nearest node decides: its places of the highest rank, of those that reach so far. Of
   * one rank there are at most two, one that reaches down and one that does not.
   */
  private void nearest(int from, int to, int depth, int left) {
    int below = top[depth];
    for (int at = from; at < to; at++) {
      if (descends[place(at)]) {
        below = first + place(at) * stride;
      }
    }
    int last = place(to - 1);
    int self = first + last * stride;
    if (to - from > 1 && of.rank[place(to - 2)] == of.rank[last]) {
      for (int w = 0; w < words; w++) {
        held[w] = bits[self + w] | bits[first + place(to - 2) * stride + w];
      }
      emit(nodeOf[last], false, 1, held, 0);
    } else {
      emit(nodeOf[last], false, 1, bits, self);
    }
    if (left > 0 && below != NOTHING) {
      emit(nodeOf[last], true, left, bits, below);
    }
    top[depth + 1] = below;
  }

  /**
   * Where all add up, or all of one rank: what holds below a node is what holds above it and what
   * reaches down from it.
   */
  private void add(int from, int to, int depth, int left) {
    int node = nodeOf[place(from)];
    int below = depth + 1;
    inherit(depth, below);
    boolean alike = true;
    for (int at = from; at < to; at++) {
      if (descends[place(at)]) {
        addTo(below, place(at));
      } else {
        alike = false;
      }
    }
    int self = below;
    if (!alike) {
      self = depth + 2;
      inherit(below, self);
      for (int at = from; at < to; at++) {
        addTo(self, place(at));
      }
    }
    emit(node, false, 1, held, self * frame + top[self] * words);
    if (left > 0) {
      emit(node, true, left, held, below * frame + top[below] * words);
    }
  }

  private void inherit(int from, int to) {
    top[to] = top[from];
    for (int w = 0; w < frame; w++) {
      held[to * frame + w] = held[from * frame + w];
    }
  }

  private void addTo(int into, int place) {
    int rank = of.rank[place];
    top[into] = Math.max(top[into], rank);
    int from = first + place * stride;
    int at = into * frame + rank * words;
    for (int w = 0; w < stride; w++) {
      held[at + w] |= bits[from + w];
    }
  }

  private void emit(int node, boolean below, int count, long[] from, int at) {
    for (int w = 0; w < words; w++) {
      yes[w] = of.denies ? from[at + w] & ~from[at + words + w] : from[at + w];
    }
    out.cell(node, below, count, yes, none);
  }
}
