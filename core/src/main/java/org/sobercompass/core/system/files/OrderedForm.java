package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Trustees;

/**
 * Entries of lists that allow and deny as text: of descriptors as in SDDL ([MS-DTYP] 2.5.1), of
 * NFSv4 as {@link Nfs4Entry} has them. Thread-safe.
 */
abstract sealed class OrderedForm implements ListForm {
  final Trustees trustees;
  final FileTrustees names;

  OrderedForm(Trustees trustees, FileTrustees names) {
    this.trustees = trustees;
    this.names = names;
  }

  /** Descriptors: what is added comes into the lists below, as those who set lists do it. */
  static final class Shared extends OrderedForm {
    Shared(Trustees trustees, FileTrustees names) {
      super(trustees, names);
    }

    @Override
    Ace read(String text) throws MalformedException {
      return Sddl.readEntry(text, Optional.empty());
    }

    @Override
    String written(Ace ace) {
      return Sddl.text(ace);
    }

    @Override
    String who(Ace ace) {
      int trustee = trustees.find(ace.trustee());
      return trustee >= 0 && trustees.subject(trustee) >= 0
          ? trustees.label(trustee)
          : names
              .subject(ace.trustee())
              .orElseGet(() -> WellKnown.name(ace.trustee()).orElse(ace.trustee()));
    }

    @Override
    Trustees with(Ace ace) {
      return WellKnown.name(ace.trustee()).isPresent() && trustees.find(ace.trustee()) >= 0
          ? trustees
          : names.with(trustees, ace.trustee());
    }

    @Override
    int trustee(Trustees all, OrderedList list, FileFacts facts, Ace ace) {
      return ace.trustee().equals(WellKnown.OWNER_RIGHTS) ? list.owner() : all.find(ace.trustee());
    }

    @Override
    boolean isHandedOn() {
      return true;
    }

    @Override
    Ace ace(String id, int mask, int flags) {
      return Ace.of(AceType.ALLOW, flags, mask, id);
    }
  }

  /** Lists of NFSv4: what stands below keeps its list. */
  static final class Nfs4 extends OrderedForm {
    Nfs4(Trustees trustees, FileTrustees names) {
      super(trustees, names);
    }

    @Override
    Ace read(String text) throws MalformedException {
      return Nfs4Entry.of(text).ace();
    }

    @Override
    String written(Ace ace) {
      return Nfs4Entry.text(ace);
    }

    private Nfs4Entry entry(Ace ace) {
      try {
        return Nfs4Entry.of(written(ace));
      } catch (MalformedException e) {
        throw new IllegalStateException(e);
      }
    }

    @Override
    String who(Ace ace) {
      Nfs4Entry entry = entry(ace);
      return (entry.isGroup() ? "group " : "") + entry.who();
    }

    private static boolean isSpecial(Nfs4Entry entry) {
      return entry.who().endsWith("@");
    }

    private String id(Nfs4Entry entry) {
      return names.id(entry.isGroup(), Nfs4Entry.plain(entry.who()));
    }

    @Override
    Trustees with(Ace ace) {
      Nfs4Entry entry = entry(ace);
      return isSpecial(entry) ? trustees : names.with(trustees, id(entry));
    }

    @Override
    int trustee(Trustees all, OrderedList list, FileFacts facts, Ace ace) {
      Nfs4Entry entry = entry(ace);
      return switch (entry.who()) {
        case "OWNER@" -> list.owner();
        case "EVERYONE@" -> Trustees.EVERYONE;
        case "GROUP@" ->
            all.find(names.id(true, Nfs4Entry.plain(list.descriptor.group().orElse(""))));
        default -> all.find(id(entry));
      };
    }

    @Override
    boolean isHandedOn() {
      return false;
    }

    @Override
    Ace ace(String id, int mask, int flags) {
      boolean everyone = id.equals(FileTrustees.EVERYONE);
      String who = everyone ? "EVERYONE@" : names.name(id);
      return new Nfs4Entry(AceType.ALLOW, flags, mask, who, id.startsWith("g:")).ace();
    }
  }

  abstract Ace read(String text) throws MalformedException;

  abstract String written(Ace ace);

  abstract String who(Ace ace);

  /** The trustees with that of an entry. */
  abstract Trustees with(Ace ace);

  abstract int trustee(Trustees all, OrderedList list, FileFacts facts, Ace ace);

  /** Whether lists below get what is added. */
  abstract boolean isHandedOn();

  private Ace parsed(String text) {
    try {
      return read(text);
    } catch (MalformedException e) {
      throw new IllegalArgumentException(
          Problem.quote(text) + " is no entry: " + e.getMessage() + "; expected " + e.expected(),
          e);
    }
  }

  @Override
  public String text(FileList list, int entry) {
    return written(((OrderedList) list).descriptor.entries().get(entry - 1));
  }

  @Override
  public List<ListWish.Edit> entryFor(FileList list, int resource, int entry, String id) {
    Ace ace = ((OrderedList) list).descriptor.entries().get(entry - 1);
    Ace other = ace(id, ace.mask(), ace.flags());
    String text = written(ace.with(ace.flags(), ace.mask(), other.trustee()));
    return List.of(new ListWish.Edit(resource, text, true));
  }

