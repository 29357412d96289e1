package org.sobercompass.core.system;

import java.nio.charset.StandardCharsets;
import java.util.AbstractList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.store.TextTable;
import org.sobercompass.core.store.Texts;

/**
 * A tree of paths, for a million files: each folder and file keeps the number of its name, the
 * folder above and where it ends; a path is put together when it is asked for. The root is {@code
 * /}. Frozen and thread-safe. Memory: 12 bytes a path, and each distinct name once. Finding a path
 * looks over the children of each folder on the way.
 */
public final class PathTree implements Resources {
  private final Texts names;
  private final int[] name;
  private final int[] parent;
  private final int[] end;

  private PathTree(Texts names, int[] name, int[] parent, int[] end) {
    this.names = names;
    this.name = name;
    this.parent = parent;
    this.end = end;
  }

  @Override
  public int size() {
    return parent.length;
  }

  @Override
  public String id(int resource) {
    if (resource == 0) {
      return "/";
    }
    int[] way = new int[depth(resource)];
    int at = resource;
    for (int i = way.length - 1; i >= 0; i--) {
      way[i] = at;
      at = parent[at];
    }
    StringBuilder id = new StringBuilder();
    for (int step : way) {
      id.append('/').append(names.get(name[step]));
    }
    return id.toString();
  }

  /** The whole path: a name alone says too little. */
  @Override
  public String name(int resource) {
    return id(resource);
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
    int depth = 0;
    for (int at = resource; at > 0; at = parent[at]) {
      depth++;
    }
    return depth;
  }

  @Override
  public Optional<Integer> find(String id) {
    int at = 0;
    for (String step : id.split("/")) {
      if (!step.isEmpty()) {
        byte[] wanted = step.getBytes(StandardCharsets.UTF_8);
        int found = -1;
        for (int child = at + 1; child < end[at] && found < 0; child = end[child]) {
          found = names.equalsBytes(name[child], wanted) ? child : -1;
        }
        if (found < 0) {
          return Optional.empty();
        }
        at = found;
      }
    }
    return id.isEmpty() ? Optional.empty() : Optional.of(at);
  }

  @Override
  public List<String> ids() {
    return new AbstractList<>() {
      @Override
      public String get(int index) {
        return id(index);
      }

      @Override
      public int size() {
        return PathTree.this.size();
      }
    };
  }

  /** A builder with the root only. */
  public static Builder builder() {
    return new Builder();
  }

  /**
   * Takes paths in any order; a folder that nobody named is made where something stands in it. Not
   * thread-safe.
   */
  public static final class Builder {
    private final TextTable names = new TextTable();
    private final IntList name = IntList.of(-1);
    private final IntList parent = IntList.of(-1);
    private final Links links = new Links(1024);

    private Builder() {}

    /** The number of a child of a node, good for this builder only; made if it is new. */
    public int child(int above, byte[] called) {
      int text = names.intern(called);
      int found = links.get(above, text);
      if (found >= 0) {
        return found;
      }
      int made = parent.size();
      parent.add(above);
      name.add(text);
      links.put(above, text, made);
      return made;
    }

    /** The number of a path with slashes, good for this builder only. */
    public int path(String path) {
      int at = 0;
      for (String step : path.split("/")) {
        if (!step.isEmpty()) {
          at = child(at, step.getBytes(StandardCharsets.UTF_8));
        }
      }
      return at;
    }

    /** How many there are, folders that nobody named among them. */
    public int size() {
      return parent.size();
    }

    /** The frozen tree, and the final number of each number given out. */
    public Built build() {
      Texts texts = names.freeze();
      int[] rank = ranks(texts);
      int size = parent.size();
      IntList from = new IntList(size);
      IntList to = new IntList(size);
      long[] order = new long[size - 1];
      for (int n = 1; n < size; n++) {
        order[n - 1] = (long) (rank.length - rank[name.get(n)]) << 32 | n;
      }
      Arrays.sort(order);
      for (long key : order) {
        from.add(parent.get((int) key));
        to.add((int) key);
      }
      IntRows children = IntRows.ofPairs(size, from, to);
      return number(texts, children, size);
    }

    private Built number(Texts texts, IntRows children, int size) {
      int[] numbers = new int[size];
      int[] newName = new int[size];
      int[] newParent = new int[size];
      int[] end = new int[size];
      IntList open = IntList.of(0);
      int next = 0;
      while (!open.isEmpty()) {
        int node = open.removeLast();
        numbers[node] = next;
        newName[next] = name.get(node);
        newParent[next] = node == 0 ? -1 : numbers[parent.get(node)];
        end[next] = next + 1;
        next++;
        for (int at = children.start(node); at < children.end(node); at++) {
          open.add(children.at(at));
        }
      }
      for (int r = size - 1; r > 0; r--) {
        end[newParent[r]] = Math.max(end[newParent[r]], end[r]);
      }
      return new Built(new PathTree(texts, newName, newParent, end), numbers);
    }

    private static int[] ranks(Texts texts) {
      byte[][] all = new byte[texts.size()][];
      for (int i = 0; i < all.length; i++) {
        all[i] = texts.bytes(i);
      }
      Integer[] order = IntStream.range(0, all.length).boxed().toArray(Integer[]::new);
      Arrays.sort(order, (a, b) -> Arrays.compareUnsigned(all[a], all[b]));
      int[] rank = new int[all.length];
      for (int i = 0; i < order.length; i++) {
        rank[order[i]] = i;
      }
      return rank;
    }
  }

  /**
   * What a builder made.
   *
   * @param tree the tree
   * @param numbers the final number of each number the builder gave out
   */
  public record Built(PathTree tree, int[] numbers) {}

  /** From folder and name to what bears the name there: open addressing. */
  private static final class Links {
    private long[] keys;
    private int[] values;
    private int used;

    Links(int expected) {
      int size = Integer.highestOneBit(Math.max(expected, 512)) * 4;
      keys = new long[size];
      values = new int[size];
    }

    int get(int above, int text) {
      int slot = slot(key(above, text));
      return keys[slot] == 0 ? -1 : values[slot];
    }

    void put(int above, int text, int value) {
      long key = key(above, text);
      int slot = slot(key);
      keys[slot] = key;
      values[slot] = value;
      if (++used * 2 > keys.length) {
        grow();
      }
    }

    private static long key(int above, int text) {
      return ((long) above + 1) << 32 | (text & 0xffff_ffffL);
    }

    private int slot(long key) {
      long hash = key * 0x9e37_79b9_7f4a_7c15L;
      int slot = (int) (hash >>> 33) & (keys.length - 1);
      while (keys[slot] != 0 && keys[slot] != key) {
        slot = (slot + 1) & (keys.length - 1);
      }
      return slot;
    }

    private void grow() {
      long[] oldKeys = keys;
      int[] oldValues = values;
      keys = new long[oldKeys.length * 2];
      values = new int[oldKeys.length * 2];
      for (int i = 0; i < oldKeys.length; i++) {
        if (oldKeys[i] != 0) {
          int slot = slot(oldKeys[i]);
          keys[slot] = oldKeys[i];
          values[slot] = oldValues[i];
        }
      }
    }
  }
}
