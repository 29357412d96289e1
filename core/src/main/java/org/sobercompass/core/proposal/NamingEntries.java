package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
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
 * one each. Use once; not thread-safe.
 */
final class NamingEntries {
  private final SystemView view;
  private final Map<ListWish.Edit, Boolean> edits = new LinkedHashMap<>();
  private AccessSystem now;

  /** Of a system with lists. */
  NamingEntries(SystemView view) {
    this.view = view;
    this.now = view.system();
  }

  /** Of all systems with lists, those of directories among them. */
  static List<SystemView> systems(AccessModel model) {
    return Steps.systems(model).filter(view -> view.system().isOfLists()).toList();
  }

  /** The entries that name a subject and stand by themselves, by where and what they say. */
  List<ListWish.Edit> of(int subject) {
    List<ListWish.Edit> found = new ArrayList<>();
    for (int g = 0; g < view.grants().size(); g++) {
      Grant grant = view.grants().get(g);
      boolean given = grant.subject() == subject && !grant.isWithdrawn() && !grant.declared();
      if (given && names(g, subject)) {
        view.system()
            .entryText(g)
            .ifPresent(text -> found.add(new ListWish.Edit(grant.resource(), text, true)));
      }
    }
    return found;
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
  void take(int subject) {
    of(subject).forEach(entry -> apply(new ListWish.Edit(entry.resource(), entry.text(), false)));
  }

  /** Writes for another what names somebody, where a list does not say it already. */
  void copy(int subject, int other) {
    for (ListWish.Edit entry : of(subject)) {
      OptionalInt grant = now.entryOf(entry.resource(), entry.text());
      if (grant.isPresent()) {
        now.entryFor(grant.getAsInt(), other).forEach(this::apply);
      }
    }
  }

  private void apply(ListWish.Edit edit) {
    OptionalInt there = now.entryOf(edit.resource(), edit.text());
    if (edit.added() == there.isPresent()) {
      return;
    }
    ListWish.Edit opposite = new ListWish.Edit(edit.resource(), edit.text(), !edit.added());
    now =
        edit.added()
            ? now.redefined(new Redefinition.ListItem(edit.resource(), edit.text()))
            : now.with(
                List.of(new Change.AssignmentRemoved(view.number(), there.orElseThrow())),
                view.basis());
    // What came and goes again in between is no step.
    if (edits.remove(opposite) == null) {
      edits.put(edit, true);
    }
  }

  /** The steps, removals before what comes in their place. */
  List<Step> steps() {
    List<Step> steps = new ArrayList<>();
    for (boolean added : new boolean[] {false, true}) {
      for (ListWish.Edit edit : edits.keySet()) {
        if (edit.added() == added) {
          String at = view.resources().id(edit.resource());
          steps.add(new Step.ListItem(view.id(), at, edit.text(), added));
        }
      }
    }
    return steps;
  }
}
