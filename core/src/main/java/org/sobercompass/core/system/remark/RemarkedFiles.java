package org.sobercompass.core.system.remark;

import java.util.List;
import java.util.OptionalInt;

/** About lists of files and folders. */
public sealed interface RemarkedFiles extends Remarked {
  /** An entry for somebody who is in no directory, or such an owner. */
  record MissingTrustee(String trustee, boolean owns) implements RemarkedFiles {}

  /** An entry by an id kept from an earlier directory. */
  record EarlierId(String trustee, String id) implements RemarkedFiles {}

  /** What is denied after it was allowed. */
  record DenyAfterAllow(ListedEntry deny, ListedEntry allow) implements RemarkedFiles {}

  /** An entry for a person, and how many more there are for the same. */
  record ForPerson(ListedEntry entry, int more) implements RemarkedFiles {}

  /** Entries that claim to be inherited, and that nothing above hands on. */
  record Claimed(List<ListedEntry> entries) implements RemarkedFiles {}

  /** What the folder above hands on and did not arrive. */
  record NotHandedOn(int above, List<ListedEntry> entries) implements RemarkedFiles {}

  /** A list that blocks inheritance, below a folder from which everyone may delete it. */
  record BlockedInVain(int above) implements RemarkedFiles {}

  /** A folder whose owner is no administrator. */
  record OwnedByOther(String owner) implements RemarkedFiles {}

  /** Entries of which the mask takes something away. */
  record Masked(List<ListedEntry> entries) implements RemarkedFiles {}

  /** A place that everyone may write to. */
  record WritableByAll() implements RemarkedFiles {}

  /**
   * An entry that gives more than the share lets through.
   *
   * @param allowsNothing whether the share lets nothing through
   * @param allows the largest right that it lets through; empty where that is less than reading
   */
  record ShareLimits(ListedEntry entry, String share, boolean allowsNothing, OptionalInt allows)
      implements RemarkedFiles {}
}
