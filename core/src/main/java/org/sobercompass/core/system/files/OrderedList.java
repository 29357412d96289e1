package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Set;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType.Effect;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.Who;

/**
 * A list whose entries allow and deny, in the order as stored: of each right the first entry that
 * speaks of it decides ([MS-DTYP] 2.5.3.2; RFC 7530 section 6.2.1). Computed for all rights at
 * once, as {@code MAXIMUM_ALLOWED} is. O(entries).
 */
final class OrderedList implements FileList {
  private static final Set<String> OF_OWNER = Set.of(WellKnown.OWNER_RIGHTS, "OWNER@");
  private static final Set<String> OF_GROUP = Set.of("GROUP@", "GROUP@ (g)");
  private static final int OWNER_MAY = FileRights.READ_LIST | FileRights.WRITE_LIST;

  final Descriptor descriptor;
  private final int owner;
  private final boolean noList;
  private final int[] trustee;
  private final int[] mask;
  private final Effect[] effect;
  private final boolean[] counts;
  private final int ownerMay;
  private final List<Entry> entries;

  /**
   * A list.
   *
   * @param descriptor as stored
   * @param trustees the numbers of the trustees of its entries, in order; the owner's for an entry
   *     that speaks of whoever owns it
   * @param isShare whether it is a share's, which nobody owns
   */
  OrderedList(Descriptor descriptor, int owner, int[] trustees, boolean isShare) {
    this.descriptor = descriptor;
    this.owner = owner;
    this.noList = descriptor.dacl().isEmpty();
    int size = descriptor.entries().size();
    trustee = trustees.clone();
    mask = new int[size];
    effect = new Effect[size];
    counts = new boolean[size];
    boolean limited = isShare || owner < 0;
    for (int i = 0; i < size; i++) {
      Ace ace = descriptor.entries().get(i);
      mask[i] = FileRights.mapped(ace.mask()) & FileRights.FULL;
      effect[i] = ace.type().effect();
      counts[i] = ace.countsHere() && effect[i] != Effect.NONE && trustee[i] >= 0;
      if (effect[i] == Effect.UNKNOWN) {
        mask[i] = FileRights.FULL;
        counts[i] = true;
        trustee[i] = Trustees.EVERYONE;
      }
      limited |= ace.countsHere() && ace.trustee().equals(WellKnown.OWNER_RIGHTS);
    }
    ownerMay = limited ? 0 : OWNER_MAY;
    entries = List.copyOf(describe());
  }

  private List<Entry> describe() {
    List<Entry> all = new ArrayList<>();
    long own = noList ? FileRights.FULL : ownerMay;
    all.add(
        new Entry(
            noList ? Trustees.EVERYONE : owner,
            FileRights.ENTRIES.touching(own),
            false,
            "allow",
            noList ? "full, for want of a list" : FileRights.ENTRIES.words(own),
            "",
            own != 0));
    for (int i = 0; i < mask.length; i++) {
      Ace ace = descriptor.entries().get(i);
      all.add(
          new Entry(
              trustee[i],
              FileRights.ENTRIES.touching(mask[i]),
              ace.denies(),
              effectWord(effect[i]),
              effect[i] == Effect.UNKNOWN ? "unknown" : FileRights.ENTRIES.words(mask[i]),
              reach(ace),
              counts[i]));
    }
    return all;
  }

  private static String effectWord(Effect effect) {
    return switch (effect) {
      case ALLOW -> "allow";
      case DENY -> "deny";
      case PERHAPS_ALLOW -> "allow on a condition";
      case PERHAPS_DENY -> "deny on a condition";
      case UNKNOWN -> "unknown";
      case NONE -> "no access";
    };
  }

  static String reach(Ace ace) {
    if (!ace.isHandedOn()) {
      return "";
    }
    boolean folders = (ace.flags() & Ace.CHILDREN) != 0;
    boolean files = (ace.flags() & Ace.OBJECTS) != 0;
    String to = folders && files ? "all" : folders ? "folders" : "files";
    return (ace.countsHere() ? "and " : "only ")
        + to
        + ((ace.flags() & Ace.NEXT_ONLY) == 0 ? " below" : " directly in it");
  }

  /** The same of another owner; what speaks of whoever owns it speaks of that one. */
  OrderedList ownedBy(String sid, int newOwner) {
    return with(descriptor.ownedBy(sid), newOwner, OF_OWNER, newOwner);
  }

  /** The same with another owning group, where lists have one. */
  OrderedList groupedBy(String group, int newGroup) {
    return with(descriptor.groupedBy(group), owner, OF_GROUP, newGroup);
  }

  /** With another trustee in the place of those entries that speak of one of these. */
  private OrderedList with(Descriptor of, int ofOwner, Set<String> spoken, int other) {
    int[] trustees = trustee.clone();
    for (int i = 0; i < trustees.length; i++) {
      boolean speaks = spoken.contains(descriptor.entries().get(i).trustee());
      trustees[i] = speaks ? other : trustees[i];
    }
    FileList owned = new OrderedList(of, ofOwner, trustees, false);
    for (int i = 0; i < trustees.length; i++) {
      // What a preview took out stays out.
      owned = isRemoved(i) ? owned.without(i + 1) : owned;
    }
    return (OrderedList) owned;
  }

  private OrderedList(OrderedList from, int without) {
    descriptor = from.descriptor;
    owner = from.owner;
    noList = from.noList;
    trustee = from.trustee;
    mask = from.mask;
    effect = from.effect;
    counts = from.counts.clone();
    counts[without - 1] = false;
    ownerMay = from.ownerMay;
    List<Entry> left = new ArrayList<>(from.entries);
    left.set(without, REMOVED);
    entries = List.copyOf(left);
  }

