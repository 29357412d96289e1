package org.sobercompass.core.system;

import org.sobercompass.core.membership.SubjectSet;

/**
 * Whom a system decides about: an account and all it counts as, at a point in time. Not
 * thread-safe; reused in bulk work, so a decider keeps nothing of it.
 *
 * @param account the number of the account, or {@link #NOBODY}
 * @param subjects what it counts as under the system's sight and profile, implicit groups included
 * @param asOf epoch second
 */
public record Token(int account, SubjectSet subjects, long asOf) {
  /** Somebody who did not sign in. */
  public static final int NOBODY = -1;
}
