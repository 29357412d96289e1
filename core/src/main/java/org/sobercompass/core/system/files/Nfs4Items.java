package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Trustees;

/** Owners and owning groups of paths with lists of NFSv4 (RFC 7530 section 5.9), by their names. */
final class Nfs4Items implements ListItems {
  private final FileFacts facts;
  private final FileTrustees names;

  Nfs4Items(FileFacts facts, FileTrustees names) {
    this.facts = facts;
    this.names = names;
  }

  private OrderedList list(int resource) {
    return (OrderedList) facts.readList(resource);
  }

  private static String who(String text) {
    return Nfs4Entry.plain(text.substring(text.indexOf(':') + 1));
  }

  /** By what lists name whom an item is about. */
  private String id(String text) {
    return names.id(text.startsWith(GROUP), who(text));
  }

  @Override
  public Map<Integer, List<ListWish.Edit>> all() {
    Map<Integer, List<ListWish.Edit>> all = new HashMap<>();
    for (int r = 0; r < facts.tree.size(); r++) {
      OrderedList list = facts.list(r).map(OrderedList.class::cast).orElse(null);
      if (list != null) {
        add(all, r, OWNER, list.descriptor.owner().orElse(""));
        add(all, r, GROUP, list.descriptor.group().orElse(""));
      }
    }
    return all;
  }

  private void add(Map<Integer, List<ListWish.Edit>> all, int resource, String kind, String who) {
    String id = names.id(kind.equals(GROUP), Nfs4Entry.plain(who));
    int trustee = who.isEmpty() ? -1 : facts.trustees.find(id);
    int subject = trustee < 0 ? -1 : facts.trustees.subject(trustee);
    if (subject >= 0) {
      all.computeIfAbsent(subject, s -> new ArrayList<>())
          .add(new ListWish.Edit(resource, kind + names.name(id), true));
    }
  }

  @Override
  public String renamed(String text, String id) {
    boolean group = id.startsWith("g:");
    if (text.startsWith(GROUP) != group) {
      throw new IllegalArgumentException(
          names.name(id) + (group ? " is a group" : " is no group") + ", and cannot stand there");
    }
    return text.substring(0, text.indexOf(':') + 1) + names.name(id);
  }

  @Override
  public boolean has(int resource, String text) {
    if (!ListItems.isOwner(text)) {
      return false;
    }
    boolean group = text.startsWith(GROUP);
    var own = list(resource).descriptor;
    String who = (group ? own.group() : own.owner()).orElse("");
    return !who.isEmpty() && names.id(group, Nfs4Entry.plain(who)).equals(id(text));
  }

  @Override
  public String words(String text) {
    return (text.startsWith(GROUP) ? "owning group " : "owner ") + who(text);
  }

  @Override
  public FileFacts owned(int resource, String text) {
    OrderedList list = list(resource);
    String id = id(text);
    Trustees more = names.with(facts.trustees, id);
    OrderedList owned =
        text.startsWith(GROUP)
            ? list.groupedBy(who(text), more.find(id))
            : list.ownedBy(who(text), more.find(id));
    return facts.with(Map.of(resource, owned), more);
  }

  @Override
  public FileFacts without(int resource, String text) {
    return facts;
  }
}
