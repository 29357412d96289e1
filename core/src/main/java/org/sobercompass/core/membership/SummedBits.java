package org.sobercompass.core.membership;

import java.util.ArrayDeque;
import java.util.BitSet;
import java.util.Deque;
import java.util.Optional;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.store.BlockRows;
import org.sobercompass.core.store.BlockSum;

/**
 * Bits of subjects, summed over all that a subject counts as: for a group over the groups above it,
 * for an organizational unit over the units above it. What an account counts as for sure then has
 * the sum of its own bits and those of the few groups that list it. Frozen and thread-safe. Made in
 * O(sums); memory: 12 bytes a word of them.
 */
public final class SummedBits {
  private static final int WORDS_PER_GROUP = 512;

  /** More words than this are not kept, whatever the number of groups: 2 GiB. */
  private static final long MOST_WORDS = 1L << 28;

  private final Memberships memberships;
  private final Facts facts;
  private final BlockRows sums;
  private final boolean withUnits;

  private SummedBits(Memberships memberships, BlockRows sums) {
    this.memberships = memberships;
    this.facts = memberships.graph().facts();
    this.sums = sums;
    this.withUnits = memberships.profile().counts().contains(Via.CONTAINER);
  }

  /**
   * Sums the bits of subjects.
   *
   * @param own one row a subject
   * @param start the first word of each block
   * @return empty where the groups above each group are not kept, or would have too many words
   *     together: a caller then walks
   */
  public static Optional<SummedBits> of(Memberships memberships, BlockRows own, int[] start) {
    Optional<GroupClosures> closures = memberships.closures();
    if (closures.isEmpty()) {
      return Optional.empty();
    }
    Facts facts = memberships.graph().facts();
    BlockRows sums = new BlockRows(facts.subjects());
    BlockSum sum = new BlockSum(start);
    long most =
        Math.min(MOST_WORDS, own.size() + (long) WORDS_PER_GROUP * facts.groups() + (1 << 20));
    for (int subject = 0; subject < facts.subjects(); subject++) {
      if (!addAbove(memberships, closures.get(), own, subject, sum) || sums.size() > most) {
        return Optional.empty();
      }
      int count = sum.touched();
      for (int i = 0; i < count; i++) {
        int block = sum.list()[i];
        int words = start[block + 1] - start[block];
        sums.add(block, start[block], sum.bits(), start[block], words);
      }
      sum.empty(0, count);
      sums.endRow();
    }
    return Optional.of(new SummedBits(memberships, sums));
  }

  /** Adds the bits of a subject and of all above it; false when the groups above are not kept. */
  private static boolean addAbove(
      Memberships memberships, GroupClosures closures, BlockRows own, int subject, BlockSum sum) {
    Facts facts = memberships.graph().facts();
    switch (facts.kind(subject)) {
      case GROUP -> {
        int from = closures.start(subject);
        int to = closures.end(subject);
        for (int at = from; at < to; at++) {
          sum.add(own, closures.groups()[at]);
        }
        return from < to;
      }
      case UNIT -> {
        for (int unit = subject; unit >= 0; unit = facts.container(unit)) {
          if (memberships.visibility().sees(unit)) {
            sum.add(own, unit);
          }
        }
        return true;
      }
      default -> {
        sum.add(own, subject);
        return true;
      }
    }
  }

  /** Adds the bits of all that an account counts as for sure; false when it is not surely seen. */
  public boolean add(int account, BlockSum into) {
    if (!memberships.visibility().sees(account)) {
      return false;
    }
    into.add(sums, account);
    memberships.addDirect(account, sums, into);
    if (withUnits) {
      int unit = facts.container(account);
      if (unit >= 0) {
        into.add(sums, unit);
      }
    }
    return true;
  }

  /** Adds the bits of one subject and of what it counts as. */
  public void addSubject(int subject, BlockSum into) {
    into.add(sums, subject);
  }

  /**
   * The subjects that some account counts as perhaps and not surely; empty when nothing is
   * undecided. O(memberships).
   */
  public static BitSet undecided(Memberships memberships) {
    BitSet found = new BitSet();
    if (memberships.isCertain()) {
      return found;
    }
    Facts facts = memberships.graph().facts();
    Visibility visibility = memberships.visibility();
    Deque<Integer> todo = new ArrayDeque<>();
    for (int subject = 0; subject < facts.subjects(); subject++) {
      if (visibility.perhapsSees(subject) || memberships.isOpen(subject)) {
        found.set(subject);
        todo.add(subject);
      }
      for (int i = 0; i < memberships.graph().upCount(subject); i++) {
        int group = memberships.graph().upGroup(subject, i);
        boolean perhaps =
            memberships.countsPerhaps(subject, i, group)
                && !(visibility.sees(group) && memberships.counts(subject, i, group));
        if (perhaps && !found.get(group)) {
          found.set(group);
          todo.add(group);
        }
      }
    }
    while (!todo.isEmpty()) {
      int subject = todo.remove();
      for (int unit = facts.container(subject); unit >= 0; unit = facts.container(unit)) {
        found.set(unit);
      }
      for (int i = 0; i < memberships.graph().upCount(subject); i++) {
        int group = memberships.graph().upGroup(subject, i);
        if (memberships.countsPerhaps(subject, i, group) && !found.get(group)) {
          found.set(group);
          todo.add(group);
        }
      }
    }
    return found;
  }
}
