package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.Who;

/**
 * A list of 1003.1e, or a mode alone, as Linux decides it: the owner's entry, else the entry of the
 * named user, else the entries of groups, of which one must give all that is asked, else the
 * others'. Of all but owner and others the mask takes away. A mask is what may be done together:
 * bit {@code c} for each of the eight combinations {@code c} of read (4), write (2), execute (1).
 */
public final class PosixList implements FileList {
  /** What read, write and execute are called together, by combination. */
  static final List<String> WORDS =
      List.of(
          "nothing",
          "execute",
          "write",
          "write, execute",
          "read",
          "read, execute",
          "read, write",
          "read, write, execute");

  static final int NO_MASK = -1;

  /** What most programs leave out of what they make: writing for group and others. */
  static final int USUAL_UMASK = 022;

  private static final int FILE_MODE = 0666;
  private static final int FOLDER_MODE = 0777;

  private final int owner;
  private final int group;
  private final int superuser;
  private final int ownerMay;
  private final int groupMay;
  private final int otherMay;
  private final int mask;
  private final int special;
  private final int[] users;
  private final int[] groups;
  private final int[] userMay;
  private final int[] groupsMay;
  private final List<Entry> entries;
  private final List<String> defaults;
  private final int hidden;

  /**
   * What a list is made of; trustees by number, permissions as combinations.
   *
   * @param owner the owner
   * @param group the owning group
   * @param superuser the trustee that may everything, or -1
   * @param ownerMay of the owner
   * @param groupMay of the owning group, before the mask
   * @param otherMay of all others
   * @param mask what named users and all groups may at most, or -1 where there is no mask
   * @param special set-user-id (4), set-group-id (2), sticky (1)
   * @param users named users, and {@code userMay} what each may
   * @param groups named groups, and {@code groupsMay} what each may
   * @param defaults the default list of a folder, as written
   * @param hidden where only the mode was read, the group's permissions: they may be the mask of a
   *     list, under which anybody may have more or less; 0 where there can be none
   */
  public record Parts(
      int owner,
      int group,
      int superuser,
      int ownerMay,
      int groupMay,
      int otherMay,
      int mask,
      int special,
      int[] users,
      int[] userMay,
      int[] groups,
      int[] groupsMay,
      List<String> defaults,
      int hidden) {
    /** The same with other permissions. */
    Parts with(int ofOwner, int ofGroup, int ofOthers, int newMask, Named user, Named inGroup) {
      return new Parts(
          owner,
          group,
          superuser,
          ofOwner,
          ofGroup,
          ofOthers,
          newMask,
          special,
          user.who,
          user.may,
          inGroup.who,
          inGroup.may,
          defaults,
          hidden);
    }

    /** The same with another owner and owning group. */
    Parts owned(int newOwner, int newGroup) {
      return new Parts(
          newOwner, newGroup, superuser, ownerMay, groupMay, otherMay, mask, special, users,
          userMay, groups, groupsMay, defaults, hidden);
    }

    /** The same with another default list. */
    Parts with(List<String> newDefaults) {
      return new Parts(
          owner,
          group,
          superuser,
          ownerMay,
          groupMay,
          otherMay,
          mask,
          special,
          users,
          userMay,
          groups,
          groupsMay,
          newDefaults,
          hidden);
    }
  }

  /**
   * Named users, or named groups, of a list.
   *
   * @param who their trustees, by number
   * @param may what each may
   */
  record Named(int[] who, int[] may) {
    /** One more. */
    Named plus(int trustee, int permissions) {
      int[] more = Arrays.copyOf(who, who.length + 1);
      int[] moreMay = Arrays.copyOf(may, may.length + 1);
      more[who.length] = trustee;
      moreMay[who.length] = permissions;
      return new Named(more, moreMay);
    }
  }

