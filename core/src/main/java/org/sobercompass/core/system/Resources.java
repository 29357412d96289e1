package org.sobercompass.core.system;

import java.util.List;
import java.util.Optional;

/**
 * A tree of resources, numbered in preorder with siblings by the byte order of their ids: what lies
 * below {@code r} is exactly {@code r + 1} up to {@code end(r)}. Frozen and thread-safe.
 */
public interface Resources {
  /** One resource as it is read: id, name, id of the parent (empty for the root). */
  record Item(String id, String name, String parent) {}

  /**
   * Numbers the items. Exactly one has no parent, every parent is there, and none is below itself
   * (checked by the reader). O(n log n), without recursion.
   */
  static Resources of(List<Item> items) {
    return NamedTree.of(items);
  }

  /** How many there are. */
  int size();

  /** The id of a resource. */
  String id(int resource);

  /** Its name for people. */
  String name(int resource);

  /** The resource above, or -1. */
  int parent(int resource);

  /** The number after the last resource below. */
  int end(int resource);

  /** How many steps from the root. */
  int depth(int resource);

  /** The resource with this id. */
  Optional<Integer> find(String id);

  /** All ids in order; for large trees made one by one. */
  List<String> ids();

  /** Whether {@code lower} is {@code upper} or lies below it. */
  default boolean covers(int upper, int lower) {
    return upper <= lower && lower < end(upper);
  }
}
