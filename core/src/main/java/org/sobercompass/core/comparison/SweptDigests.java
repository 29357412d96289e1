package org.sobercompass.core.comparison;

import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.SystemView;

/**
 * For each account, a digest of 128 bits of all that a sweep gives it in some systems and of
 * whether it may be used there. Two accounts with equal digests are taken to hold the same; by
 * chance that is wrong once in 10^38 pairs. Frozen and thread-safe.
 */
final class SweptDigests {
  private final long[] words;

  private SweptDigests(long[] words) {
    this.words = words;
  }

  /**
   * Sweeps a model, on all processors. O(accounts x what they are given).
   *
   * @param salts what stands for each system by number, the same in both models; 0 for a system
   *     that is left out
   */
  static SweptDigests of(AccessModel model, long[] salts) {
    long[] all = new long[2 * model.facts().accounts()];
    model.prepareForMany();
    model
        .bulk()
        .<Bulk.Range>inOrder(
            (asker, range) -> {
              Bulk.cells(asker, range, new Worker(asker, salts, all));
              return range;
            },
            range -> {});
    return new SweptDigests(all);
  }

  /** Whether an account is given the same here as one there. */
  boolean isSame(int account, SweptDigests other, int there) {
    return words[2 * account] == other.words[2 * there]
        && words[2 * account + 1] == other.words[2 * there + 1];
  }

  /**
   * Adds up the digests of systems, so that the order of systems does not count. Each account
   * belongs to one run, so that no two threads write to one place.
   */
  private static final class Worker implements Bulk.Cells {
    private final Asker asker;
    private final long[] salts;
    private final long[] all;
    private int account = -1;
    private long salt;
    private long one;
    private long two;

    Worker(Asker asker, long[] salts, long[] all) {
      this.asker = asker;
      this.salts = salts;
      this.all = all;
    }

    @Override
    public void at(int next, SystemView view) {
      account = next;
      salt = salts[view.number()];
      one = salt == 0 ? 0 : salt ^ asker.standing(view, next).state().ordinal();
      two = one;
      add();
    }

    @Override
    public void cell(int resource, boolean below, int count, long[] yes, long[] perhaps) {
      if (salt == 0) {
        return;
      }
      take((long) resource << 1 | (below ? 1 : 0));
      for (long word : yes) {
        take(word);
      }
      for (long word : perhaps) {
        take(word);
      }
      add();
    }

    /** What came last in this system, with all that came before it there. */
    private void add() {
      all[2 * account] += one;
      all[2 * account + 1] += two;
    }

    private void take(long word) {
      one = mixed(one + 0x9e3779b97f4a7c15L, word);
      two = mixed(two + 0xd1b54a32d192ed03L, ~word);
    }

    /** A word folded into a digest, each bit of both moving half of the bits of the result. */
    private static long mixed(long digest, long word) {
      long mixed = (digest ^ word) * 0xbf58476d1ce4e5b9L;
      mixed = (mixed ^ mixed >>> 32) * 0x94d049bb133111ebL;
      return mixed ^ mixed >>> 29;
    }
  }
}
