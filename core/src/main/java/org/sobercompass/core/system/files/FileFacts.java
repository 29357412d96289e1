package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.PathTree;
import org.sobercompass.core.system.Trustees;

/**
 * Paths with their lists, frozen: each distinct list once, four bytes a path for which it has.
 * Thread-safe.
 */
public final class FileFacts {
  /** The list of a path that was not read. */
  public static final int UNREAD = -1;

  /** What a path is. */
  public enum Kind {
    FOLDER,
    FILE,
    /** A folder that nobody named, above something that was. */
    ABOVE
  }

  final PathTree tree;
  final FileStyle style;
  final Trustees trustees;
  final FileList[] lists;
  final int[] listOf;
  private final byte[] kind;
  final List<Share> shares;
  final boolean openAbove;
  private final BitSet waste;

  /** The trustee that may everything, or -1. */
  final int superuser;

  /**
   * A share: the way in from the network.
   *
   * @param name its name
   * @param resource the folder it opens
   * @param list the number of its list, or {@link #UNREAD}
   */
  public record Share(String name, int resource, int list) {}

  private FileFacts(Builder builder, PathTree.Built built) {
    style = builder.style;
    trustees = builder.trustees.build();
    lists = builder.lists.toArray(FileList[]::new);
    tree = built.tree();
    listOf = new int[tree.size()];
    kind = new byte[tree.size()];
    Arrays.fill(listOf, UNREAD);
    Arrays.fill(kind, (byte) Kind.ABOVE.ordinal());
    for (int n = 0; n < builder.list.size(); n++) {
      if (builder.named.get(n) != 0) {
        int r = built.numbers()[n];
        listOf[r] = builder.list.get(n);
        boolean folder = builder.named.get(n) == 1 || tree.end(r) > r + 1;
        kind[r] = (byte) (folder ? Kind.FOLDER : Kind.FILE).ordinal();
      }
    }
    List<Share> moved = new ArrayList<>();
    builder.shares.forEach(s -> moved.add(new Share(s.name, built.numbers()[s.resource], s.list)));
    shares = List.copyOf(moved);
    openAbove = builder.openAbove;
    waste = builder.waste.in(built);
    superuser = style == FileStyle.POSIX ? trustees.find("u:0") : -1;
  }

  /** The same with other lists: one a path, and one a share. */
  private FileFacts(
      FileFacts from, Trustees trustees, List<FileList> lists, int[] listOf, List<Share> shares) {
    this.tree = from.tree;
    this.style = from.style;
    this.trustees = trustees;
    this.lists = lists.toArray(FileList[]::new);
    this.listOf = listOf;
    this.kind = from.kind;
    this.shares = List.copyOf(shares);
    this.openAbove = from.openAbove;
    this.waste = from.waste;
    this.superuser = from.superuser;
  }

  /**
   * The same as if an entry of a path, and what other paths have from it, were not there.
   *
   * @param entries the numbers of the entries to go, by path
   */
  FileFacts without(Map<Integer, List<Integer>> entries) {
    List<FileList> more = new ArrayList<>(List.of(lists));
    int[] changed = listOf.clone();
    Map<List<Integer>, Integer> known = new HashMap<>();
    entries.forEach(
        (resource, gone) -> {
          for (int entry : gone) {
            changed[resource] =
                known.computeIfAbsent(
                    List.of(changed[resource], entry),
                    key -> {
                      more.add(more.get(key.get(0)).without(key.get(1)));
                      return more.size() - 1;
                    });
          }
        });
    return new FileFacts(this, trustees, more, changed, shares);
  }

  /** The same as if an entry of a share were not there. */
  FileFacts withoutOfShare(int number, int entry) {
    List<FileList> more = new ArrayList<>(List.of(lists));
    List<Share> others = new ArrayList<>(shares);
    Share share = shares.get(number);
    more.add(lists[share.list()].without(entry));
    others.set(number, new Share(share.name(), share.resource(), more.size() - 1));
    return new FileFacts(this, trustees, more, listOf, others);
  }

  /** The same with another list of a share, which may name trustees that were not named before. */
  FileFacts withShare(int number, FileList list, Trustees more) {
    List<FileList> all = new ArrayList<>(List.of(lists));
    List<Share> others = new ArrayList<>(shares);
    Share share = shares.get(number);
    all.add(list);
    others.set(number, new Share(share.name(), share.resource(), all.size() - 1));
    return new FileFacts(this, more, all, listOf, others);
  }

  /**
   * The same with other lists of some paths, which may name trustees that were not named before.
   */
  FileFacts with(Map<Integer, FileList> others, Trustees more) {
    List<FileList> all = new ArrayList<>(List.of(lists));
    Map<FileList, Integer> numbers = new IdentityHashMap<>();
    int[] changed = listOf.clone();
    others.forEach(
        (resource, list) ->
            changed[resource] =
                numbers.computeIfAbsent(
                    list,
                    l -> {
                      all.add(l);
                      return all.size() - 1;
                    }));
    return new FileFacts(this, more, all, changed, shares);
  }

  /** The list of a path; empty when it was not read. */
  Optional<FileList> list(int resource) {
    return listOf[resource] < 0 ? Optional.empty() : Optional.of(lists[listOf[resource]]);
  }

