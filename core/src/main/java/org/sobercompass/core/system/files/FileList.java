package org.sobercompass.core.system.files;

import java.util.BitSet;
import java.util.List;
import org.sobercompass.core.system.Who;

/** One access control list; the same object for all paths that have it. Immutable. */
interface FileList {
  /** The trustee that owns what has this list, or -1. */
  int owner();

  /**
   * What somebody may do by this list alone.
   *
   * @param favourable how to take what is not known
   * @param isFolder whether the list is a folder's
   */
  long mask(Who who, boolean favourable, boolean isFolder);

  /** The accounts that count as a trustee. */
  interface Members {
    /**
     * One bit an account; not to be changed.
     *
     * @param wide everybody, for a trustee of whom nothing is known
     */
    BitSet of(int trustee, boolean wide);
  }

  /** Who may do all of {@code need} by this list alone, one bit an account. */
  BitSet crowd(long need, boolean favourable, boolean isFolder, Members members);

  /** Whether a mask of this kind of list holds all that is asked for. */
  boolean holds(long mask, long need);

  /** Its entries as grants, the owner's own right first. */
  List<Entry> entries();

  /**
   * For a need, the entries that give it to somebody and those that take it away.
   *
   * @param gives by number; each gives at least a part
   * @param stops by number
   */
  record Reason(List<Integer> gives, List<Integer> stops) {}

  /** Why somebody may or may not do all of {@code need} by this list. */
  Reason reason(Who who, long need, boolean isFolder);

  /** The same list as if an entry were not there; the numbers of the others stay. */
  FileList without(int entry);

  /** The part of a need that one entry gives by itself. */
  long part(int entry, long need);

  /** What is left of an entry that is taken out in a preview. */
  Entry REMOVED = new Entry(-1, 0, false, "removed", "nothing", "", false);

  /**
   * One entry.
   *
   * @param trustee the number of the trustee, or -1
   * @param rights the rights, one bit each, that it speaks of where it stands
   * @param denies whether it takes them away
   * @param effect in words
   * @param words the rights in words
   * @param reach how far it is handed on, in words
   * @param counts whether it counts where it stands
   */
  record Entry(
      int trustee,
      long rights,
      boolean denies,
      String effect,
      String words,
      String reach,
      boolean counts) {}
}
