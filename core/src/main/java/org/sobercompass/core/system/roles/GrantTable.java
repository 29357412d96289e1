package org.sobercompass.core.system.roles;

import java.util.Arrays;
import java.util.List;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.system.Grant;

/** The grants of one basis as arrays, with the grants of each subject. Frozen and thread-safe. */
final class GrantTable {
  static final int IMPLICIT_RANK = 0;
  static final int LISTED_RANK = 1;
  static final int ACCOUNT_RANK = 2;
  private static final int SLOT = 4;

  final List<Grant> grants;
  final int[] role;
  final int[] node;
  final int[] subject;
  final byte[] rank;
  final boolean[] descends;
  final boolean[] on;
  final long[] from;
  final long[] until;
  final int[] trustees;
  private final boolean alwaysActive;
  private final int[] slots;
  private final int mask;
  private final int[] bySubject;

  GrantTable(Facts facts, List<Grant> grants, List<Integer> removed) {
    int size = grants.size();
    this.grants = grants;
    role = new int[size];
    node = new int[size];
    subject = new int[size];
    rank = new byte[size];
    descends = new boolean[size];
    on = new boolean[size];
    from = new long[size];
    until = new long[size];
    for (int g = 0; g < size; g++) {
      Grant grant = grants.get(g);
      role[g] = grant.role();
      node[g] = grant.resource();
      subject[g] = grant.counted(facts);
      rank[g] = (byte) rank(facts, grant.subject());
      descends[g] = grant.descends();
      on[g] = grant.on();
      from[g] = grant.from();
      until[g] = grant.until();
    }
    removed.forEach(g -> on[g] = false);
    trustees = Arrays.stream(subject).filter(s -> s >= 0).sorted().distinct().toArray();
    IntList row = new IntList(size);
    IntList number = new IntList(size);
    java.util.BitSet gone = new java.util.BitSet();
    removed.forEach(gone::set);
    boolean always = true;
    for (int g = 0; g < size; g++) {
      if (subject[g] >= 0 && !gone.get(g)) {
        row.add(Arrays.binarySearch(trustees, subject[g]));
        number.add(g);
        always &= on[g] && from[g] == Long.MIN_VALUE && until[g] == Long.MAX_VALUE;
      }
    }
    alwaysActive = always;
    IntRows rows = IntRows.ofPairs(trustees.length, row, number);
    bySubject = rows.rawTargets();
    slots = new int[SLOT * Integer.highestOneBit(Math.max(4, trustees.length) * 2 - 1) * 2];
    mask = slots.length / SLOT - 1;
    Arrays.fill(slots, -1);
    for (int i = 0; i < trustees.length; i++) {
      int slot = slot(trustees[i]);
      slots[slot] = trustees[i];
      slots[slot + 1] = rows.start(i);
      slots[slot + 2] = rows.end(i);
    }
  }

  /**
   * The slot of a subject: subject, start and end of its grants side by side, for one memory line.
   */
  private int slot(int subject) {
    int slot = (subject * 0x9e3779b9 >>> 7) & mask;
    while (slots[slot * SLOT] >= 0 && slots[slot * SLOT] != subject) {
      slot = (slot + 1) & mask;
    }
    return slot * SLOT;
  }

  private static int rank(Facts facts, int subject) {
    if (subject < 0) {
      return LISTED_RANK;
    }
    SubjectKind kind = facts.kind(subject);
    return switch (kind) {
      case ACCOUNT -> ACCOUNT_RANK;
      case GROUP, UNIT -> LISTED_RANK;
      case IMPLICIT -> IMPLICIT_RANK;
    };
  }

  boolean activeAt(int grant, long asOf) {
    return on[grant] && from[grant] <= asOf && asOf < until[grant];
  }

  /** Adds the grants to a subject that hold at a point in time. */
  void collect(int subject, long asOf, IntList into) {
    int slot = slot(subject);
    if (slots[slot] < 0) {
      return;
    }
    for (int at = slots[slot + 1]; at < slots[slot + 2]; at++) {
      int grant = bySubject[at];
      if (alwaysActive || activeAt(grant, asOf)) {
        into.add(grant);
      }
    }
  }

  /** Adds all grants to a subject, whether they hold or not. */
  void collectAll(int subject, IntList into) {
    int slot = slot(subject);
    for (int at = slots[slot] < 0 ? 0 : slots[slot + 1];
        slots[slot] >= 0 && at < slots[slot + 2];
        at++) {
      into.add(bySubject[at]);
    }
  }
}