  /**
   * The list of a path.
   *
   * @throws IllegalArgumentException when it was not read
   */
  FileList readList(int resource) {
    return list(resource)
        .filter(list -> !(list instanceof PosixList posix && posix.mayHideList()))
        .orElseThrow(
            () ->
                new IllegalArgumentException("the list of " + tree.id(resource) + " was not read"));
  }

  /** The tree of paths. */
  public PathTree tree() {
    return tree;
  }

  /** Whose rules decide. */
  public FileStyle style() {
    return style;
  }

  /** Whom the lists name. */
  public Trustees trustees() {
    return trustees;
  }

  /** The shares. */
  public List<Share> shares() {
    return shares;
  }

  /** Of how many named paths the list was not read, or only the mode of it. */
  public int unread() {
    int count = 0;
    for (int r = 0; r < listOf.length; r++) {
      boolean hidden = listOf[r] >= 0 && lists[listOf[r]] instanceof PosixList p && p.mayHideList();
      count += hidden || (listOf[r] < 0 && kind[r] != Kind.ABOVE.ordinal()) ? 1 : 0;
    }
    return count;
  }

  /**
   * The folders above what was collected whose lists are missing, from the top: where folders are
   * searched, all that is below them is undecided. None where they are said to let pass. O(paths).
   */
  public List<String> missingAbove() {
    List<String> missing = new ArrayList<>();
    for (int r = 0; style.isSearched() && !openAbove && r < kind.length; r++) {
      if (kind[r] == Kind.ABOVE.ordinal()) {
        missing.add(tree.id(r));
      }
    }
    return missing;
  }

  /** What a path is. */
  public Kind kind(int resource) {
    return Kind.values()[kind[resource]];
  }

  boolean isFolder(int resource) {
    return kind[resource] != Kind.FILE.ordinal();
  }

  /** Whether a path is a waste bin, or lies in one. */
  boolean isWaste(int resource) {
    return waste.get(resource);
  }

  /** Whether a folder above what was collected is taken to let everybody pass. */
  boolean isPassed(int resource) {
    return openAbove && kind[resource] == Kind.ABOVE.ordinal();
  }

  /** Collects paths and lists in any order. Not thread-safe. */
  public static final class Builder {
    private final FileStyle style;
    private final Trustees.Builder trustees;
    private final PathTree.Builder paths = PathTree.builder();
    private final List<FileList> lists = new ArrayList<>();
    private final Map<Object, Integer> known = new HashMap<>();
    private final IntList list = new IntList();
    private final IntList named = new IntList();
    private final List<Share> shares = new ArrayList<>();
    private final WasteBins waste = new WasteBins();
    private boolean openAbove;

    /** Whose lists name these trustees. */
    public Builder(FileStyle style, Trustees.Builder trustees) {
      this.style = style;
      this.trustees = trustees;
    }

    /** Says that folders above what was collected let everybody pass. */
    public void openAbove() {
      openAbove = true;
    }

    /**
     * Says that a folder is a waste bin.
     *
     * @return whether it is one of the paths so far
     */
    public boolean wasteBin(int node) {
      grow(node + 1);
      waste.add(node);
      return named.get(node) != 0;
    }

    /** The number of a descriptor with its trustees numbered; equal ones share it. */
    public int list(Descriptor descriptor, int owner, int[] trusteesOfEntries) {
      return known.computeIfAbsent(
          descriptor, d -> add(new OrderedList(descriptor, owner, trusteesOfEntries, false)));
    }

    /** The number of the list of a share. */
    public int shareList(Descriptor descriptor, int[] trusteesOfEntries) {
      return add(new OrderedList(descriptor, -1, trusteesOfEntries, true));
    }

    /**
     * The number of a POSIX list; equal ones share it.
     *
     * @param key equal for equal lists
     */
    public int list(Object key, PosixList made) {
      return known.computeIfAbsent(key, k -> add(made));
    }

    private int add(FileList made) {
      lists.add(made);
      return lists.size() - 1;
    }

    /** The number of a list already made for a key, or {@link #UNREAD}. */
    public int knownList(Object key) {
      return known.getOrDefault(key, UNREAD);
    }

    /** The paths. */
    public PathTree.Builder paths() {
      return paths;
    }

    /**
     * Gives a path its list.
     *
     * @param node the number the path's builder gave
     * @param isFolder whether it is known to be a folder
     * @param number of the list, or {@link #UNREAD}
     * @return whether the path is named for the first time
     */
    public boolean put(int node, boolean isFolder, int number) {
      grow(node + 1);
      boolean first = named.get(node) == 0;
      named.set(node, isFolder ? 1 : 2);
      list.set(node, number);
      return first;
    }

    private void grow(int size) {
      while (list.size() < size) {
        list.add(UNREAD);
        named.add(0);
      }
    }

    /** Says that a path is a folder, however it was put. */
    public void folder(int node) {
      grow(node + 1);
      named.set(node, 1);
    }

    /** Adds a share at a path. */
    public void share(String name, int node, int number) {
      grow(node + 1);
      shares.add(new Share(name, node, number));
    }

    /** The frozen facts. */
    public FileFacts build() {
      return new FileFacts(this, paths.build());
    }
  }
}
