package org.sobercompass.core.facts;

import java.util.Arrays;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.store.IntRows;

/**
 * Who is listed where, both ways: the groups of each subject and the members of each group, and how
 * each is listed. Rows ascend. What is seen from the groups is made when it is first asked for: a
 * question about one account does without. Thread-safe; 10 bytes a membership, 5 before that.
 */
public final class MembershipRows {
  private final IntRows up;
  private final byte[] upVia;
  private final Supplier<Down> source;

  /** One bit for each kind of membership that there is. */
  private final int kinds;

  private volatile @Nullable Down down;

  /**
   * The members of each subject.
   *
   * @param rows the members, ascending; one that is listed in several ways is there several times
   * @param via how, for each item of the rows, in the order of {@link Via}
   */
  public record Down(IntRows rows, byte[] via) {}

  /**
   * Wraps arrays, which must not be changed afterwards.
   *
   * @param up the groups of each subject, ascending, then by how
   * @param upVia how, for each item of {@code up}
   */
  public MembershipRows(IntRows up, byte[] upVia) {
    this(up, upVia, () -> turned(up, upVia));
  }

  /** The same where the members of each subject are to be had from elsewhere, when asked for. */
  public MembershipRows(IntRows up, byte[] upVia, Supplier<Down> down) {
    this.up = up;
    this.upVia = upVia;
    this.source = down;
    int kinds = 0;
    for (byte via : upVia) {
      kinds |= 1 << via;
    }
    this.kinds = kinds;
  }

  /** Whether anybody is in a group in this way. */
  public boolean isAny(Via via) {
    return (kinds >> via.ordinal() & 1) != 0;
  }

  /** The groups of each subject. */
  public IntRows up() {
    return up;
  }

  /** How, for each item of {@link #up}. */
  public byte[] upVia() {
    return upVia;
  }

  /** The members of each subject, and how they are listed. O(memberships) at the first call. */
  public Down down() {
    Down known = down;
    return known == null ? made() : known;
  }

  private synchronized Down made() {
    Down known = down;
    if (known == null) {
      known = source.get();
      down = known;
    }
    return known;
  }

  /** The same memberships seen from the other end. O(subjects + memberships). */
  public static Down turned(IntRows up, byte[] upVia) {
    int rows = up.rows();
    int[] offsets = new int[rows + 1];
    for (int at = 0; at < up.items(); at++) {
      offsets[up.at(at) + 1]++;
    }
    for (int r = 0; r < rows; r++) {
      offsets[r + 1] += offsets[r];
    }
    int[] next = Arrays.copyOf(offsets, rows);
    int[] members = new int[up.items()];
    byte[] vias = new byte[up.items()];
    for (int member = 0; member < rows; member++) {
      for (int at = up.start(member); at < up.end(member); at++) {
        int to = next[up.at(at)]++;
        members[to] = member;
        vias[to] = upVia[at];
      }
    }
    return new Down(new IntRows(offsets, members), vias);
  }
}
