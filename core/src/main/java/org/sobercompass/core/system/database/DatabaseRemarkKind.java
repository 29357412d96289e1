package org.sobercompass.core.system.database;

import org.sobercompass.core.system.Remark;

/** What may be wrong with the rights of a database. */
enum DatabaseRemarkKind implements Remark.Kind {
  GRANT_WITHOUT_EFFECT(0, true),
  PUBLIC_RIGHTS(1, true),
  CAN_SWITCH_ROLE(2, false),
  SUPERUSER_BY_MEMBERSHIP(2, false),
  SERVER_FILE_ACCESS(2, false),
  CAN_CREATE_ROLES(2, false);

  private final int weight;
  private final boolean endedByRemoval;

  DatabaseRemarkKind(int weight, boolean endedByRemoval) {
    this.weight = weight;
    this.endedByRemoval = endedByRemoval;
  }

  @Override
  public int weight() {
    return weight;
  }

  @Override
  public boolean isEndedByRemoval() {
    return endedByRemoval;
  }
}
