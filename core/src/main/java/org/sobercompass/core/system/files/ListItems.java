package org.sobercompass.core.system.files;

import java.util.List;
import java.util.Map;
import org.sobercompass.core.system.ListWish;

/** What lists say of somebody that is no grant: who owns a path, entries for what is made later. */
interface ListItems {
  /** Begins what says who owns a path. */
  String OWNER = "owner:";

  /** Begins what says which group owns a path. */
  String GROUP = "owning-group:";

  /** Whether a text says who owns a path. */
  static boolean isOwner(String text) {
    return text.startsWith(OWNER) || text.startsWith(GROUP);
  }

  /** All of them, by the subject that they are about. */
  Map<Integer, List<ListWish.Edit>> all();

  /** The same item for somebody else, by an id. */
  String renamed(String text, String id);

  /** Whether the list of a path says it. */
  boolean has(int resource, String text);

  /** Who owns a path, in words. */
  String words(String text);

  /** With another owner, or owning group. */
  FileFacts owned(int resource, String text);

  /**
   * Without an item. Whoever owns a path goes only when another comes, so that taking an owner out
   * changes nothing yet.
   */
  FileFacts without(int resource, String text);

  /** The items of a style. */
  static ListItems of(FileFacts facts, FileTrustees names) {
    return switch (facts.style) {
      case POSIX -> new PosixItems(facts, names);
      case SHARED -> new SharedItems(facts, names);
      case NFS4 -> new Nfs4Items(facts, names);
    };
  }
}
