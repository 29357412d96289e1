package org.sobercompass.core.system.files;

import java.util.Arrays;
import org.sobercompass.core.system.Who;
import org.sobercompass.core.system.files.FileFacts.Share;

/**
 * What one account may do on each path, as one bit a right, once as favourably and once as
 * unfavourably as what is not known allows. With a memory it judges each distinct list once, which
 * pays when many paths are asked; without one it allocates nothing. Not thread-safe.
 */
final class FileMasks {
  private static final long SEARCH_POSIX = 1L << 1;
  private static final long SEARCH_ENTRIES = FileRights.EXECUTE;
  private static final long UNREAD_POSIX = 0xff | FileRights.OWNS;
  private static final long NOT_KNOWN = -1L;

  private final FileFacts facts;
  private final Who who;
  private final long[] memory;

  private FileMasks(FileFacts facts, Who who, long[] memory) {
    this.facts = facts;
    this.who = who;
    this.memory = memory;
  }

  /** For one question. */
  static FileMasks once(FileFacts facts, Who who) {
    return new FileMasks(facts, who, new long[0]);
  }

  /** For many paths. */
  static FileMasks remembering(FileFacts facts, Who who) {
    long[] memory = new long[facts.lists.length * 4];
    Arrays.fill(memory, NOT_KNOWN);
    return new FileMasks(facts, who, memory);
  }

  /** What the list of a path gives by itself. */
  long own(int resource, boolean favourable) {
    int list = facts.listOf[resource];
    if (list < 0) {
      return unread(resource, favourable);
    }
    return assessment(list, favourable, facts.isFolder(resource));
  }

  /** A list that was not read may give all or nothing. */
  private long unread(int resource, boolean favourable) {
    boolean posix = facts.style == FileStyle.POSIX;
    if (who.comes() == 0) {
      return 0;
    }
    if (facts.superuser >= 0 && who.surely(facts.superuser)) {
      return PosixList.ofSuperuser(favourable || facts.isFolder(resource));
    }
    if (favourable) {
      return posix ? UNREAD_POSIX : FileRights.FULL;
    }
    return 0;
  }

  private long assessment(int list, boolean favourable, boolean isFolder) {
    if (memory.length == 0) {
      return facts.lists[list].mask(who, favourable, isFolder);
    }
    int at = list * 4 + (favourable ? 2 : 0) + (isFolder ? 1 : 0);
    if (memory[at] == NOT_KNOWN) {
      memory[at] = facts.lists[list].mask(who, favourable, isFolder);
    }
    return memory[at];
  }

  /**
   * Whether a folder lets pass to what is in it. One above what was collected may be said to; that
   * gives no right on the folder itself, of which nothing is known.
   */
  boolean passes(int resource, boolean favourable) {
    if (facts.isPassed(resource)) {
      return who.comes() != 0;
    }
    long search = facts.style == FileStyle.POSIX ? SEARCH_POSIX : SEARCH_ENTRIES;
    return (own(resource, favourable) & search) != 0;
  }

  /** Whether all folders above let pass. */
  boolean reaches(int resource, boolean favourable) {
    if (facts.style.isSearched()) {
      for (int at = facts.tree.parent(resource); at >= 0; at = facts.tree.parent(at)) {
        if (!passes(at, favourable)) {
          return false;
        }
      }
    }
    return true;
  }

  /** One bit a right, given whether the folders above let pass. */
  long rights(int resource, boolean reached, boolean favourable) {
    if (!reached || who.comes() == 0) {
      return 0;
    }
    return facts.style == FileStyle.POSIX
        ? posix(resource, favourable)
        : entries(resource, favourable);
  }

  private long posix(int resource, boolean favourable) {
    long own = own(resource, favourable);
    int parent = facts.tree.parent(resource);
    long above = parent < 0 ? 0 : own(parent, favourable);
    long rights = bit(own, 4, FileRights.POSIX_READ);
    rights |= bit(own, 2, FileRights.POSIX_WRITE);
    rights |= bit(own, 1, FileRights.POSIX_EXECUTE);
    rights |= facts.isFolder(resource) ? bit(own, 3, FileRights.POSIX_CREATE) : 0;
    rights |= (own & FileRights.OWNS) != 0 ? 1L << FileRights.POSIX_CHANGE_MODE : 0;
    rights |= (own & FileRights.ROOT) != 0 ? 1L << FileRights.POSIX_CHANGE_OWNER : 0;
    boolean free = ((own | above) & FileRights.OWNS) != 0 || !isSticky(parent, favourable);
    return rights | (free ? bit(above, 3, FileRights.POSIX_DELETE) : 0);
  }

  private static long bit(long mask, int combination, int right) {
    return (mask >>> combination & 1) << right;
  }

  /** Whether only owners may take things out; a folder that was not read may be sticky. */
  private boolean isSticky(int folder, boolean favourable) {
    int list = folder < 0 ? FileFacts.UNREAD : facts.listOf[folder];
    return list < 0 ? !favourable : ((PosixList) facts.lists[list]).isSticky();
  }

  private long entries(int resource, boolean favourable) {
    long mask = local(resource, favourable);
    if (facts.shares.isEmpty()) {
      return FileRights.ENTRIES.of(mask);
    }
    long rights = 0;
    for (Share share : facts.shares) {
      if (facts.tree.covers(share.resource(), resource)) {
        rights |= FileRights.ENTRIES.of(mask & share(share, favourable));
      }
    }
    return rights;
  }

  /**
   * What the lists of a path and of the folder above give ([MS-FSA] 2.1.5.1.2.1): who may delete
   * children of a folder may delete what is in it, who may list it may read the attributes there.
   */
  long local(int resource, boolean favourable) {
    long mask = own(resource, favourable);
    int parent = facts.tree.parent(resource);
    long above = parent < 0 ? 0 : own(parent, favourable);
    mask |= (above & FileRights.DELETE_CHILD) != 0 ? FileRights.DELETE : 0;
    return mask | ((above & FileRights.READ_DATA) != 0 ? FileRights.READ_ATTRIBUTES : 0);
  }

  /** What the list of a share lets through. */
  long share(Share share, boolean favourable) {
    if (share.list() < 0) {
      return favourable ? FileRights.FULL : 0;
    }
    return assessment(share.list(), favourable, true);
  }
}
