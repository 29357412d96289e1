package org.sobercompass.core.system.files;

import org.sobercompass.core.system.MaskRights;

/** Whose rules decide. */
public enum FileStyle {
  /** Descriptors of [MS-DTYP] behind shares; folders above need not be passed. */
  SHARED("shared-files", false),
  /** Lists of RFC 7530; each folder above must let pass. */
  NFS4("nfs4-files", true),
  /** Lists of 1003.1e as Linux keeps them; each folder above must let pass. */
  POSIX("posix-files", true);

  private final String kind;
  private final boolean searched;

  FileStyle(String kind, boolean searched) {
    this.kind = kind;
    this.searched = searched;
  }

  /** The word in a workspace. */
  public String kind() {
    return kind;
  }

  /** Whether search permission is needed on every folder above. */
  public boolean isSearched() {
    return searched;
  }

  MaskRights rights() {
    return this == POSIX ? FileRights.POSIX : FileRights.ENTRIES;
  }
}
