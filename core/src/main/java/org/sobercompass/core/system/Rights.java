package org.sobercompass.core.system;

import java.util.List;
import java.util.Optional;

/**
 * The rights of a system, numbered in the byte order of their texts within an area. Frozen and
 * thread-safe.
 */
public interface Rights {
  /** How many there are. */
  int size();

  /** How many words of 64 bits a set of rights takes. */
  default int words() {
    return (size() + 63) >> 6;
  }

  /** The text of a right, unique in the system: {@code area/path:level}. */
  String text(int right);

  /** The right with this text. */
  Optional<Integer> find(String text);

  /** All texts, by number. */
  List<String> texts();

  /** All rights in the byte order of their texts; not to be changed. */
  int[] byText();

  /** The rights that this one contains, itself not among them: the lower levels on its area. */
  List<Integer> contains(int right);

  /** Whether a right is worth no line of its own where others are told. */
  default boolean isMinor(int right) {
    return false;
  }

  /** Whether a right is the most that can be had on its area: the highest level, or an action. */
  boolean isStrongest(int right);
}
