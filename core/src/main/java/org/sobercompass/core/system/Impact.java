package org.sobercompass.core.system;

import org.sobercompass.core.store.IntList;

/**
 * What may differ after a change, and nothing else does.
 *
 * @param subjects only accounts that count as one of these, before or after
 * @param firstResource the first resource (resources are numbered in preorder)
 * @param lastResource the one after the last
 */
public record Impact(IntList subjects, int firstResource, int lastResource) {
  /** Nothing differs. */
  public static final Impact NONE = new Impact(new IntList(), 0, 0);

  /** Whether nothing differs. */
  public boolean isNone() {
    return subjects.isEmpty() || firstResource >= lastResource;
  }
}
