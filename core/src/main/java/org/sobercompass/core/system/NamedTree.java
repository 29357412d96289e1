package org.sobercompass.core.system;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** A tree of resources with ids of their own, kept as texts. Frozen and thread-safe. */
final class NamedTree implements Resources {
  private final String[] ids;
  private final String[] names;
  private final int[] parent;
  private final int[] end;
  private final int[] depth;
  private final Map<String, Integer> byId;

  private NamedTree(int size) {
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
  static NamedTree of(List<Item> items) {
    Map<String, List<Item>> children = new HashMap<>();
    for (Item item : items) {
      children.computeIfAbsent(item.parent(), p -> new ArrayList<>()).add(item);
    }
    children
        .values()
        .forEach(
            list -> list.sort((a, b) -> org.sobercompass.core.key.Key.compareUtf8(b.id(), a.id())));
    NamedTree made = new NamedTree(items.size());
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

  @Override
  public int size() {
    return ids.length;
  }

  @Override
  public String id(int resource) {
    return ids[resource];
  }

  @Override
  public String name(int resource) {
    return names[resource];
  }

  @Override
  public int parent(int resource) {
    return parent[resource];
  }

  @Override
  public int end(int resource) {
    return end[resource];
  }

  @Override
  public int depth(int resource) {
    return depth[resource];
  }

  @Override
  public Optional<Integer> find(String id) {
    return Optional.ofNullable(byId.get(id));
  }

  @Override
  public List<String> ids() {
    return List.of(ids);
  }
}
