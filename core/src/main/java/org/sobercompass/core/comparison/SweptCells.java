package org.sobercompass.core.comparison;

import java.util.Arrays;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.GrantSink;
import org.sobercompass.core.system.Projected;

/**
 * What a sweep gives for one account in one system, to be held against another. Not thread-safe.
 */
final class SweptCells implements GrantSink {
  private long[] words = new long[256];
  private int size;

  /** Takes what a system gives an account now; what was there before is gone. */
  void take(SystemView view, Asker asker, int account) {
    size = 0;
    Projected who = asker.projected(view, account);
    if (!who.isEmpty()) {
      view.decider().sweep(who, this);
    }
  }

  @Override
  public void cell(int resource, boolean below, int count, long[] yes, long[] perhaps) {
    int more = 1 + yes.length + perhaps.length;
    if (size + more > words.length) {
      words = Arrays.copyOf(words, Math.max(words.length * 2, size + more));
    }
    words[size++] = (long) resource << 1 | (below ? 1 : 0);
    System.arraycopy(yes, 0, words, size, yes.length);
    size += yes.length;
    System.arraycopy(perhaps, 0, words, size, perhaps.length);
    size += perhaps.length;
  }

  /** Whether nothing at all is given. */
  boolean isEmpty() {
    return size == 0;
  }

  /** Whether the same is given at the same resources. */
  boolean isSame(SweptCells other) {
    return Arrays.equals(words, 0, size, other.words, 0, other.size);
  }
}
