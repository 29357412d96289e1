package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.WellKnown;

/**
 * What a file or folder gets from the folder above ([MS-DTYP] 2.5.3.4.2). A file takes the entries
 * meant for objects; a folder takes those meant for containers, and hands those meant for objects
 * on. Thread-safe.
 */
public final class FileInheritance {
  private FileInheritance() {}

  /**
   * One entry from above.
   *
   * @param ace as it should stand below
   * @param from the number of the entry above
   */
  public record Handed(Ace ace, int from) {}

  /**
   * What the list above hands on.
   *
   * @param isFolder whether what stands below is a folder
   * @param below the list below, whose owner and group take the place of whoever creates
   */
  public static List<Handed> handed(Descriptor above, boolean isFolder, Descriptor below) {
    List<Handed> all = new ArrayList<>();
    for (int i = 0; i < above.entries().size(); i++) {
      Ace ace = above.entries().get(i);
      boolean forFiles = (ace.flags() & Ace.OBJECTS) != 0;
      boolean forFolders = (ace.flags() & Ace.CHILDREN) != 0;
      boolean once = (ace.flags() & Ace.NEXT_ONLY) != 0;
      if (!isFolder && forFiles) {
        all.add(new Handed(effective(ace, below), i));
      } else if (isFolder && forFolders) {
        folder(ace, i, once, below, all);
      } else if (isFolder && forFiles && !once) {
        all.add(new Handed(flagged(ace, Ace.OBJECTS | Ace.BELOW_ONLY), i));
      }
    }
    return all;
  }

  private static void folder(Ace ace, int from, boolean once, Descriptor below, List<Handed> all) {
    int further = once ? 0 : ace.flags() & (Ace.OBJECTS | Ace.CHILDREN);
    Ace here = effective(ace, below);
    boolean same = here.mask() == ace.mask() && here.trustee().equals(ace.trustee());
    if (same || once) {
      all.add(new Handed(here.with(here.flags() | further, here.mask(), here.trustee()), from));
    } else {
      all.add(new Handed(here, from));
      all.add(new Handed(flagged(ace, further | Ace.BELOW_ONLY), from));
    }
  }

  private static Ace flagged(Ace ace, int flags) {
    return ace.with(flags | Ace.INHERITED, ace.mask(), ace.trustee());
  }

  /** As it counts on what is made, with the generic rights and whoever creates it filled in. */
  private static Ace effective(Ace ace, Descriptor below) {
    String trustee =
        switch (ace.trustee()) {
          case WellKnown.CREATOR_OWNER -> below.owner().orElse(ace.trustee());
          case WellKnown.CREATOR_GROUP -> below.group().orElse(ace.trustee());
          default -> ace.trustee();
        };
    return ace.with(Ace.INHERITED, FileRights.mapped(ace.mask()), trustee);
  }

  /** Whether an entry is what was handed on; rights are compared as mapped. */
  static boolean same(Ace a, Ace b) {
    int flags = Ace.OBJECTS | Ace.CHILDREN | Ace.NEXT_ONLY | Ace.BELOW_ONLY;
    return (a.flags() & flags) == (b.flags() & flags)
        && a.code() == b.code()
        && FileRights.mapped(a.mask()) == FileRights.mapped(b.mask())
        && a.trustee().equals(b.trustee())
        && a.data().equals(b.data());
  }
}
