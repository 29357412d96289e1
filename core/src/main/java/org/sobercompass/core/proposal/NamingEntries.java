package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Redefinition;

/**
 * The entries of the lists of one system that name somebody, taken out or written for somebody
 * else: one step after the other, so that entries for the same trustee become one where a list has
 * one each. O(entries) once, then what each asks for. Use once; not thread-safe.
 */
public final class NamingEntries {
  private final SystemView view;
  private final Map<ListWish.Edit, Boolean> edits = new LinkedHashMap<>();
  private final Map<Integer, List<ListWish.Edit>> pending = new HashMap<>();
  private final Set<List<Integer>> written = new HashSet<>();
  private @Nullable Map<Integer, List<Integer>> bySubject;
  private AccessSystem now;

  /** Of a system with lists. */
  public NamingEntries(SystemView view) {
    this.view = view;
    this.now = view.system();
  }

  /** All systems with lists, those of directories among them. */
  public static List<SystemView> systems(AccessModel model) {
    return Steps.systems(model).filter(view -> view.system().isOfLists()).toList();
  }

  /** The entries that name a subject and stand by themselves, by where and what they say. */
  public List<ListWish.Edit> of(int subject) {
    List<ListWish.Edit> found = new ArrayList<>();
    for (int g : grants().getOrDefault(subject, List.of())) {
      if (names(g, subject)) {
        int resource = view.grants().get(g).resource();
        view.system()
            .entryText(g)
            .ifPresent(text -> found.add(new ListWish.Edit(resource, text, true)));
      }
    }
    return found;
  }

  private Map<Integer, List<Integer>> grants() {
    Map<Integer, List<Integer>> known = bySubject;
    if (known == null) {
      known = new HashMap<>();
      List<Grant> all = view.grants();
      for (int g = 0; g < all.size(); g++) {
        Grant grant = all.get(g);
        if (grant.subject() >= 0 && !grant.isWithdrawn() && !grant.declared()) {
          known.computeIfAbsent(grant.subject(), s -> new ArrayList<>()).add(g);
        }
      }
      bySubject = known;
    }
    return known;
  }

  /** Whether an entry names somebody: that of the owner does not, whoever it is. */
  private boolean names(int grant, int subject) {
    try {
      return !view.system().entryFor(grant, subject).isEmpty();
    } catch (IllegalArgumentException e) {
      // By an id that lists would not be written with any more.
      return true;
    }
  }

  /** Takes out what names somebody. */
  public void take(int subject) {
    of(subject).forEach(entry -> apply(new ListWish.Edit(entry.resource(), entry.text(), false)));
  }

  /**
   * Writes for another what names somebody, where a list does not say it already.
   *
   * @throws IllegalArgumentException when the lists could not name that subject
   */
  public void copy(int subject, int other) {
    of(subject).forEach(entry -> copy(entry, other));
  }

  /**
   * Writes one entry for another.
   *
   * @return the edits that it took; none where the list says so already
   * @throws IllegalArgumentException when the lists could not name that subject
   */
  public List<ListWish.Edit> copy(ListWish.Edit entry, int other) {
    // What was written for the same before must stand, so that the two become one.
    if (!written.add(List.of(entry.resource(), other))) {
      flush(entry.resource());
    }
    OptionalInt grant = now.entryOf(entry.resource(), entry.text());
    if (grant.isEmpty()) {
      return List.of();
    }
    List<ListWish.Edit> made = now.entryFor(grant.getAsInt(), other);
    made.forEach(this::apply);
    return made;
  }

  /** Takes out one entry. */
  public void take(ListWish.Edit entry) {
    apply(new ListWish.Edit(entry.resource(), entry.text(), false));
  }

  /** Makes what waits for one resource. */
  private void flush(int resource) {
    List<ListWish.Edit> waiting = pending.remove(resource);
    for (ListWish.Edit edit : waiting == null ? List.<ListWish.Edit>of() : waiting) {
      OptionalInt there = now.entryOf(resource, edit.text());
      if (edit.added() != there.isPresent()) {
        now =
            edit.added()
                ? now.redefined(new Redefinition.ListItem(resource, edit.text()))
                : now.with(
                    List.of(new Change.AssignmentRemoved(view.number(), there.getAsInt())),
                    view.basis());
      }
    }
  }

  private void apply(ListWish.Edit edit) {
    ListWish.Edit opposite = new ListWish.Edit(edit.resource(), edit.text(), !edit.added());
    List<ListWish.Edit> waiting = pending.computeIfAbsent(edit.resource(), r -> new ArrayList<>());
    boolean there = now.entryOf(edit.resource(), edit.text()).isPresent();
    for (ListWish.Edit before : waiting) {
      there = before.text().equals(edit.text()) ? before.added() : there;
    }
    if (edit.added() == there) {
      return;
    }
    waiting.add(edit);
    // What came and goes again in between is no step.
    if (edits.remove(opposite) == null) {
      edits.put(edit, true);
    }
  }

  /** The steps, removals before what comes in their place. */
  public List<Step> steps() {
    List<Step> steps = new ArrayList<>();
    for (boolean added : new boolean[] {false, true}) {
      for (ListWish.Edit edit : edits.keySet()) {
        if (edit.added() == added) {
          steps.add(step(edit));
        }
      }
    }
    return steps;
  }

  /** An edit as a step. */
  public Step step(ListWish.Edit edit) {
    String at = view.resources().id(edit.resource());
    return new Step.ListItem(view.id(), at, edit.text(), edit.added());
  }
}
