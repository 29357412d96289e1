package org.sobercompass.core.system;

/**
 * The grants of a system as bits that add up: a subject has bits in a few places, several subjects
 * together have the OR of theirs, and what somebody holds everywhere follows from that. So the bits
 * of a group and all groups above it are worked out once, not for each account. It is about one
 * point in time and about memberships that are sure. Frozen and thread-safe.
 */
public interface GrantBits {
  /** How many places there are; in the order of resources. */
  int places();

  /** How many words a place has. */
  int words();

  /** Gives the bits of a subject; a place may come more than once and then adds up. */
  void of(int subject, Places out);

  /** Takes bits of a place. */
  @FunctionalInterface
  interface Places {
    /** The words of one place; valid during the call only. */
    void place(int number, long[] words);
  }

  /**
   * The resource of each place, where the bits of a place are just what is held on that resource
   * and say nothing about any other; else empty.
   */
  int[] plain();

  /** A work space for what is not plain; one a thread. */
  Sweep sweep();

  /** Tells what follows from a sum. Not thread-safe. */
  interface Sweep {
    /**
     * Gives the same cells as {@link Decider#sweep} for a projection of the same subjects; a cell
     * where nothing is held may be left out if nothing above reaches down to it.
     *
     * @param bits the words of the sum
     * @param first the first word of the first place of this system
     * @param touched numbers of places that were touched, ascending; those from {@code from} up to
     *     {@code to} are of this system
     * @param base the number there of the first place of this system
     */
    void run(long[] bits, int first, int[] touched, int from, int to, int base, GrantSink out);
  }
}
