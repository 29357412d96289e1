package org.sobercompass.core.facts;

import java.util.Arrays;
import java.util.stream.IntStream;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;

/**
 * Sorts edges into rows by their members, each row ascending by group and by how it lists the
 * member, without repeats. On all processors, each with a range of members of its own: O(edges) for
 * each processor, and O(e log e) for a row of e. Memory: 4 bytes an edge beside the result.
 */
final class EdgeRows {
  /** Bits of a sort key that say how a member is listed. */
  private static final int VIA_BITS = 4;

  private static final int FEW = 1 << 16;

  private final int rows;
  private final IntList members;
  private final IntList groups;
  private final IntList vias;

  /** By member where its edges begin, before repeats are left out. */
  private final int[] begins;

  /** Of each edge its group and how it lists the member. */
  private final int[] keys;

  /** By member where its row ends: at first how many edges it has without repeats. */
  private final int[] ends;

  /**
   * Edges, each between a member and a group.
   *
   * @param rows how many subjects there are, at most 134 million
   */
  EdgeRows(int rows, IntList members, IntList groups, IntList vias) {
    if (rows > 1 << (31 - VIA_BITS)) {
      throw new IllegalArgumentException("too many subjects: " + rows);
    }
    this.rows = rows;
    this.members = members;
    this.groups = groups;
    this.vias = vias;
    this.begins = new int[rows + 1];
    this.ends = new int[rows + 1];
    this.keys = new int[members.size()];
  }

  MembershipRows rows() {
    for (int edge = 0; edge < members.size(); edge++) {
      begins[members.get(edge) + 1]++;
    }
    sum(begins);
    int[] bounds = bounds();
    parts(bounds).forEach(part -> sort(bounds[part], bounds[part + 1]));
    sum(ends);
    int[] targets = new int[ends[rows]];
    byte[] how = new byte[ends[rows]];
    parts(bounds).forEach(part -> keep(bounds[part], bounds[part + 1], targets, how));
    return new MembershipRows(new IntRows(ends, targets), how);
  }

  private static void sum(int[] counts) {
    for (int row = 1; row < counts.length; row++) {
      counts[row] += counts[row - 1];
    }
  }

  /** Where ranges of members begin that have about as many edges each, one a processor. */
  private int[] bounds() {
    int parts = keys.length < FEW ? 1 : Runtime.getRuntime().availableProcessors();
    int[] bounds = new int[parts + 1];
    int row = 0;
    for (int part = 1; part < parts; part++) {
      long wanted = (long) keys.length * part / parts;
      while (row < rows && begins[row] < wanted) {
        row++;
      }
      bounds[part] = row;
    }
    bounds[parts] = rows;
    return bounds;
  }

  private static IntStream parts(int[] bounds) {
    return IntStream.range(0, bounds.length - 1).parallel();
  }

  /** Gathers the edges of some members and sorts them; the first of each row are kept. */
  private void sort(int from, int to) {
    int[] next = Arrays.copyOfRange(begins, from, to);
    for (int edge = 0; edge < members.size(); edge++) {
      int member = members.get(edge);
      if (member >= from && member < to) {
        keys[next[member - from]++] = groups.get(edge) << VIA_BITS | vias.get(edge);
      }
    }
    for (int member = from; member < to; member++) {
      Arrays.sort(keys, begins[member], begins[member + 1]);
      int kept = begins[member];
      for (int at = begins[member]; at < begins[member + 1]; at++) {
        if (at == begins[member] || keys[at] != keys[kept - 1]) {
          keys[kept++] = keys[at];
        }
      }
      ends[member + 1] = kept - begins[member];
    }
  }

  private void keep(int from, int to, int[] targets, byte[] how) {
    for (int member = from; member < to; member++) {
      int begin = begins[member];
      for (int at = ends[member]; at < ends[member + 1]; at++) {
        int key = keys[begin + at - ends[member]];
        targets[at] = key >> VIA_BITS;
        how[at] = (byte) (key & (1 << VIA_BITS) - 1);
      }
    }
  }
}
