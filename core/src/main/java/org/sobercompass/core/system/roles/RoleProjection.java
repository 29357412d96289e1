package org.sobercompass.core.system.roles;

import java.util.Arrays;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Projected;

/** The grants of an account that hold, by node and then number: sure ones and perhaps ones. */
final class RoleProjection implements Projected {
  private static final int[] NONE = new int[0];

  final int[] sure;
  final int[] perhaps;
  private final boolean unsorted;

  /** Rows stay as they come where there is only one node; equality sorts them then. */
  RoleProjection(IntList sure, IntList perhaps, int[] node, boolean oneNode) {
    this.sure = oneNode && !sure.isEmpty() ? sure.toArray() : sorted(sure, node);
    this.perhaps = sorted(perhaps, node);
    this.unsorted = oneNode;
  }

  private int[] canonical() {
    if (!unsorted) {
      return sure;
    }
    int[] copy = sure.clone();
    Arrays.sort(copy);
    return copy;
  }

  /** By node, then number. Rows are short, so mostly by insertion. */
  private static int[] sorted(IntList grants, int[] node) {
    if (grants.isEmpty()) {
      return NONE;
    }
    int[] out = grants.toArray();
    if (out.length > 64) {
      long[] keys = new long[out.length];
      for (int i = 0; i < out.length; i++) {
        keys[i] = (long) node[out[i]] << 32 | out[i];
      }
      Arrays.sort(keys);
      for (int i = 0; i < out.length; i++) {
        out[i] = (int) keys[i];
      }
      return out;
    }
    for (int i = 1; i < out.length; i++) {
      int moving = out[i];
      int at = i;
      while (at > 0 && after(out[at - 1], moving, node)) {
        out[at] = out[at - 1];
        at--;
      }
      out[at] = moving;
    }
    return out;
  }

  private static boolean after(int a, int b, int[] node) {
    return node[a] != node[b] ? node[a] > node[b] : a > b;
  }

  @Override
  public boolean isEmpty() {
    return sure.length == 0 && perhaps.length == 0;
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof RoleProjection p
        && Arrays.equals(canonical(), p.canonical())
        && Arrays.equals(perhaps, p.perhaps);
  }

  @Override
  public int hashCode() {
    return Arrays.hashCode(canonical()) * 31 + Arrays.hashCode(perhaps);
  }
}
