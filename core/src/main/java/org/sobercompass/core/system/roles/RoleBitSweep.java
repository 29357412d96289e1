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
    int depth = 0;
    for (int at = from; at < to; ) {
      int place = touched[at] - base;
      int node = nodeOf[place];
      int end = endOf[place];
      int next = at + 1;
      while (next < to && nodeOf[touched[next] - base] == node) {
        next++;
      }
      while (node >= frameEnd[depth]) {
        depth--;
      }
      int left = end - node - 1;
      if (left > 0) {
        left -= covered(touched, next, to, base, end);
      }
      if (byNode) {
        nearest(bits, first, touched, at, next, base, depth, left, out);
      } else {
        add(bits, first, touched, at, next, base, depth, left, out);
      }
      if (end > node + 1) {
        frameEnd[++depth] = end;
      }
      at = next;
    }
  }

  /** How many nodes before {@code end} lie at or below another node that was touched. */
  private int covered(int[] touched, int from, int to, int base, int end) {
    int covered = 0;
    int at = from;
    while (at < to) {
      int place = touched[at] - base;
      if (nodeOf[place] >= end) {
        break;
      }
      covered += endOf[place] - nodeOf[place];
      at++;
      while (at < to && nodeOf[touched[at] - base] < endOf[place]) {
        at++;
      }
    }
    return covered;
  }

  /**
   * Where the nearest node decides: its places of the highest rank, of those that reach so far. Of
   * one rank there are at most two, one that reaches down and one that does not.
   */
  private void nearest(
      long[] bits,
      int first,
      int[] touched,
      int from,
      int to,
      int base,
      int depth,
      int left,
      GrantSink out) {
    int below = top[depth];
    for (int at = from; at < to; at++) {
      int place = touched[at] - base;
      if (descends[place]) {
        below = first + place * stride;
      }
    }
    int last = touched[to - 1] - base;
    int node = nodeOf[last];
    int self = first + last * stride;
    if (to - from > 1 && of.rank[touched[to - 2] - base] == of.rank[last]) {
      for (int w = 0; w < words; w++) {
        held[w] = bits[self + w] | bits[first + (touched[to - 2] - base) * stride + w];
      }
      emit(node, false, 1, held, 0, out);
    } else {
      emit(node, false, 1, bits, self, out);
    }
    if (left > 0 && below != NOTHING) {
      emit(node, true, left, bits, below, out);
    }
    top[depth + 1] = below;
  }

  /**
   * Where all add up, or all of one rank: what holds below a node is what holds above it and what
   * reaches down from it.
   */
  private void add(
      long[] bits,
      int first,
      int[] touched,
      int from,
      int to,
      int base,
      int depth,
      int left,
      GrantSink out) {
    int node = nodeOf[touched[from] - base];
    int below = depth + 1;
    inherit(depth, below);
    boolean alike = true;
    for (int at = from; at < to; at++) {
      int place = touched[at] - base;
      if (descends[place]) {
        add(bits, first + place * stride, of.rank[place], below);
      } else {
        alike = false;
      }
    }
    int self = below;
    if (!alike) {
      self = depth + 2;
      inherit(below, self);
      for (int at = from; at < to; at++) {
        int place = touched[at] - base;
        add(bits, first + place * stride, of.rank[place], self);
      }
    }
    emit(node, false, 1, held, self * frame + top[self] * words, out);
    if (left > 0) {
      emit(node, true, left, held, below * frame + top[below] * words, out);
    }
  }

  private void inherit(int from, int to) {
    top[to] = top[from];
    for (int w = 0; w < frame; w++) {
      held[to * frame + w] = held[from * frame + w];
    }
  }

  private void add(long[] bits, int from, int rank, int into) {
    top[into] = Math.max(top[into], rank);
    int at = into * frame + rank * words;
    for (int w = 0; w < stride; w++) {
      held[at + w] |= bits[from + w];
    }
  }

  private void emit(int node, boolean below, int count, long[] from, int at, GrantSink out) {
    for (int w = 0; w < words; w++) {
      yes[w] = of.denies ? from[at + w] & ~from[at + words + w] : from[at + w];
    }
    out.cell(node, below, count, yes, none);
  }
}
