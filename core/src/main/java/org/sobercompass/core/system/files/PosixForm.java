package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.files.PosixList.Named;
import org.sobercompass.core.system.files.PosixList.Parts;

/**
 * Entries of 1003.1e lists as text (1003.1e 23.3.1): {@code user:ann:r-x}, {@code group::r--},
 * {@code default:group:desk:rwx}. Thread-safe.
 */
final class PosixForm implements ListForm {
  private final Trustees trustees;
  private final FileTrustees names;

  PosixForm(Trustees trustees, FileTrustees names) {
    this.trustees = trustees;
    this.names = names;
  }

  @Override
  public String text(FileList list, int entry) {
    Parts parts = ((PosixList) list).parts();
    int firstGroup = 3 + parts.users().length;
    int last = list.entries().size() - 1;
    if (entry == 1) {
      return "user::" + PosixList.may(parts.ownerMay());
    }
    if (entry < firstGroup - 1) {
      return named("user", parts.users()[entry - 2], parts.userMay()[entry - 2]);
    }
    if (entry == firstGroup - 1) {
      return "group::" + PosixList.may(parts.groupMay());
    }
    return entry == last
        ? "other::" + PosixList.may(parts.otherMay())
        : named("group", parts.groups()[entry - firstGroup], parts.groupsMay()[entry - firstGroup]);
  }

  private String named(String kind, int trustee, int may) {
    String id = trustee < 0 ? "" : trustees.text(trustee).substring(2);
    boolean known = trustee >= 0 && trustees.subject(trustee) >= 0;
    return kind + ":" + (known ? trustees.label(trustee) : id) + ":" + PosixList.may(may);
  }

  @Override
  public List<ListWish.Edit> entryFor(FileList list, int resource, int entry, String id) {
    PosixEntry written = PosixEntry.of(text(list, entry));
    List<ListWish.Edit> edits = new ArrayList<>();
    if (written.isNamed()) {
      Parts parts = ((PosixList) list).parts();
      change(parts, resource, id, written.may(), 0, edits);
      if (edits.isEmpty()) {
        edits.add(new ListWish.Edit(resource, who(id) + PosixList.may(may(parts, id)), true));
      }
    }
    return edits;
  }

  @Override
  public String words(String text) {
    PosixEntry entry = PosixEntry.of(text);
    if (entry.kind().equals("mask")) {
      return "at most "
          + PosixList.WORDS.get(entry.may())
          + " for whoever is named, and all groups";
    }
    String who =
        entry.isNamed()
            ? (entry.kind().equals("group") ? "group " : "") + entry.who()
            : Map.of("user", "the owner", "group", "the owning group", "other", "others")
                .getOrDefault(entry.kind(), entry.kind());
    return PosixList.WORDS.get(entry.may())
        + (entry.ofDefault() ? " in what is made there later, for " : " for ")
        + who;
  }

  @Override
  public OptionalInt find(FileList list, String text) {
    PosixEntry entry = PosixEntry.of(text);
    if (entry.ofDefault() || entry.kind().equals("mask")) {
      return OptionalInt.empty();
    }
    int at = place(((PosixList) list).parts(), entry);
    return at >= 0 && text(list, at).endsWith(PosixList.may(entry.may()))
        ? OptionalInt.of(at)
        : OptionalInt.empty();
  }

  /** With the number in place of a name. */
  String numbered(String text) {
    if (ListItems.isOwner(text)) {
      return PosixItems.numbered(text, names);
    }
    PosixEntry entry = PosixEntry.of(text);
    return !entry.isNamed()
        ? text
        : (entry.ofDefault() ? "default:" : "")
            + entry.kind()
            + ":"
            + entry.id(names).substring(2)
            + ":"
            + PosixList.may(entry.may());
  }

  /** The number of the entry for whom an entry is, or -1. */
  private int place(Parts parts, PosixEntry entry) {
    int firstGroup = 3 + parts.users().length;
    if (!entry.isNamed()) {
      return entry.kind().equals("user")
          ? 1
          : entry.kind().equals("group") ? firstGroup - 1 : firstGroup + parts.groups().length;
    }
    boolean group = entry.kind().equals("group");
    int trustee = trustees.find(entry.id(names));
    int[] there = group ? parts.groups() : parts.users();
    for (int i = 0; i < there.length; i++) {
      if (trustee >= 0 && there[i] == trustee) {
        return (group ? firstGroup : 2) + i;
      }
    }
    return -1;
  }

