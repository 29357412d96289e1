package org.sobercompass.core.system;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A tree of resources, numbered in preorder with siblings by the byte order of their ids: what lies
 * below {@code r} is exactly {@code r + 1} up to {@code end(r)}. Frozen and thread-safe.
 */
public final class Resources {
  private final String[] ids;
  private final String[] names;
  private final int[] parent;
  private final int[] end;
  private final int[] depth;
  private final Map<String, Integer> byId;

  /** One resource as it is read: id, name, id of the parent (empty for the root). */
  public record Item(String id, String name, String parent) {}

  private Resources(int size) {
    ids = new String[size];
    names = new String[size];
    parent = new int[size];
    end = new int[size];
    depth = new int[size];
    byId = new HashMap<>(size * 2);
  }

  /**
   * Numbers the items. Exactly one has no parent, every parent is there, and none is below itself
   * (checked by the reader). O(n log n), without recursion.
   */
  public static Resources of(List<Item> items) {
    Map<String, List<Item>> children = new HashMap<>();
    for (Item item : items) {
      children.computeIfAbsent(item.parent(), p -> new ArrayList<>()).add(item);
    }
    children
        .values()
        .forEach(
            list -> list.sort((a, b) -> org.sobercompass.core.key.Key.compareUtf8(b.id(), a.id())));
    Resources made = new Resources(items.size());
    List<Item> open = new ArrayList<>(children.getOrDefault("", List.of()));
    int next = 0;
    while (!open.isEmpty()) {
      Item item = open.remove(open.size() - 1);
      made.place(next++, item);
      open.addAll(children.getOrDefault(item.id(), List.of()));
    }
    if (next != items.size()) {
      throw new IllegalArgumentException("some resources are not below the root");
    }
    for (int r = next - 1; r > 0; r--) {
      made.end[made.parent[r]] = Math.max(made.end[made.parent[r]], made.end[r]);
    }
    return made;
  }

  private void place(int number, Item item) {
    ids[number] = item.id();
    names[number] = item.name();
    parent[number] = item.parent().isEmpty() ? -1 : byId.getOrDefault(item.parent(), -1);
    depth[number] = parent[number] < 0 ? 0 : depth[parent[number]] + 1;
    end[number] = number + 1;
    byId.put(item.id(), number);
  }

  /** How many there are. */
  public int size() {
    return ids.length;
  }

  /** The id of a resource. */
  public String id(int resource) {
    return ids[resource];
  }

  /** Its name for people. */
  public String name(int resource) {
    return names[resource];
  }

  /** The resource above, or -1. */
  public int parent(int resource) {
    return parent[resource];
  }

  /** The number after the last resource below. */
  public int end(int resource) {
    return end[resource];
  }

  /** How many steps from the root. */
  public int depth(int resource) {
    return depth[resource];
  }

  /** Whether {@code lower} is {@code upper} or lies below it. */
  public boolean covers(int upper, int lower) {
    return upper <= lower && lower < end[upper];
  }

  /** The resource with this id. */
  public Optional<Integer> find(String id) {
    return Optional.ofNullable(byId.get(id));
  }

  /** All ids in order. */
  public List<String> ids() {
    return List.of(ids);
  }
}
