package org.sobercompass.core.system.roles;

import java.util.Arrays;
import java.util.List;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.store.IntTable;
import org.sobercompass.core.system.Grant;

/** The grants of one basis as arrays, with the grants of each subject. Frozen and thread-safe. */
final class GrantTable {
  static final int IMPLICIT_RANK = 0;
  static final int LISTED_RANK = 1;
  static final int ACCOUNT_RANK = 2;

  final List<Grant> grants;
  final int[] role;
  final int[] node;
  final byte[] rank;
  final boolean[] descends;
  final boolean[] on;
  final long[] from;
  final long[] until;
  final int[] trustees;
  private final IntTable rowOf;
  private final IntRows rows;

  GrantTable(Facts facts, List<Grant> grants, List<Integer> removed) {
    int size = grants.size();
    this.grants = grants;
    role = new int[size];
    node = new int[size];
    rank = new byte[size];
    descends = new boolean[size];
    on = new boolean[size];
    from = new long[size];
    until = new long[size];
    for (int g = 0; g < size; g++) {
      Grant grant = grants.get(g);
      role[g] = grant.role();
      node[g] = grant.resource();
      rank[g] = (byte) rank(facts, grant.subject());
      descends[g] = grant.descends();
      on[g] = grant.on();
      from[g] = grant.from();
      until[g] = grant.until();
    }
    removed.forEach(g -> on[g] = false);
    trustees =
        grants.stream().mapToInt(Grant::subject).filter(s -> s >= 0).sorted().distinct().toArray();
    rowOf = new IntTable(trustees.length);
    for (int i = 0; i < trustees.length; i++) {
      rowOf.put(trustees[i], i);
    }
    IntList row = new IntList(size);
    IntList number = new IntList(size);
    for (int g = 0; g < size; g++) {
      if (grants.get(g).subject() >= 0 && !removed.contains(g)) {
        row.add(Arrays.binarySearch(trustees, grants.get(g).subject()));
        number.add(g);
      }
    }
    rows = IntRows.ofPairs(trustees.length, row, number);
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
    int row = rowOf.get(subject);
    if (row >= 0) {
      for (int at = rows.start(row); at < rows.end(row); at++) {
        int grant = rows.at(at);
        if (activeAt(grant, asOf)) {
          into.add(grant);
        }
      }
    }
  }

  /** Adds all grants to a subject, whether they hold or not. */
  void collectAll(int subject, IntList into) {
    int row = rowOf.get(subject);
    for (int at = row < 0 ? 0 : rows.start(row); row >= 0 && at < rows.end(row); at++) {
      into.add(rows.at(at));
    }
  }
}
