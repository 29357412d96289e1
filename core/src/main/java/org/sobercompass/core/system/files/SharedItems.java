package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Trustees;

/** Who owns paths with descriptors: {@code owner:} and a SID. */
final class SharedItems implements ListItems {
  private final FileFacts facts;
  private final FileTrustees names;

  SharedItems(FileFacts facts, FileTrustees names) {
    this.facts = facts;
    this.names = names;
  }

  private OrderedList list(int resource) {
    return (OrderedList) facts.readList(resource);
  }

  private static String sid(String text) {
    if (!text.startsWith(OWNER)) {
      throw new IllegalArgumentException("expected owner: and a SID, as in owner:S-1-5-21-1-2-3-4");
    }
    return text.substring(OWNER.length());
  }

  @Override
  public Map<Integer, List<ListWish.Edit>> all() {
    Map<Integer, List<ListWish.Edit>> all = new HashMap<>();
    for (int r = 0; r < facts.tree.size(); r++) {
      int owner = facts.list(r).map(FileList::owner).orElse(-1);
      int subject = owner < 0 ? -1 : facts.trustees.subject(owner);
      if (subject >= 0) {
        all.computeIfAbsent(subject, s -> new ArrayList<>())
            .add(new ListWish.Edit(r, OWNER + facts.trustees.text(owner), true));
      }
    }
    return all;
  }

  @Override
  public String renamed(String text, String id) {
    return OWNER + id;
  }

  @Override
  public boolean has(int resource, String text) {
    if (!ListItems.isOwner(text)) {
      return false;
    }
    int owner = list(resource).owner();
    return owner >= 0 && facts.trustees.text(owner).equals(sid(text));
  }

  @Override
  public String words(String text) {
    String sid = sid(text);
    return "owner " + names.subject(sid).orElseGet(() -> WellKnown.name(sid).orElse(sid));
  }

  @Override
  public FileFacts owned(int resource, String text) {
    String sid = sid(text);
    OrderedList list = list(resource);
    Trustees more = names.with(facts.trustees, sid);
    return facts.with(Map.of(resource, list.ownedBy(sid, more.find(sid))), more);
  }

  @Override
  public FileFacts without(int resource, String text) {
    return facts;
  }
}
