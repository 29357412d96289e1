package org.sobercompass.core.facts;

import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.store.Texts;

/** Numbers the rows of a builder in the order of their keys and lays their fields out in it. */
final class FactsOrder {
  final FactsBuilder builder;
  final int accounts;
  final int groups;
  final int units;
  private final int[] rank;
  private final Integer[] sorted;
  private final List<String> names;
  private final int[] number;

  /**
   * @param names the sources, sorted
   * @param rank the place of each source in {@code names}, by its number
   */
  FactsOrder(FactsBuilder builder, List<String> names, int[] rank) {
    this.builder = builder;
    this.names = names;
    this.rank = rank;
    sorted = new Integer[builder.rows.size()];
    Arrays.setAll(sorted, i -> i);
    Comparator<Integer> byKind = Comparator.comparing(i -> row(i).kind());
    Arrays.parallelSort(
        sorted,
        byKind
            .thenComparing(Comparator.comparingInt(this::sourceRank))
            .thenComparing((a, b) -> Key.compareUtf8(row(a).id(), row(b).id())));
    int[] count = new int[SubjectKind.values().length];
    builder.rows.forEach(row -> count[row.kind().ordinal()]++);
    accounts = count[SubjectKind.ACCOUNT.ordinal()];
    groups = count[SubjectKind.GROUP.ordinal()];
    units = count[SubjectKind.UNIT.ordinal()];
    number = new int[sorted.length];
    for (int i = 0; i < sorted.length; i++) {
      number[sorted[i]] = place(i);
    }
  }

  int subjects() {
    return sorted.length + Implicit.values().length;
  }

  /** The final number of a row. */
  int number(int row) {
    return number[row];
  }

  void duplicates(Problems problems) {
    for (int i = 1; i < sorted.length; i++) {
      SubjectRow a = row(sorted[i - 1]);
      SubjectRow b = row(sorted[i]);
      boolean sameSource = sourceRank(sorted[i - 1]) == sourceRank(sorted[i]);
      if (sameSource && a.kind() == b.kind() && a.id().equals(b.id())) {
        builder.duplicate(new Key(b.kind().keyKind(), source(sorted[i]), b.id()), b.dn());
      }
    }
  }

  byte[] source() {
    byte[] out = new byte[subjects()];
    Arrays.fill(out, (byte) -1);
    for (int row = 0; row < sorted.length; row++) {
      out[number[row]] = (byte) sourceRank(row);
    }
    return out;
  }

  byte[] flags() {
    byte[] out = new byte[subjects()];
    for (int row = 0; row < sorted.length; row++) {
      out[number[row]] = (byte) (row(row).flags() | builder.laterFlags.getOrDefault(row, 0));
    }
    return out;
  }

  long[] expires() {
    long[] out = new long[accounts];
    for (int row = 0; row < sorted.length; row++) {
      if (number[row] < accounts) {
        out[number[row]] = row(row).expires();
      }
    }
    return out;
  }

  /** Times that few accounts have, in final order; {@link Facts#NEVER} for the others. */
  long[] times(Map<Integer, Long> byRow) {
    long[] out = new long[accounts];
    Arrays.fill(out, Facts.NEVER);
    byRow.forEach(
        (row, at) -> {
          if (number[row] < accounts) {
            out[number[row]] = at;
          }
        });
    return out;
  }

  /** Ids, DNs, canonical DNs, logins, display names and mail addresses, in final order. */
  Texts[] texts() {
    Texts.Builder[] out = new Texts.Builder[6];
    Arrays.setAll(out, i -> Texts.builder(subjects()));
    for (int i = 0; i < sorted.length; i++) {
      if (place(i) != i && (i == 0 || place(i - 1) == i - 1)) {
        implicitTexts(out);
      }
      SubjectRow row = row(sorted[i]);
      out[0].add(row.id());
      out[1].add(row.dn());
      out[2].add(row.dnForm());
      out[3].add(row.login());
      out[4].add(row.display());
      out[5].add(row.mail());
    }
    if (out[0].size() < subjects()) {
      implicitTexts(out);
    }
    return Arrays.stream(out).map(Texts.Builder::build).toArray(Texts[]::new);
  }

  /** Rows of (subject, code) pairs that were collected by row, in final order. */
  IntRows renumber(IntList rows, IntList codes) {
    IntList subjects = new IntList(rows.size());
    for (int i = 0; i < rows.size(); i++) {
      subjects.add(number[rows.get(i)]);
    }
    return IntRows.ofPairs(subjects(), subjects, codes);
  }

  private void implicitTexts(Texts.Builder[] out) {
    for (Implicit group : Implicit.values()) {
      out[0].add(group.id());
      for (int i = 1; i < out.length; i++) {
        out[i].add("");
      }
    }
  }

  private int place(int i) {
    return i < accounts + groups ? i : i + Implicit.values().length;
  }

  private SubjectRow row(int i) {
    return builder.rows.get(i);
  }

  private int sourceRank(int row) {
    return rank[builder.rowSource.get(row)];
  }

  private String source(int row) {
    return names.get(sourceRank(row));
  }
}