  @Override
  public FileFacts with(FileFacts facts, int resource, String text) {
    PosixEntry entry = PosixEntry.of(text);
    PosixList list = (PosixList) facts.readList(resource);
    Trustees more = entry.isNamed() ? names.with(facts.trustees, entry.id(names)) : facts.trustees;
    Parts parts = list.parts();
    Parts changed =
        entry.ofDefault()
            ? parts.with(defaults(parts, entry, facts, resource))
            : new PosixForm(more, names).with(parts, entry, list);
    return facts.with(Map.of(resource, new PosixList(changed)), more);
  }

  @Override
  public List<ListWish.Edit> giving(FileFacts facts, ListWish wish, String id) {
    int may = PosixEntry.bits(wish);
    List<ListWish.Edit> edits = new ArrayList<>();
    int end = wish.below() ? facts.tree.end(wish.resource()) : wish.resource() + 1;
    for (int r = wish.resource(); r < end; r++) {
      boolean folder = facts.isFolder(r);
      // What is below a folder is reached by execute on it.
      int here = wish.below() && folder ? may | 1 : may;
      PosixList list = facts.list(r).map(PosixList.class::cast).orElse(null);
      if (list != null) {
        change(list.parts(), r, id, here, 0, edits);
        if (wish.below() && folder) {
          String text = "default:" + who(id) + PosixList.may(here);
          if (list.defaults().stream().noneMatch(line -> isFor(line, id))) {
            edits.add(new ListWish.Edit(r, text, true));
          }
        }
      } else if (r == wish.resource()) {
        throw new IllegalArgumentException("the list of " + facts.tree.id(r) + " was not read");
      }
    }
    if (edits.isEmpty()) {
      Parts top = facts.list(wish.resource()).map(PosixList.class::cast).orElseThrow().parts();
      edits.add(new ListWish.Edit(wish.resource(), who(id) + PosixList.may(may(top, id)), true));
    }
    return edits;
  }

  @Override
  public List<ListWish.Edit> taking(FileFacts facts, ListWish wish, String id) {
    List<ListWish.Edit> edits = new ArrayList<>();
    facts
        .list(wish.resource())
        .map(PosixList.class::cast)
        .ifPresent(
            list -> change(list.parts(), wish.resource(), id, 0, PosixEntry.bits(wish), edits));
    return edits;
  }

  /** The entry of one trustee with more permissions, or with less: the old goes, another comes. */
  void change(Parts parts, int resource, String id, int more, int less, List<ListWish.Edit> into) {
    int was = may(parts, id);
    int is = (Math.max(was, 0) | more) & ~less;
    boolean masked =
        parts.mask() != PosixList.NO_MASK
            && !id.equals(FileTrustees.EVERYONE)
            && (more & ~parts.mask()) != 0;
    if (is == was && masked) {
      into.add(new ListWish.Edit(resource, "mask::" + PosixList.may(parts.mask() | more), true));
    }
    if (is == was || (was < 0 && is == 0)) {
      return;
    }
    if (was >= 0) {
      into.add(new ListWish.Edit(resource, who(id) + PosixList.may(was), false));
    }
    if (is != 0) {
      into.add(new ListWish.Edit(resource, who(id) + PosixList.may(is), true));
    }
  }

  /** Whether an id is the owner's. */
  boolean isOwner(Parts parts, String id) {
    return parts.owner() >= 0 && trustees.text(parts.owner()).equals(id);
  }

  /** What the entry of a trustee says, or -1 when there is none. */
  int may(Parts parts, String id) {
    if (id.equals(FileTrustees.EVERYONE)) {
      return parts.otherMay() == 0 ? -1 : parts.otherMay();
    }
    int trustee = trustees.find(id);
    if (trustee < 0) {
      return -1;
    }
    boolean group = id.startsWith("g:");
    int[] there = group ? parts.groups() : parts.users();
    for (int i = 0; i < there.length; i++) {
      if (there[i] == trustee) {
        return group ? parts.groupsMay()[i] : parts.userMay()[i];
      }
    }
    return -1;
  }