  /** Another with one more entry, before the one that has a number. */
  private OrderedList(OrderedList from, int at, Ace ace, int of) {
    List<Ace> more = new ArrayList<>(from.descriptor.entries());
    more.add(at, ace);
    OrderedList fresh =
        new OrderedList(from.descriptor.with(more), from.owner, put(from.trustee, at, of), false);
    descriptor = fresh.descriptor;
    owner = fresh.owner;
    noList = fresh.noList;
    trustee = fresh.trustee;
    mask = fresh.mask;
    effect = fresh.effect;
    counts = fresh.counts;
    ownerMay = fresh.ownerMay;
    List<Entry> all = new ArrayList<>(fresh.entries);
    for (int i = 0; i < from.counts.length; i++) {
      // What a preview took out stays out.
      int now = i < at ? i : i + 1;
      counts[now] &= from.counts[i];
      if (from.entries.get(i + 1) == REMOVED) {
        all.set(now + 1, REMOVED);
      }
    }
    entries = List.copyOf(all);
  }

  private static int[] put(int[] numbers, int at, int number) {
    int[] more = new int[numbers.length + 1];
    System.arraycopy(numbers, 0, more, 0, at);
    more[at] = number;
    System.arraycopy(numbers, at, more, at + 1, numbers.length - at);
    return more;
  }

  /** The same with one more entry, before the one that has a number. */
  OrderedList with(int at, Ace ace, int trusteeOf) {
    return new OrderedList(this, at, ace, trusteeOf);
  }

  /** Whether an entry is taken out in a preview. */
  boolean isRemoved(int entry) {
    return entries.get(entry + 1) == REMOVED;
  }

  /** The descriptor without the entries that a preview takes out. */
  Descriptor left() {
    List<Ace> left = new ArrayList<>();
    for (int i = 0; i < descriptor.entries().size(); i++) {
      if (!isRemoved(i)) {
        left.add(descriptor.entries().get(i));
      }
    }
    return left.size() == descriptor.entries().size() ? descriptor : descriptor.with(left);
  }

  @Override
  public FileList without(int entry) {
    return new OrderedList(this, entry);
  }

  @Override
  public int owner() {
    return owner;
  }

  @Override
  public long mask(Who who, boolean favourable, boolean isFolder) {
    if (who.comes() == 0 || (who.comes() == 1 && !favourable)) {
      return 0;
    }
    if (noList) {
      return FileRights.FULL;
    }
    int yes = owner >= 0 && ownerMay != 0 && who.is(owner, favourable) ? ownerMay : 0;
    int open = FileRights.FULL & ~yes;
    for (int i = 0; i < mask.length && open != 0; i++) {
      if (counts[i] && (mask[i] & open) != 0) {
        boolean gives = gives(i, favourable);
        boolean takes = takes(i, favourable);
        if ((gives || takes) && who.is(trustee[i], favourable == gives)) {
          yes |= gives ? mask[i] & open : 0;
          open &= ~mask[i];
        }
      }
    }
    return yes;
  }

  private boolean gives(int entry, boolean favourable) {
    return effect[entry] == Effect.ALLOW
        || (favourable
            && (effect[entry] == Effect.PERHAPS_ALLOW || effect[entry] == Effect.UNKNOWN));
  }

  private boolean takes(int entry, boolean favourable) {
    return effect[entry] == Effect.DENY
        || (!favourable
            && (effect[entry] == Effect.PERHAPS_DENY || effect[entry] == Effect.UNKNOWN));
  }

  @Override
  public boolean holds(long mask, long need) {
    return (mask & need) == need;
  }

  @Override
  public BitSet crowd(long need, boolean favourable, boolean isFolder, Members members) {
    BitSet all = (BitSet) members.of(Trustees.EVERYONE, false).clone();
    if (noList) {
      return all;
    }
    for (long left = need; left != 0; left &= left - 1) {
      all.and(one((int) Long.lowestOneBit(left), favourable, members));
    }
    return all;
  }

  private BitSet one(int bit, boolean favourable, Members members) {
    BitSet yes = new BitSet();
    BitSet open = (BitSet) members.of(Trustees.EVERYONE, false).clone();
    if (owner >= 0 && (ownerMay & bit) != 0) {
      yes.or(members.of(owner, favourable));
      yes.and(open);
      open.andNot(yes);
    }
    for (int i = 0; i < mask.length && !open.isEmpty(); i++) {
      boolean gives = gives(i, favourable);
      if (counts[i] && (mask[i] & bit) != 0 && (gives || takes(i, favourable))) {
        BitSet hit = (BitSet) members.of(trustee[i], favourable == gives).clone();
        hit.and(open);
        if (gives) {
          yes.or(hit);
        }
        open.andNot(hit);
      }
    }
    return yes;
  }

  @Override
  public List<Entry> entries() {
    return entries;
  }

  @Override
  public Reason reason(Who who, long need, boolean isFolder) {
    List<Integer> gives = new ArrayList<>();
    List<Integer> stops = new ArrayList<>();
    if (noList || (owner >= 0 && (ownerMay & need) != 0 && who.is(owner, true))) {
      gives.add(0);
    }
    long open = need;
    for (int i = 0; i < mask.length; i++) {
      if (counts[i] && (mask[i] & open) != 0 && who.is(trustee[i], true)) {
        if (gives(i, true)) {
          gives.add(i + 1);
        } else {
          stops.add(i + 1);
          open &= takes(i, true) ? ~mask[i] : -1L;
        }
      }
    }
    return new Reason(gives, stops);
  }

  @Override
  public long part(int entry, long need) {
    if (entry == 0) {
      return noList ? need : ownerMay & need;
    }
    return mask[entry - 1] & need;
  }
}
