package org.sobercompass.sources.files;

import java.util.List;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;

/** Files with NFSv4 lists on this machine, changed through Java's file API where it has them. */
public final class Nfs4TargetKind implements TargetKind {
  /** The word for it. */
  static final String ID = "nfs4-files";

  private static final Form FORM =
      new Form(
          ID,
          "whole NFSv4 lists, an entry a line",
          ".nfs4",
          "the folder in which the tree stands; / when it is left out",
          "");

  @Override
  public Form form() {
    return FORM;
  }

  @Override
  public String text(List<AmendmentRecord> records) {
    return PosixTargetKind.blocks(records);
  }

  @Override
  public LiveTarget open(Door door, Secret.Origins origins) {
    return Nfs4Target.open(PosixTargetKind.root(door, FORM));
  }
}
