package org.sobercompass.core.system.files;

import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.system.Verdict;

/**
 * The access checks of files as a plain program: 1003.1e draft 17 section 23.1.5 as Linux does it,
 * RFC 7530 section 6.2.1, [MS-DTYP] 2.5.3.2. One bit of one list after another.
 */
final class NaiveFiles {
  private final FileStyle style;
  private final Map<String, Listed> lists;
  private final Optional<Listed> share;
  private final FileAccess system;
  private final int firstGroup;
  private final int accounts;

  /**
   * A path, or a share, with its list; neither form of list where it was not read.
   *
   * @param named trustees of the entries, by number: 0 everyone, then accounts, groups, a stranger
   * @param open whether anybody may be the stranger
   * @param passed whether it stands above what was collected and is said to let pass
   */
  record Listed(
      boolean folder,
      @Nullable Descriptor descriptor,
      PosixList.@Nullable Parts posix,
      int owner,
      int[] named,
      boolean open,
      boolean passed) {}

  NaiveFiles(
      FileStyle style,
      Map<String, Listed> lists,
      Optional<Listed> share,
      FileAccess system,
      int firstGroup,
      int accounts) {
    this.style = style;
    this.lists = lists;
    this.share = share;
    this.system = system;
    this.firstGroup = firstGroup;
    this.accounts = accounts;
  }

  Verdict decide(int account, Set<Integer> subjects, int right, int resource) {
    String path = system.resources().id(resource);
    Verdict way = Verdict.YES;
    for (String at = above(path); style.isSearched() && !at.isEmpty(); at = above(at)) {
      boolean passed = lists.get(at).passed();
      int search = style == FileStyle.POSIX ? 1 : FileRights.EXECUTE;
      way = way.and(passed ? Verdict.YES : has(at, subjects, search));
    }
    if (style == FileStyle.POSIX) {
      return way.and(posix(path, subjects, right));
    }
    int mask = (int) FileRights.ENTRIES.mask(right);
    Verdict all = way;
    for (int bit = 1; bit != 0; bit <<= 1) {
      if ((mask & bit) != 0) {
        all = all.and(either(has(path, subjects, bit), fromAbove(path, subjects, bit)));
        if (share.isPresent()) {
          all = all.and(ordered(share.get(), subjects, bit));
        }
      }
    }
    return all;
  }

  private static String above(String path) {
    return path.equals("/") ? "" : path.lastIndexOf('/') == 0 ? "/" : cut(path);
  }

  private static String cut(String path) {
    return path.substring(0, path.lastIndexOf('/'));
  }

  private static Verdict either(Verdict a, Verdict b) {
    return a.ordinal() > b.ordinal() ? a : b;
  }

  /** Deleting and reading attributes may come from the folder ([MS-FSA] 2.1.5.1.2.1). */
  private Verdict fromAbove(String path, Set<Integer> subjects, int bit) {
    String folder = above(path);
    int needed =
        bit == FileRights.DELETE
            ? FileRights.DELETE_CHILD
            : bit == FileRights.READ_ATTRIBUTES ? FileRights.READ_DATA : 0;
    return folder.isEmpty() || needed == 0 ? Verdict.NO : has(folder, subjects, needed);
  }

  private Verdict posix(String path, Set<Integer> subjects, int right) {
    boolean folder = lists.get(path).folder();
    String above = above(path);
    return switch (right) {
      case FileRights.POSIX_READ -> has(path, subjects, 4);
      case FileRights.POSIX_WRITE -> has(path, subjects, 2);
      case FileRights.POSIX_EXECUTE -> has(path, subjects, 1);
      case FileRights.POSIX_CREATE -> folder ? has(path, subjects, 3) : Verdict.NO;
      case FileRights.POSIX_DELETE ->
          above.isEmpty() ? Verdict.NO : has(above, subjects, 3).and(unstuck(path, subjects));
      case FileRights.POSIX_CHANGE_MODE -> owns(path, subjects);
      default -> subjects.contains(0) ? Verdict.YES : Verdict.NO;
    };
  }

  /** In a sticky folder only the owner of it, or of what is in it, may take that out. */
  private Verdict unstuck(String path, Set<Integer> subjects) {
    PosixList.Parts folder = lists.get(above(path)).posix();
    Verdict owner = either(owns(path, subjects), owns(above(path), subjects));
    if (folder == null) {
      return owner == Verdict.YES ? owner : Verdict.UNDECIDED;
    }
    return (folder.special() & 1) == 0 ? Verdict.YES : owner;
  }

  private Verdict owns(String path, Set<Integer> subjects) {
    PosixList.Parts parts = lists.get(path).posix();
    if (subjects.contains(0)) {
      return Verdict.YES;
    }
    return parts == null
        ? Verdict.UNDECIDED
        : is(parts.owner(), subjects, false) ? Verdict.YES : Verdict.NO;
  }