  /** A list of these parts. */
  public PosixList(Parts parts) {
    owner = parts.owner;
    group = parts.group;
    superuser = parts.superuser;
    ownerMay = parts.ownerMay;
    groupMay = parts.groupMay;
    otherMay = parts.otherMay;
    mask = parts.mask;
    special = parts.special;
    users = parts.users.clone();
    userMay = parts.userMay.clone();
    groups = parts.groups.clone();
    groupsMay = parts.groupsMay.clone();
    defaults = List.copyOf(parts.defaults);
    hidden = parts.hidden;
    entries = List.copyOf(describe());
  }

  /** What it is made of. */
  Parts parts() {
    return new Parts(
        owner, group, superuser, ownerMay, groupMay, otherMay, mask, special, users, userMay,
        groups, groupsMay, defaults, hidden);
  }

  /** Of owner, owning group and others the permissions go; a named user or group goes whole. */
  @Override
  public FileList without(int entry) {
    int firstGroup = 3 + users.length;
    int last = entries.size() - 1;
    boolean user = entry > 1 && entry < firstGroup - 1;
    boolean named = entry >= firstGroup && entry < last;
    Parts all = parts();
    return new PosixList(
        all.with(
            entry == 1 ? 0 : ownerMay,
            entry == firstGroup - 1 ? 0 : groupMay,
            entry == last ? 0 : otherMay,
            mask,
            new Named(user ? gone(users, entry - 2) : users, userMay),
            new Named(named ? gone(groups, entry - firstGroup) : groups, groupsMay)));
  }

  private static int[] gone(int[] trustees, int at) {
    int[] left = trustees.clone();
    left[at] = -1;
    return left;
  }

  @Override
  public int owner() {
    return owner;
  }

  /** Whether only owners may take things out of the folder. */
  boolean isSticky() {
    return (special & 1) != 0;
  }

  /** Set-user-id, set-group-id and sticky bit in words, or empty. */
  String specialWords() {
    List<String> words = new ArrayList<>();
    if ((special & 4) != 0) {
      words.add("runs as its owner");
    }
    if ((special & 2) != 0) {
      words.add("set-group-id");
    }
    if ((special & 1) != 0) {
      words.add("sticky");
    }
    return String.join(", ", words);
  }

  boolean setsGroup() {
    return (special & 2) != 0;
  }

  boolean setsUser() {
    return (special & 4) != 0;
  }

  int group() {
    return group;
  }

  List<String> defaults() {
    return defaults;
  }

  /** The group bits of the mode: the mask where there is one. */
  private int groupBits() {
    return mask == NO_MASK ? groupMay : mask;
  }

  /** Whether a list that was not read may decide for others than the owner. */
  boolean mayHideList() {
    return hidden != 0;
  }

  /** Whether the kernel looks at the list at all: it does not where the group bits are empty. */
  private boolean listCounts() {
    return mask == NO_MASK || mask != 0;
  }

  private boolean anyExecute() {
    return ((ownerMay | groupBits() | otherMay) & 1) != 0;
  }

  /** What the superuser may: everything, but run only what anybody may run. */
  static long ofSuperuser(boolean run) {
    return combinations(run ? 7 : 6) | FileRights.OWNS | FileRights.ROOT;
  }

  /** All combinations that lie in these bits. */
  static long combinations(int bits) {
    long all = 0;
    for (int c = 0; c < 8; c++) {
      if ((c & bits) == c) {
        all |= 1L << c;
      }
    }
    return all;
  }

  @Override
  public long mask(Who who, boolean favourable, boolean isFolder) {
    if (who.comes() == 0 || (who.comes() == 1 && !favourable)) {
      return 0;
    }
    if (superuser >= 0 && who.surely(superuser)) {
      return ofSuperuser(isFolder || anyExecute());
    }
    if (who.surely(owner)) {
      return combinations(ownerMay) | FileRights.OWNS;
    }
    if (mayHideList()) {
      return favourable ? combinations(hidden) | combinations(otherMay) : 0;
    }
    if (listCounts()) {
      for (int i = 0; i < users.length; i++) {
        if (who.surely(users[i])) {
          return combinations(userMay[i] & groupBits());
        }
      }
    }
    return byGroups(who, favourable);
  }

