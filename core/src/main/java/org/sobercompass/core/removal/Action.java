package org.sobercompass.core.removal;

import org.sobercompass.core.system.Change;

/**
 * A removal that exists: leaving a group, withdrawing an assignment, removing an entry.
 *
 * @param change what is removed
 * @param cost thousands for how many it may concern, and one for each assignment it carries
 * @param key stable, to decide between equals
 */
record Action(Change change, int cost, String key) {
  /** A removal for one account only. */
  static final int OF_ONE = 10_000;

  /** A removal for all of a group. */
  static final int OF_MANY = 30_000;
}
