package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.files.FileFacts.Share;

/**
 * What must be passed for a right on a path, layer by layer: the share, the folders above, the list
 * itself. The same as {@link FileMasks} computes, spelled out.
 */
final class FileNeeds {
  private static final int SHARED_EXTRAS = FileRights.DELETE | FileRights.READ_ATTRIBUTES;

  /** The layer of what may be known of a file by listing its folder. */
  static final String ATTRIBUTES = "its attributes";

  private final FileFacts facts;

  FileNeeds(FileFacts facts) {
    this.facts = facts;
  }

  /**
   * One layer.
   *
   * @param name in words
   * @param resource where it stands
   * @param anyOf any of these is enough
   */
  record Need(String name, int resource, List<Check> anyOf) {}

  /**
   * One question to one list.
   *
   * @param resource the path it is of
   * @param share the number of the share it is of, or -1
   * @param list its number, or {@link FileFacts#UNREAD}
   * @param need what it must give, as the list's own mask
   */
  record Check(int resource, int share, int list, long need) {}

  /** All layers for one right. */
  List<Need> of(int resource, int right) {
    List<Need> needs = new ArrayList<>();
    if (facts.style == FileStyle.POSIX) {
      search(resource, 1L << 1, needs);
      posix(resource, right, needs);
    } else {
      long need = FileRights.ENTRIES.mask(right);
      shares(resource, need, needs);
      if (facts.style.isSearched()) {
        search(resource, FileRights.EXECUTE, needs);
      }
      entries(resource, need, needs);
    }
    return needs;
  }

  private void search(int resource, long need, List<Need> into) {
    IntList way = new IntList();
    for (int at = facts.tree.parent(resource); at >= 0; at = facts.tree.parent(at)) {
      way.add(at);
    }
    for (int i = way.size() - 1; i >= 0; i--) {
      int folder = way.get(i);
      if (!facts.isPassed(folder)) {
        into.add(new Need("search in " + facts.tree.id(folder), folder, one(folder, need)));
      }
    }
  }

  private List<Check> one(int resource, long need) {
    return List.of(check(resource, need));
  }

  private Check check(int resource, long need) {
    return new Check(resource, -1, facts.listOf[resource], need);
  }

  private void shares(int resource, long need, List<Need> into) {
    if (facts.shares.isEmpty()) {
      return;
    }
    List<Check> anyOf = new ArrayList<>();
    List<String> names = new ArrayList<>();
    for (int s = 0; s < facts.shares.size(); s++) {
      Share share = facts.shares.get(s);
      if (facts.tree.covers(share.resource(), resource)) {
        anyOf.add(new Check(share.resource(), s, share.list(), need));
        names.add(share.name());
      }
    }
    String name =
        anyOf.isEmpty()
            ? "a share that leads here"
            : "the list of share " + String.join(" or ", names);
    into.add(new Need(name, anyOf.isEmpty() ? resource : anyOf.get(0).resource(), anyOf));
  }

  private void entries(int resource, long need, List<Need> into) {
    String what = "the list of the " + (facts.isFolder(resource) ? "folder" : "file");
    int parent = facts.tree.parent(resource);
    if (parent >= 0 && (need & FileRights.DELETE) != 0) {
      into.add(
          new Need(
              "deleting it",
              resource,
              List.of(check(resource, FileRights.DELETE), check(parent, FileRights.DELETE_CHILD))));
    }
    if (parent >= 0 && (need & FileRights.READ_ATTRIBUTES) != 0) {
      into.add(
          new Need(
              ATTRIBUTES,
              resource,
              List.of(
                  check(resource, FileRights.READ_ATTRIBUTES),
                  check(parent, FileRights.READ_DATA))));
    }
    long own = parent < 0 ? need : need & ~SHARED_EXTRAS;
    if (own != 0) {
      into.add(new Need(what, resource, one(resource, own)));
    }
  }

  private void posix(int resource, int right, List<Need> into) {
    String what = "the list of the " + (facts.isFolder(resource) ? "folder" : "file");
    switch (right) {
      case FileRights.POSIX_READ -> into.add(new Need(what, resource, one(resource, 1L << 4)));
      case FileRights.POSIX_WRITE -> into.add(new Need(what, resource, one(resource, 1L << 2)));
      case FileRights.POSIX_EXECUTE -> into.add(new Need(what, resource, one(resource, 1L << 1)));
      case FileRights.POSIX_CREATE ->
          into.add(
              new Need(
                  what, resource, facts.isFolder(resource) ? one(resource, 1L << 3) : List.of()));
      case FileRights.POSIX_CHANGE_MODE ->
          into.add(new Need("owning it", resource, one(resource, FileRights.OWNS)));
      case FileRights.POSIX_CHANGE_OWNER ->
          into.add(new Need("being the superuser", resource, one(resource, FileRights.ROOT)));
      default -> delete(resource, into);
    }
  }

  private void delete(int resource, List<Need> into) {
    int parent = facts.tree.parent(resource);
    if (parent < 0) {
      into.add(new Need("a folder above", resource, List.of()));
      return;
    }
    into.add(
        new Need("write and search in " + facts.tree.id(parent), parent, one(parent, 1L << 3)));
    int list = facts.listOf[parent];
    if (list < 0 || ((PosixList) facts.lists[list]).isSticky()) {
      into.add(
          new Need(
              "owning it or its sticky folder",
              resource,
              List.of(check(resource, FileRights.OWNS), check(parent, FileRights.OWNS))));
    }
  }
}
