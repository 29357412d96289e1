package org.sobercompass.core.system.database;

import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Who;

/**
 * As which roles somebody counts, and whether he signed in as a superuser, which no membership
 * brings.
 *
 * @param who the roles
 * @param superuser whether the role signed in as is a superuser
 * @param bypasses whether row security does not count for it
 */
record DatabaseWho(Who who, boolean superuser, boolean bypasses) implements Projected {
  @Override
  public boolean isEmpty() {
    return who.isEmpty();
  }
}
