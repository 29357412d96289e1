package org.sobercompass.core.system.files;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Arrivals;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.files.FileInheritance.Handed;

/** The lists below a path whose list got more. Not thread-safe. */
final class ListsBelow {
  private final OrderedForm form;
  private final FileFacts facts;
  private final Trustees all;
  private final Map<Integer, FileList> changed;
  private final Map<List<Object>, FileList> known = new HashMap<>();

  ListsBelow(OrderedForm form, FileFacts facts, Trustees all, Map<Integer, FileList> changed) {
    this.form = form;
    this.facts = facts;
    this.all = all;
    this.changed = changed;
  }

  void down(int top) {
    for (int r = top + 1; r < facts.tree.end(top); r++) {
      int parent = facts.tree.parent(r);
      FileList above = changed.get(parent);
      FileList own = facts.list(r).orElse(null);
      if (above instanceof OrderedList now
          && own instanceof OrderedList before
          && !before.descriptor.isProtected()
          && before.descriptor.dacl().isPresent()) {
        OrderedList was = (OrderedList) facts.list(parent).orElseThrow();
        boolean folder = facts.isFolder(r);
        FileList gets =
            known.computeIfAbsent(
                List.of(was, now, before, folder), k -> with(was, now, before, folder));
        if (gets != before) {
          changed.put(r, gets);
        }
      }
    }
  }

  private FileList with(OrderedList was, OrderedList now, OrderedList own, boolean folder) {
    OrderedList list = own;
    for (Arrivals.Arrival arrival :
        Arrivals.of(
            own.descriptor.entries(),
            handed(was, folder, own),
            handed(now, folder, own),
            FileInheritance::same)) {
      Ace ace = arrival.ace();
      list = list.with(arrival.at(), ace, form.trustee(all, list, facts, ace));
    }
    return list;
  }

  private static List<Ace> handed(OrderedList above, boolean folder, OrderedList own) {
    return FileInheritance.handed(above.descriptor, folder, own.descriptor).stream()
        .filter(one -> !above.isRemoved(one.from()))
        .map(Handed::ace)
        .toList();
  }
}