  @Override
  public String words(String text) {
    Ace ace = parsed(text);
    String reach = OrderedList.reach(ace);
    return (ace.denies() ? "not " : "")
        + FileRights.ENTRIES.words(FileRights.mapped(ace.mask()))
        + (reach.isEmpty() ? "" : " " + reach.replaceFirst("^and ", "there and "))
        + " for "
        + who(ace);
  }

  @Override
  public OptionalInt find(FileList list, String text) {
    String wanted = written(parsed(text));
    List<Ace> entries = ((OrderedList) list).descriptor.entries();
    for (int i = 0; i < entries.size(); i++) {
      boolean own = !entries.get(i).isInherited() && !((OrderedList) list).isRemoved(i);
      if (own && written(entries.get(i)).equals(wanted)) {
        return OptionalInt.of(i + 1);
      }
    }
    return OptionalInt.empty();
  }

  @Override
  public FileFacts with(FileFacts facts, int resource, String text) {
    Ace ace = parsed(text);
    String path = facts.tree.id(resource);
    if (ace.isInherited()) {
      throw new IllegalArgumentException(
          "the entry " + text + " says that it is inherited: add it where it comes from");
    }
    OrderedList list = (OrderedList) facts.readList(resource);
    if (list.descriptor.dacl().isEmpty()) {
      throw new IllegalArgumentException(
          path + " has no list, so everyone may do everything; give it a list first");
    }
    Trustees all = with(ace);
    Map<Integer, FileList> changed = new LinkedHashMap<>();
    changed.put(resource, list.with(place(list, ace), ace, trustee(all, list, facts, ace)));
    if (isHandedOn()) {
      new ListsBelow(this, facts, all, changed).down(resource);
    }
    return facts.with(changed, all);
  }

  /** With one more entry in the list of a share. */
  FileFacts withShare(FileFacts facts, int resource, ShareEntry entry) {
    Ace ace = parsed(entry.entry());
    OrderedList list = (OrderedList) entry.list(facts, resource);
    Trustees all = with(ace);
    OrderedList more = list.with(place(list, ace), ace, trustee(all, list, facts, ace));
    return facts.withShare(entry.number(facts, resource), more, all);
  }

  /** An entry that gives rights to a trustee. */
  abstract Ace ace(String id, int mask, int flags);

  @Override
  public List<ListWish.Edit> giving(FileFacts facts, ListWish wish, String id) {
    int mask = mask(wish);
    int top = wish.resource();
    boolean each = wish.below() && !isHandedOn();
    List<ListWish.Edit> edits = new ArrayList<>();
    List<ListWish.Edit> there = new ArrayList<>();
    for (int r = top; r < (each ? facts.tree.end(top) : top + 1); r++) {
      OrderedList list = facts.list(r).map(OrderedList.class::cast).orElse(null);
      if (list == null && r == top) {
        throw new IllegalArgumentException("the list of " + facts.tree.id(r) + " was not read");
      }
      boolean down = wish.below() && facts.isFolder(r);
      // What is below a folder is reached by execute on it.
      int here = down ? mask | FileRights.EXECUTE : mask;
      String text = written(ace(id, here, down ? Ace.OBJECTS | Ace.CHILDREN : 0));
      if (list != null) {
        (find(list, text).isEmpty() ? edits : there).add(new ListWish.Edit(r, text, true));
      }
    }
    return edits.isEmpty() ? there : edits;
  }

  @Override
  public List<ListWish.Edit> taking(FileFacts facts, ListWish wish, String id) {
    int mask = mask(wish);
    List<ListWish.Edit> edits = new ArrayList<>();
    OrderedList list = facts.list(wish.resource()).map(OrderedList.class::cast).orElse(null);
    if (list == null) {
      return edits;
    }
    for (int i = 0; i < list.descriptor.entries().size(); i++) {
      Ace ace = list.descriptor.entries().get(i);
      int has = FileRights.mapped(ace.mask());
      boolean gives = ace.allows() && !ace.isInherited() && !list.isRemoved(i) && (has & mask) != 0;
      if (gives && ace.trustee().equals(ace(id, 0, 0).trustee())) {
        edits.add(new ListWish.Edit(wish.resource(), written(ace), false));
        int left = has & ~mask & ~FileRights.SYNCHRONIZE;
        if (left != 0) {
          Ace less = ace.with(ace.flags(), has & ~mask, ace.trustee());
          edits.add(new ListWish.Edit(wish.resource(), written(less), true));
        }
      }
    }
    return edits;
  }

  private static int mask(ListWish wish) {
    long mask = 0;
    for (int right : wish.rights()) {
      mask |= FileRights.ENTRIES.mask(right);
    }
    return (int) mask;
  }

  /** Entries of its own come before those from above, and of those the ones that deny first. */
  private static int place(OrderedList list, Ace ace) {
    return list.descriptor.withMore(ace).entries().indexOf(ace);
  }
}
