package org.sobercompass.core.removal;

import org.sobercompass.core.system.Change;

/**
 * A removal that exists: leaving a group, withdrawing an assignment, removing an entry, excepting
 * an object from an admin scope.
 *
 * @param change what is removed
 * @param cost by how much is taken from how many: one unit, and one for each assignment that each
 *     account concerned loses at most by it
 * @param key stable, to decide between equals
 */
record Action(Change change, int cost, String key) {
  static final long MOST = 1_000_000_000L;

  /** The cost of a removal that concerns so many accounts and carries so many assignments. */
  static int cost(int accounts, int carried) {
    return (int) Math.min(MOST, 1L + (long) accounts * Math.max(1, carried));
  }
}