  private long byGroups(Who who, boolean favourable) {
    long sure = 0;
    long open = 0;
    long common = -1L;
    boolean found = false;
    boolean perhaps = false;
    for (int i = -1; i < (listCounts() ? groups.length : 0); i++) {
      int trustee = i < 0 ? group : groups[i];
      long gives = combinations((i < 0 ? groupMay : groupsMay[i]) & groupBits());
      if (who.surely(trustee)) {
        found = true;
        sure |= gives;
      } else if (who.onlyPerhaps(trustee)) {
        perhaps = true;
        open |= gives;
        common &= gives;
      }
    }
    long others = combinations(otherMay);
    if (favourable) {
      return sure | open | (found ? 0 : others);
    }
    return found ? sure : perhaps ? others & common : others;
  }

  @Override
  public boolean holds(long masked, long need) {
    return (masked & need) == need;
  }

  @Override
  public BitSet crowd(long need, boolean favourable, boolean isFolder, Members members) {
    BitSet yes = new BitSet();
    BitSet open = (BitSet) members.of(Trustees.EVERYONE, false).clone();
    if (superuser >= 0) {
      decide(ofSuperuser(isFolder || anyExecute()), need, members.of(superuser, false), yes, open);
    }
    decide(combinations(ownerMay) | FileRights.OWNS, need, members.of(owner, false), yes, open);
    if (mayHideList()) {
      boolean may = holds(combinations(hidden), need) || holds(combinations(otherMay), need);
      if (favourable && may) {
        yes.or(open);
      }
      return yes;
    }
    for (int i = 0; i < users.length && listCounts(); i++) {
      long gives = combinations(userMay[i] & groupBits());
      decide(gives, need, members.of(users[i], false), yes, open);
    }
    BitSet inGroups = new BitSet();
    for (int i = -1; i < (listCounts() ? groups.length : 0); i++) {
      BitSet in = (BitSet) members.of(i < 0 ? group : groups[i], false).clone();
      in.and(open);
      inGroups.or(in);
      if (holds(combinations((i < 0 ? groupMay : groupsMay[i]) & groupBits()), need)) {
        yes.or(in);
      }
    }
    open.andNot(inGroups);
    if (holds(combinations(otherMay), need)) {
      yes.or(open);
    }
    return yes;
  }

  private void decide(long gives, long need, BitSet who, BitSet yes, BitSet open) {
    BitSet hit = (BitSet) who.clone();
    hit.and(open);
    if (holds(gives, need)) {
      yes.or(hit);
    }
    open.andNot(hit);
  }

  @Override
  public List<Entry> entries() {
    return entries;
  }

  private List<Entry> describe() {
    List<Entry> all = new ArrayList<>();
    long mode = 1L << FileRights.POSIX_CHANGE_MODE;
    all.add(new Entry(owner, mode, false, "allow", "change-permissions", "", true));
    all.add(entry(owner, ownerMay, 7));
    for (int i = 0; i < users.length; i++) {
      all.add(entry(users[i], userMay[i], listCounts() ? groupBits() : 0));
    }
    all.add(entry(group, groupMay, groupBits()));
    for (int i = 0; i < groups.length; i++) {
      all.add(entry(groups[i], groupsMay[i], listCounts() ? groupBits() : 0));
    }
    all.add(entry(Trustees.EVERYONE, otherMay, 7));
    return all;
  }

  private static Entry entry(int trustee, int may, int limit) {
    if (trustee < 0) {
      return REMOVED;
    }
    int left = may & limit;
    String words = WORDS.get(left);
    if (left != may) {
      words += " (the entry says " + WORDS.get(may) + ")";
    }
    return new Entry(trustee, rights(left), false, "allow", words, "", true);
  }

  /** The rights of an entry where it stands: creating needs write and execute together. */
  private static long rights(int may) {
    long rights = (may & 4) != 0 ? 1L << FileRights.POSIX_READ : 0;
    rights |= (may & 2) != 0 ? 1L << FileRights.POSIX_WRITE : 0;
    rights |= (may & 1) != 0 ? 1L << FileRights.POSIX_EXECUTE : 0;
    return rights | ((may & 3) == 3 ? 1L << FileRights.POSIX_CREATE : 0);
  }

