package org.sobercompass.core.system.roles;

import java.util.Arrays;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.GrantBits;
import org.sobercompass.core.system.Resources;

/**
 * Assignments as words that add up. Assignments at one node that reach equally far and whose
 * subjects rank equally decide together, so they are one place; a place has words of what is
 * allowed, then of what is denied where that counts. A nearer place decides even if it gives
 * nothing.
 */
final class RoleBits implements GrantBits {
  private static final int[] NOT_PLAIN = new int[0];

  final RoleDecider decider;
  private final Resources nodes;
  final int words;
  final boolean denies;
  final boolean ranked;
  final int stride;
  final boolean reachesDown;
  final int depth;
  final int[] node;
  final int[] end;
  final byte[] rank;
  final boolean[] descends;
  private final long[] keys;
  private final long asOf;

  RoleBits(RoleDecider decider, long asOf) {
    this.decider = decider;
    this.asOf = asOf;
    this.nodes = decider.nodes;
    this.words = decider.words;
    this.denies = decider.combining.mode() == Combining.Mode.DENY_OVERRIDES;
    this.ranked = decider.combining.bySubject();
    this.stride = denies ? 2 * words : words;
    GrantTable table = decider.table;
    long[] all = new long[table.node.length];
    int count = 0;
    for (int grant = 0; grant < all.length; grant++) {
      if (table.subject[grant] >= 0 && table.activeAt(grant, asOf)) {
        all[count++] = key(grant);
      }
    }
    keys = Arrays.stream(all, 0, count).sorted().distinct().toArray();
    node = new int[keys.length];
    end = new int[keys.length];
    rank = new byte[keys.length];
    descends = new boolean[keys.length];
    boolean down = false;
    for (int place = 0; place < keys.length; place++) {
      node[place] = (int) (keys[place] >> 3);
      end[place] = nodes.end(node[place]);
      rank[place] = (byte) (keys[place] >> 1 & 3);
      descends[place] = (keys[place] & 1) != 0;
      down |= descends[place];
    }
    reachesDown = down;
    depth = down ? depth() : 1;
  }

  private int depth() {
    int deepest = 0;
    int[] level = new int[nodes.size()];
    for (int n = 0; n < level.length; n++) {
      level[n] = nodes.parent(n) < 0 ? 1 : level[nodes.parent(n)] + 1;
      deepest = Math.max(deepest, level[n]);
    }
    return deepest;
  }

  /** Node, rank and reach as one number; below a leaf is nothing. */
  private long key(int grant) {
    GrantTable table = decider.table;
    int at = table.node[grant];
    boolean down = table.descends[grant] && nodes.end(at) > at + 1;
    return (long) at << 3 | (ranked ? table.rank[grant] << 1 : 0) | (down ? 1 : 0);
  }

  @Override
  public int places() {
    return keys.length;
  }

  @Override
  public int words() {
    return stride;
  }

  @Override
  public void of(int subject, Places out) {
    IntList grants = new IntList(4);
    decider.table.collect(subject, asOf, grants);
    long[] both = new long[stride];
    for (int i = 0; i < grants.size(); i++) {
      int grant = grants.get(i);
      int role = decider.table.role[grant];
      System.arraycopy(decider.allows[role], 0, both, 0, words);
      if (denies) {
        System.arraycopy(decider.denies[role], 0, both, words, words);
      }
      out.place(Arrays.binarySearch(keys, key(grant)), both);
    }
  }

  /** Nothing reaches down, and neither rank nor deny counts. */
  @Override
  public int[] plain() {
    return reachesDown || ranked || denies ? NOT_PLAIN : node;
  }

  @Override
  public Sweep sweep() {
    return new RoleBitSweep(this);
  }
}
