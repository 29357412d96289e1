package org.sobercompass.core.membership;

import org.sobercompass.core.store.IntList;

/**
 * The subjects an account counts as: itself, its groups, the organizational units above it,
 * implicit groups. Each subject stands once, in {@code sure} or in {@code perhaps}. Reused from
 * account to account in bulk work; not thread-safe.
 */
public final class SubjectSet {
  private final IntList sure = new IntList(64);
  private final IntList perhaps = new IntList(4);

  /** Subjects it surely counts as. */
  public IntList sure() {
    return sure;
  }

  /** Subjects of which it is not known. */
  public IntList perhaps() {
    return perhaps;
  }

  /** Makes it the same as another. */
  public void setTo(SubjectSet other) {
    clear();
    for (int i = 0; i < other.sure.size(); i++) {
      sure.add(other.sure.get(i));
    }
    for (int i = 0; i < other.perhaps.size(); i++) {
      perhaps.add(other.perhaps.get(i));
    }
  }

  /** Empties the set. */
  public void clear() {
    sure.clear();
    perhaps.clear();
  }
}
