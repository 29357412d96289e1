package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Hindrance;

/**
 * What makes the lists of a system as they are in another model: entries are removed, and those
 * that are there added. What a list hands on goes and comes with the entry that is handed on. Not
 * thread-safe.
 */
final class ListsAsIn {
  private final SystemView view;
  private final SystemView there;

  /** Entries that are not there, by place and text; a list may say the same twice. */
  private final Map<String, List<Step>> gone = new LinkedHashMap<>();

  private final List<Step> come = new ArrayList<>();
  private final List<Step> taken = new ArrayList<>();
  private final Set<String> owned = new HashSet<>();
  private final List<String> missing = new ArrayList<>();

  /** Compares. O(entries). */
  ListsAsIn(AccessModel now, SystemView view, AccessModel other, SystemView there) {
    this.view = view;
    this.there = there;
    items(now, other);
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
            t ->
                gone.computeIfAbsent(at + " " + t, k -> new ArrayList<>())
                    .add(new Step.Entry(view.id(), grant.id(), says, true)));
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

  /** Who owns what, and entries for what is made later. */
  private void items(AccessModel now, AccessModel other) {
    Set<List<String>> has = items(view, now, now);
    Set<List<String>> had = items(there, other, now);
    for (List<String> item : had) {
      boolean known = view.resources().find(item.get(0)).isPresent();
      if (known && !has.contains(item)) {
        come.add(new Step.ListItem(view.id(), item.get(0), item.get(1), true));
        owned.add(item.get(0));
      }
    }
    for (List<String> item : has) {
      boolean exclusive = view.system().isExclusive(item.get(1));
      boolean known = there.resources().find(item.get(0)).isPresent();
      if (known && !had.contains(item) && (!exclusive || owned.contains(item.get(0)))) {
        taken.add(new Step.ListItem(view.id(), item.get(0), item.get(1), false));
      }
    }
  }

  /** The items of a system by place and text, of those who are known here. */
  private static Set<List<String>> items(SystemView of, AccessModel model, AccessModel now) {
    Set<List<String>> all = new LinkedHashSet<>();
    of.system()
        .items()
        .forEach(
            (subject, some) -> {
              if (now.facts().find(model.facts().key(subject)).isPresent()) {
                some.stream()
                    .filter(i -> of.system().hindrance(i) != Hindrance.BY_HAND)
                    .forEach(i -> all.add(List.of(of.resources().id(i.resource()), i.text())));
              }
            });
    return all;
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
    List<Step> same = text.map(t -> gone.getOrDefault(at + " " + t, List.of())).orElse(List.of());
    if (!same.isEmpty()) {
      same.remove(same.size() - 1);
      return;
    }
    if (text.isPresent() && view.resources().find(at).isPresent()) {
      come.add(new Step.ListItem(view.id(), at, text.get(), true));
    } else if (there.system().entry(grant).isEmpty() && !owned.contains(at)) {
      missing.add(says);
    }
  }

  /** Removals, then what is added. */
  List<Step> steps() {
    List<Step> steps = new ArrayList<>();
    gone.values().forEach(steps::addAll);
    steps.addAll(taken);
    steps.addAll(come);
    return steps;
  }

  /** What is there and cannot be added here. */
  List<String> missing() {
    return missing;
  }
}