  @Override
  public Reason reason(Who who, long need, boolean isFolder) {
    List<Integer> gives = new ArrayList<>();
    List<Integer> stops = new ArrayList<>();
    if ((need & FileRights.OWNS) != 0) {
      (who.is(owner, true) ? gives : stops).add(0);
      return new Reason(gives, stops);
    }
    if (who.surely(owner)) {
      judge(1, combinations(ownerMay), need, gives, stops);
      return new Reason(gives, stops);
    }
    for (int i = 0; i < users.length && listCounts(); i++) {
      if (who.surely(users[i])) {
        judge(2 + i, combinations(userMay[i] & groupBits()), need, gives, stops);
        return new Reason(gives, stops);
      }
    }
    boolean found = false;
    for (int i = -1; i < (listCounts() ? groups.length : 0); i++) {
      if (who.is(i < 0 ? group : groups[i], true)) {
        found |= who.surely(i < 0 ? group : groups[i]);
        int may = (i < 0 ? groupMay : groupsMay[i]) & groupBits();
        judge(3 + users.length + i, combinations(may), need, gives, stops);
      }
    }
    if (!found) {
      judge(entries.size() - 1, combinations(otherMay), need, gives, stops);
    } else if (!gives.isEmpty()) {
      stops.clear();
    }
    return new Reason(gives, stops);
  }

  private void judge(int entry, long has, long need, List<Integer> gives, List<Integer> stops) {
    (holds(has, need) ? gives : stops).add(entry);
  }

  @Override
  public long part(int entry, long need) {
    return need;
  }

  /** What an entry says and what the mask leaves of it, where that is less. */
  List<int[]> hidden() {
    List<int[]> hidden = new ArrayList<>();
    for (int i = 0; i < users.length; i++) {
      hide(2 + i, userMay[i], hidden);
    }
    hide(2 + users.length, groupMay, hidden);
    for (int i = 0; i < groups.length; i++) {
      hide(3 + users.length + i, groupsMay[i], hidden);
    }
    return hidden;
  }

  private void hide(int entry, int may, List<int[]> hidden) {
    if (mask != NO_MASK && (may & ~mask) != 0) {
      hidden.add(new int[] {entry, may, may & mask});
    }
  }

  /**
   * The list of something made in this folder, as text: of a default list the permissions that the
   * mode asked for has too (the umask does not count then), else the mode without the umask
   * (1003.1e 23.3.2).
   */
  String made(Trustees trustees, boolean isFolder, int umask) {
    int mode = isFolder ? FOLDER_MODE : FILE_MODE;
    String whose = setsGroup() ? ", group " + trustees.label(group) : "";
    if (defaults.isEmpty()) {
      int left = mode & ~umask;
      return "user::"
          + may(left >> 6)
          + ", group::"
          + may(left >> 3)
          + ", other::"
          + may(left)
          + whose;
    }
    boolean masked = defaults.stream().anyMatch(d -> d.startsWith("mask"));
    List<String> entries = new ArrayList<>();
    for (String entry : defaults) {
      int last = entry.lastIndexOf(':');
      String who = entry.substring(0, last + 1);
      int limit =
          switch (who) {
            case "user::" -> mode >> 6;
            case "other::" -> mode;
            case "mask::" -> mode >> 3;
            case "group::" -> masked ? 7 : mode >> 3;
            default -> 7;
          };
      entries.add(who + may(bits(entry.substring(last + 1)) & limit));
    }
    return String.join(", ", entries) + whose;
  }

  static int bits(String text) {
    return (text.indexOf('r') >= 0 ? 4 : 0)
        | (text.indexOf('w') >= 0 ? 2 : 0)
        | (text.indexOf('x') >= 0 ? 1 : 0);
  }

  static String may(int bits) {
    return ((bits & 4) != 0 ? "r" : "-")
        + ((bits & 2) != 0 ? "w" : "-")
        + ((bits & 1) != 0 ? "x" : "-");
  }
}
