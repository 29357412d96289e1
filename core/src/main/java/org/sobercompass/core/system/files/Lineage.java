package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.system.files.FileInheritance.Handed;

/**
 * Where the entries of one list come from, below one other list.
 *
 * @param origin for each entry the number of the entry above that hands it on, or one of the
 *     constants
 * @param missed entries above that should have arrived and did not
 */
record Lineage(int[] origin, List<Integer> missed) {
  /** Set where it stands. */
  static final int HERE = -1;

  /** It claims to be inherited, and nothing above hands it on. */
  static final int CLAIMED = -2;

  /** Inherited from above what was collected. */
  static final int OUTSIDE = -3;

  /** Entries that count as written at the path itself. */
  int own() {
    int own = 0;
    for (int from : origin) {
      own += from < 0 ? 1 : 0;
    }
    return own;
  }

  /** Works lineages out, each pair of lists once. Not thread-safe. */
  static final class Maker {
    private final Map<Long, Lineage> known = new HashMap<>();
    private final FileList[] lists;

    /** Nothing comes into a POSIX list from above, so each has one lineage. */
    private final @Nullable Lineage[] ofPosix;

    Maker(FileList[] lists) {
      this.lists = lists;
      this.ofPosix = new Lineage[lists.length];
    }

    /**
     * The lineage of a list.
     *
     * @param above the list of the folder above, -1 when it was not read, -2 at the top
     */
    Lineage of(int list, int above, boolean isFolder) {
      if (lists[list] instanceof PosixList) {
        Lineage plain = ofPosix[list];
        Lineage known = plain == null ? make(list, above, isFolder) : plain;
        ofPosix[list] = known;
        return known;
      }
      long key = ((long) list << 32 | (above + 2)) << 1 | (isFolder ? 1 : 0);
      return known.computeIfAbsent(key, k -> make(list, above, isFolder));
    }

    private Lineage make(int list, int above, boolean isFolder) {
      if (!(lists[list] instanceof OrderedList own)) {
        int[] all = new int[lists[list].entries().size() - 1];
        java.util.Arrays.fill(all, HERE);
        return new Lineage(all, List.of());
      }
      int[] origin = new int[own.descriptor.entries().size()];
      boolean known = above >= 0 && lists[above] instanceof OrderedList;
      List<Handed> handed =
          known
              ? FileInheritance.handed(
                  ((OrderedList) lists[above]).descriptor, isFolder, own.descriptor)
              : List.of();
      BitSet arrived = new BitSet();
      for (int i = 0; i < origin.length; i++) {
        Ace ace = own.descriptor.entries().get(i);
        origin[i] = !ace.isInherited() ? HERE : known ? find(ace, handed, arrived) : OUTSIDE;
      }
      List<Integer> missed = missed(own, handed, arrived);
      // What a preview took out above is not missed below.
      missed.removeIf(from -> lists[above].entries().get(from + 1) == FileList.REMOVED);
      return new Lineage(origin, List.copyOf(missed));
    }

    private static int find(Ace ace, List<Handed> handed, BitSet arrived) {
      for (int h = 0; h < handed.size(); h++) {
        if (!arrived.get(h) && FileInheritance.same(ace, handed.get(h).ace())) {
          arrived.set(h);
          return handed.get(h).from();
        }
      }
      return CLAIMED;
    }

    private static List<Integer> missed(OrderedList own, List<Handed> handed, BitSet arrived) {
      List<Integer> missed = new ArrayList<>();
      if (!own.descriptor.isProtected() && own.descriptor.dacl().isPresent()) {
        for (int h = 0; h < handed.size(); h++) {
          if (!arrived.get(h) && !missed.contains(handed.get(h).from())) {
            missed.add(handed.get(h).from());
          }
        }
      }
      return missed;
    }
  }
}
