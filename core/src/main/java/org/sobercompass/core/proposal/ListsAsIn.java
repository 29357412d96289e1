package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.Grant;

/**
 * What makes the lists of a system as they are in another model: entries are removed, and those
 * that are there added. What a list hands on goes and comes with the entry that is handed on. Not
 * thread-safe.
 */
final class ListsAsIn {
  private final SystemView view;
  private final SystemView there;
  private final Map<String, Step> gone = new LinkedHashMap<>();
  private final List<Step> come = new ArrayList<>();
  private final List<String> missing = new ArrayList<>();

  /** Compares. O(entries). */
  ListsAsIn(AccessModel now, SystemView view, AccessModel other, SystemView there) {
    this.view = view;
    this.there = there;
    Map<String, Integer> had = said(there, other);
    Map<String, Integer> has = said(view, now);
    Steps own = new Steps(now);
    for (int g = 0; g < view.grants().size(); g++) {
      Grant grant = view.grants().get(g);
      if (!grant.isWithdrawn()) {
        String says = own.words(view, grant);
        boolean more = had.merge(says, -1, Integer::sum) < 0;
        Optional<String> text = more ? view.system().entryText(g) : Optional.empty();
        String at = view.resources().id(grant.resource());
        text.ifPresent(
            t -> gone.put(at + " " + t, new Step.Entry(view.id(), grant.id(), says, true)));
      }
    }
    Steps words = new Steps(other);
    for (int g = 0; g < there.grants().size(); g++) {
      Grant grant = there.grants().get(g);
      if (!grant.isWithdrawn()) {
        String says = words.words(there, grant);
        if (has.merge(says, -1, Integer::sum) < 0) {
          comes(g, says);
        }
      }
    }
  }

  /** What the entries of a system say, and how often. */
  private static Map<String, Integer> said(SystemView view, AccessModel model) {
    Map<String, Integer> said = new HashMap<>();
    Steps words = new Steps(model);
    for (Grant grant : view.grants()) {
      if (!grant.isWithdrawn()) {
        said.merge(words.words(view, grant), 1, Integer::sum);
      }
    }
    return said;
  }

  /**
   * An entry that is not here is added, unless it only reads otherwise, as under another mask; one
   * that cannot be added is told, but for what comes from above.
   */
  private void comes(int grant, String says) {
    Optional<String> text = there.system().entryText(grant);
    String at = there.resources().id(there.grants().get(grant).resource());
    if (text.isPresent() && gone.remove(at + " " + text.get()) != null) {
      return;
    }
    if (text.isPresent() && view.resources().find(at).isPresent()) {
      come.add(new Step.ListItem(view.id(), at, text.get(), true));
    } else if (there.system().entry(grant).isEmpty()) {
      missing.add(says);
    }
  }

  /** Removals, then what is added. */
  List<Step> steps() {
    List<Step> steps = new ArrayList<>(gone.values());
    steps.addAll(come);
    return steps;
  }

  /** What is there and cannot be added here. */
  List<String> missing() {
    return missing;
  }
}