  private boolean is(int trustee, Set<Integer> subjects, boolean stranger) {
    if (trustee < 0) {
      return false;
    }
    if (trustee <= accounts) {
      return trustee == 0 || subjects.contains(trustee - 1);
    }
    int group = trustee - accounts - 1;
    return group < 5 ? subjects.contains(firstGroup + group) : stranger;
  }

  private Verdict has(String path, Set<Integer> subjects, int bits) {
    Listed listed = lists.get(path);
    return style == FileStyle.POSIX
        ? mode(listed, subjects, bits)
        : ordered(listed, subjects, bits);
  }

  /** The first that fits decides: superuser, owner, named user, groups together, others. */
  private Verdict mode(Listed listed, Set<Integer> subjects, int bits) {
    PosixList.Parts parts = listed.posix();
    if (subjects.contains(0)) {
      int runs = parts == null ? 0 : parts.ownerMay() | group(parts) | parts.otherMay();
      boolean unknown = parts == null && !listed.folder();
      boolean may = (bits & 1) == 0 || listed.folder() || (runs & 1) != 0;
      return unknown && (bits & 1) != 0 ? Verdict.UNDECIDED : yes(may);
    }
    if (parts == null) {
      return Verdict.UNDECIDED;
    }
    if (is(parts.owner(), subjects, false)) {
      return yes((parts.ownerMay() & bits) == bits);
    }
    if (parts.hidden() != 0) {
      boolean some = (parts.hidden() & bits) == bits || (parts.otherMay() & bits) == bits;
      return some ? Verdict.UNDECIDED : Verdict.NO;
    }
    boolean looked = parts.mask() != 0;
    for (int i = 0; i < parts.users().length && looked; i++) {
      if (is(parts.users()[i], subjects, false)) {
        return yes((parts.userMay()[i] & group(parts) & bits) == bits);
      }
    }
    boolean found = is(parts.group(), subjects, false);
    boolean gives = found && (parts.groupMay() & group(parts) & bits) == bits;
    for (int i = 0; i < parts.groups().length && looked; i++) {
      boolean in = is(parts.groups()[i], subjects, false);
      found |= in;
      gives |= in && (parts.groupsMay()[i] & group(parts) & bits) == bits;
    }
    return yes(found ? gives : (parts.otherMay() & bits) == bits);
  }

  private static int group(PosixList.Parts parts) {
    return parts.mask() < 0 ? parts.groupMay() : parts.mask();
  }

  private static Verdict yes(boolean it) {
    return it ? Verdict.YES : Verdict.NO;
  }

  /** An entry for whoever owns it, that counts here, stands for what owning brings. */
  private static boolean isOfOwner(Ace ace) {
    return ace.trustee().equals(WellKnown.OWNER_RIGHTS) && (ace.flags() & 0x08) == 0;
  }

  /**
   * All outcomes that one bit may have: a condition may hold or not, the stranger be him or not.
   */
  private Verdict ordered(Listed listed, Set<Integer> subjects, int bit) {
    Descriptor descriptor = listed.descriptor();
    if (descriptor == null) {
      return Verdict.UNDECIDED;
    }
    Verdict own =
        listed.owner() >= 0
                && (bit & (FileRights.READ_LIST | FileRights.WRITE_LIST)) != 0
                && descriptor.entries().stream().noneMatch(NaiveFiles::isOfOwner)
            ? yes(is(listed.owner(), subjects, false))
            : Verdict.NO;
    if (descriptor.dacl().isEmpty() || own == Verdict.YES) {
      return Verdict.YES;
    }
    Set<Verdict> outcomes = new TreeSet<>();
    boolean decided = false;
    for (int i = 0; i < descriptor.entries().size() && !decided; i++) {
      Ace ace = descriptor.entries().get(i);
      boolean unknown = ace.type() == org.sobercompass.core.descriptor.AceType.UNKNOWN;
      boolean sure = is(listed.named()[i], subjects, false);
      boolean fits = sure || (listed.open() && is(listed.named()[i], subjects, true));
      boolean inheritOnly = (ace.flags() & 0x08) != 0;
      if (unknown) {
        outcomes.add(Verdict.YES);
        outcomes.add(Verdict.NO);
      } else if (!inheritOnly && fits && (FileRights.mapped(ace.mask()) & bit) != 0) {
        boolean condition =
            ace.type() == org.sobercompass.core.descriptor.AceType.ALLOW_CONDITIONAL
                || ace.type() == org.sobercompass.core.descriptor.AceType.DENY_CONDITIONAL;
        outcomes.add(yes(!ace.denies()));
        decided = sure && !condition;
      }
    }
    if (!decided) {
      outcomes.add(Verdict.NO);
    }
    return outcomes.size() == 1 ? outcomes.iterator().next() : Verdict.UNDECIDED;
  }
}
