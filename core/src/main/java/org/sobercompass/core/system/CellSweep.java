package org.sobercompass.core.system;

/**
 * Hands a mask for each resource of a tree on as cells: one wherever the outcome differs from the
 * one above. For systems of at most 64 rights. Not thread-safe.
 */
public final class CellSweep {
  private final Resources tree;
  private final long[] yes = new long[1];
  private final long[] perhaps = new long[1];

  /** Over a tree. */
  public CellSweep(Resources tree) {
    this.tree = tree;
  }

  /** What one account has on one resource; asked in the order of resources. */
  @FunctionalInterface
  public interface Masks {
    /** Fills {@code into[0]} with what it surely has and {@code into[1]} with what is undecided. */
    void of(int resource, long[] into);
  }

  /** Sweeps. O(resources). */
  public void run(Masks masks, GrantSink out) {
    int size = tree.size();
    long[] sure = new long[size];
    long[] open = new long[size];
    int[] alike = new int[size];
    long[] mask = new long[2];
    for (int r = 0; r < size; r++) {
      masks.of(r, mask);
      sure[r] = mask[0];
      open[r] = mask[1];
    }
    boolean[] top = new boolean[size];
    int[] cell = new int[size];
    for (int r = 0; r < size; r++) {
      int above = tree.parent(r);
      top[r] = above < 0 || sure[above] != sure[r] || open[above] != open[r];
      cell[r] = top[r] ? r : cell[above];
      alike[cell[r]]++;
    }
    for (int r = 0; r < size; r++) {
      if (top[r]) {
        yes[0] = sure[r];
        perhaps[0] = open[r];
        out.cell(r, false, 1, yes, perhaps);
        if (alike[r] > 1) {
          out.cell(r, true, alike[r] - 1, yes, perhaps);
        }
      }
    }
  }
}