  /** Whether a default entry is for a trustee, whether it is written by name or by number. */
  private boolean isFor(String line, String id) {
    if (!PosixEntry.is(line)) {
      return false;
    }
    PosixEntry entry = PosixEntry.of(line);
    boolean others = id.equals(FileTrustees.EVERYONE) && entry.kind().equals("other");
    boolean same = entry.isNamed() ? entry.id(names).equals(id) : line.startsWith(id);
    return others || (!id.isEmpty() && same);
  }

  String who(String id) {
    if (id.equals(FileTrustees.EVERYONE)) {
      return "other::";
    }
    return (id.startsWith("g:") ? "group:" : "user:") + names.name(id) + ":";
  }

  /**
   * The mask lets what is new through, as programs that set entries do it; it takes nothing away,
   * and grows no more than that.
   */
  private Parts with(Parts parts, PosixEntry entry, PosixList list) {
    if (entry.kind().equals("mask")) {
      return widened(parts, entry.may());
    }
    int at = place(parts, entry);
    boolean free = at < 0 || (!entry.isNamed() && text(list, at).endsWith("---"));
    if (!free) {
      throw new IllegalArgumentException(
          "the list has the entry " + text(list, at) + " already; take it out first");
    }
    boolean user = entry.kind().equals("user");
    boolean group = entry.kind().equals("group");
    boolean named = entry.isNamed();
    int groupMay = group && !named ? entry.may() : parts.groupMay();
    boolean masked = parts.mask() != PosixList.NO_MASK;
    int mask = masked ? parts.mask() : named ? groupMay : PosixList.NO_MASK;
    mask |= named || (masked && group) ? entry.may() : 0;
    int trustee = named ? trustees.find(entry.id(names)) : -1;
    Named users = new Named(parts.users(), parts.userMay());
    Named groups = new Named(parts.groups(), parts.groupsMay());
    return parts.with(
        user && !named ? entry.may() : parts.ownerMay(),
        groupMay,
        entry.kind().equals("other") ? entry.may() : parts.otherMay(),
        mask,
        named && user ? users.plus(trustee, entry.may()) : users,
        named && group ? groups.plus(trustee, entry.may()) : groups);
  }

  /** The mask lets more through. */
  private static Parts widened(Parts parts, int mask) {
    if (parts.mask() == PosixList.NO_MASK || (parts.mask() & mask) != parts.mask()) {
      throw new IllegalArgumentException(
          parts.mask() == PosixList.NO_MASK
              ? "the list has no mask"
              : "a mask is only widened; take entries out instead of narrowing it");
    }
    return parts.with(
        parts.ownerMay(),
        parts.groupMay(),
        parts.otherMay(),
        mask,
        new Named(parts.users(), parts.userMay()),
        new Named(parts.groups(), parts.groupsMay()));
  }

  /**
   * A default list has the three entries that every list has, as the list of the folder has them.
   */
  private List<String> defaults(Parts parts, PosixEntry entry, FileFacts facts, int resource) {
    if (!facts.isFolder(resource)) {
      throw new IllegalArgumentException(
          facts.tree.id(resource) + " is a file: only folders have default entries");
    }
    List<String> all = new ArrayList<>(parts.defaults());
    if (all.isEmpty()) {
      all.add("user::" + PosixList.may(parts.ownerMay()));
      all.add("group::" + PosixList.may(parts.groupMay()));
      all.add("other::" + PosixList.may(parts.otherMay()));
    }
    String who = entry.kind() + ":" + entry.who() + ":";
    String id = entry.isNamed() ? entry.id(names) : who;
    if (all.stream().anyMatch(line -> isFor(line, id) && !line.endsWith("---"))) {
      throw new IllegalArgumentException(
          "the default list of " + facts.tree.id(resource) + " has an entry " + who + " already");
    }
    all.removeIf(line -> isFor(line, id));
    all.add(who + PosixList.may(entry.may()));
    boolean named = all.stream().anyMatch(line -> line.matches("(user|group):[^:]+:.*"));
    if (named) {
      int mask = 0;
      for (String line : all) {
        boolean limited =
            line.startsWith("mask") || line.startsWith("group") || line.matches("user:[^:]+:.*");
        mask |= limited ? PosixList.bits(line.substring(line.lastIndexOf(':'))) : 0;
      }
      all.removeIf(line -> line.startsWith("mask"));
      all.add("mask::" + PosixList.may(mask));
    }
    return all;
  }
}
