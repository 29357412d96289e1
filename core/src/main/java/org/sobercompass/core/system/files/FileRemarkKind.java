package org.sobercompass.core.system.files;

import org.sobercompass.core.system.Remark;

/** What may be wrong with lists of files. */
enum FileRemarkKind implements Remark.Kind {
  ENTRY_ORDER(0, false),
  FORMER_ID(1, false),
  SHARE_AND_FILES_DISAGREE(1, true),
  UNSUPPORTED_INHERITANCE(1, true),
  INHERITANCE_NOT_APPLIED(1, false),
  BROKEN_INHERITANCE(0, false),
  WRITABLE_BY_EVERYONE(2, true),
  OWNER_NOT_ADMINISTRATOR(1, false),
  UNRESOLVED_TRUSTEE(0, true),
  DIRECT_ENTRY(0, true),
  MASK_LIMITS_ENTRY(0, false);

  private final int weight;
  private final boolean endedByRemoval;

  FileRemarkKind(int weight, boolean endedByRemoval) {
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
