package org.sobercompass.core.system.files;

import org.sobercompass.core.system.Remark;

/** What may be wrong with lists of files. */
enum FileRemarkKind implements Remark.Kind {
  ORDER_MATTERS(0, false),
  EARLIER_ID_OPENS(1, false),
  LAYERS_DISAGREE(1, true),
  CLAIM_WITHOUT_SUPPORT(1, true),
  MISSED_CHANGE(1, false),
  BROKEN_INHERITANCE(0, false),
  WRITABLE_BY_EVERYONE(2, true),
  OWNER_OUTSIDE(1, false),
  ENTRY_OF_MISSING(0, true),
  ENTRY_FOR_PERSON(0, true),
  MASK_HIDES(0, false);

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
