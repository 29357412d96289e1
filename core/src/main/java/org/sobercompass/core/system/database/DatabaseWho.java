package org.sobercompass.core.system.database;

import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Who;

/**
 * As which roles somebody counts, and whether he signed in as a superuser, which no membership
 * brings.
 */
record DatabaseWho(Who who, boolean superuser) implements Projected {
  @Override
  public boolean isEmpty() {
    return who.isEmpty();
  }
}
