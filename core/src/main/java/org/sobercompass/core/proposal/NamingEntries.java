package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiPredicate;
import java.util.stream.Collectors;
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
  private static final int NOBODY = -1;

  private final SystemView view;
  private final Map<Integer, List<ListWish.Edit>> found = new HashMap<>();
  private final Map<ListWish.Edit, Integer> grantOf = new HashMap<>();
  private final Map<Integer, String> ids = new HashMap<>();
  private final Set<Integer> anew = new HashSet<>();
  private final Map<ListWish.Edit, Integer> edits = new LinkedHashMap<>();
  private final Map<List<Integer>, List<String>> items = new HashMap<>();
  private final Map<Integer, List<ListWish.Edit>> pending = new HashMap<>();
  private final Set<List<Integer>> written = new HashSet<>();
  private @Nullable Map<Integer, List<int[]>> bySubject;
  private @Nullable Map<Integer, List<ListWish.Edit>> itemsOf;
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
    return of(subject, true);
  }

  /** The entries by which a subject has something as the owner, not by its name. */
  public List<ListWish.Edit> ofOwner(int subject) {
    return of(subject, false);
  }

  private List<ListWish.Edit> of(int subject, boolean byName) {
    return found.computeIfAbsent(
        byName ? subject : -1 - subject,
        k -> {
          List<ListWish.Edit> all = new ArrayList<>();
          for (int[] one : grants().getOrDefault(subject, List.of())) {
            int g = one[0];
            int resource = one[1];
            if (names(g, subject) == byName && (byName || view.system().entry(g).isPresent())) {
              view.system()
                  .entryText(g)
                  .map(text -> new ListWish.Edit(resource, text, true))
                  .ifPresent(
                      entry -> {
                        all.add(entry);
                        grantOf.put(entry, g);
                      });
            }
          }
          return all;
        });
  }

  /** The number of the grant that one of these entries is, or -1. */
  public int grant(ListWish.Edit entry) {
    return grantOf.getOrDefault(entry, -1);
  }

  /** What lists say of a subject that is no grant: what it owns, entries for what is made later. */
  public List<ListWish.Edit> items(int subject) {
    return items().getOrDefault(subject, List.of());
  }

  private Map<Integer, List<ListWish.Edit>> items() {
    Map<Integer, List<ListWish.Edit>> known = itemsOf;
    if (known == null) {
      known = view.system().items();
      itemsOf = known;
    }
    return known;
  }

  /** The grants to each subject, each with its resource. */
  private Map<Integer, List<int[]>> grants() {
    Map<Integer, List<int[]>> known = bySubject;
    if (known == null) {
      known = new HashMap<>();
      List<Grant> all = view.grants();
      for (int g = 0; g < all.size(); g++) {
        Grant grant = all.get(g);
        if (grant.subject() >= 0 && !grant.isWithdrawn() && !grant.declared()) {
          known
              .computeIfAbsent(grant.subject(), s -> new ArrayList<>())
              .add(new int[] {g, grant.resource()});
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

  /**
   * Writes entries and items that name somebody by an id kept from an earlier directory by the
   * present one.
   *
   * @param byFormer whether an entry names a subject by such an id
   */
  void present(BiPredicate<Integer, String> byFormer) {
    Set<Integer> subjects = new TreeSet<>(grants().keySet());
    subjects.addAll(items().keySet());
    for (int subject : subjects) {
      for (ListWish.Edit entry : of(subject)) {
        OptionalInt grant = view.system().entryOf(entry.resource(), entry.text());
        if (grant.isPresent() && byFormer.test(subject, entry.text())) {
          take(entry);
          view.system().entryFor(grant.getAsInt(), subject).forEach(edit -> apply(edit, subject));
        }
      }
      items(subject).stream()
          .filter(item -> byFormer.test(subject, item.text()))
          .forEach(item -> item(item, subject));
    }
  }

  /** Takes out what names somebody. */
  public void take(int subject) {
    of(subject).forEach(this::take);
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
    List<ListWish.Edit> made = grant.isEmpty() ? List.of() : now.entryFor(grant.getAsInt(), other);
    made.forEach(edit -> apply(edit, other));
    return made;
  }

  /**
   * Takes out one entry, also where it was written otherwise meanwhile, for somebody else's sake.
   */
  public void take(ListWish.Edit entry, int subject) {
    ListWish.Edit gone = new ListWish.Edit(entry.resource(), entry.text(), false);
    boolean otherwise = edits.containsKey(gone);
    apply(gone, NOBODY);
    List<ListWish.Edit> waiting = pending.getOrDefault(entry.resource(), List.of());
    if (otherwise) {
      List<ListWish.Edit> added = waiting.stream().filter(ListWish.Edit::added).toList();
      flush(entry.resource());
      for (ListWish.Edit edit : added) {
        OptionalInt grant = now.entryOf(entry.resource(), edit.text());
        if (grant.isPresent()
            && now.grants(view.basis()).get(grant.getAsInt()).subject() == subject) {
          take(edit);
        }
      }
    }
  }

  /**
   * Writes for another what some entries give together, where one that names it decides alone.
   *
   * @param everybody whether also what everybody may there
   * @return the edits that it took, or the entry that says so already
   */
  public List<ListWish.Edit> together(
      int resource, List<ListWish.Edit> entries, boolean everybody, int other) {
    List<Integer> grants = entries.stream().map(grantOf::get).toList();
    String what = view.system().together(resource, grants, everybody);
    List<ListWish.Edit> made = now.writing(resource, what, other);
    boolean writesAnew = made.stream().anyMatch(edit -> !edit.added());
    // Where entries of others are written anew, all that was written before must stand.
    if (pending.containsKey(resource) && (writesAnew || anew.contains(resource))) {
      flush(resource);
      made = now.writing(resource, what, other);
    }
    if (writesAnew) {
      anew.add(resource);
    }
    made.forEach(edit -> apply(edit, other));
    return made;
  }

  /** Takes out one entry, or one item. */
  public void take(ListWish.Edit it) {
    apply(new ListWish.Edit(it.resource(), it.text(), false), NOBODY);
  }

  /**
   * Writes an item for another; what the list says for the same already becomes one with it.
   *
   * @return it for the other
   * @throws IllegalArgumentException when the lists could not name that subject
   */
  public ListWish.Edit item(ListWish.Edit item, int other) {
    String text = view.system().itemFor(item.text(), other);
    if (view.system().isExclusive(text)) {
      take(item);
    } else {
      List<String> known =
          items.computeIfAbsent(
              List.of(item.resource(), other),
              k ->
                  items(other).stream()
                      .filter(there -> there.resource() == item.resource())
                      .map(ListWish.Edit::text)
                      .filter(there -> !view.system().isExclusive(there))
                      .collect(Collectors.toCollection(ArrayList::new)));
      for (String before : List.copyOf(known)) {
        Optional<String> both = view.system().joined(text, before);
        if (both.isPresent()) {
          known.remove(before);
          text = both.get();
          if (!text.equals(before)) {
            apply(new ListWish.Edit(item.resource(), before, false), other);
          }
        }
      }
      known.add(text);
    }
    ListWish.Edit made = new ListWish.Edit(item.resource(), text, true);
    apply(made, other);
    return made;
  }

  private boolean isThere(ListWish.Edit edit) {
    return now.entryOf(edit.resource(), edit.text()).isPresent()
        || now.hasItem(edit.resource(), edit.text());
  }

  /** Makes what waits for one resource. */
  private void flush(int resource) {
    List<ListWish.Edit> waiting = pending.remove(resource);
    for (ListWish.Edit edit : waiting == null ? List.<ListWish.Edit>of() : waiting) {
      OptionalInt there = now.entryOf(resource, edit.text());
      if (edit.added() != isThere(edit)) {
        now =
            there.isEmpty()
                ? now.redefined(new Redefinition.ListItem(resource, edit.text(), edit.added()))
                : now.with(
                    List.of(new Change.AssignmentRemoved(view.number(), there.getAsInt())),
                    view.basis());
      }
    }
  }

  private void apply(ListWish.Edit edit, int other) {
    ListWish.Edit opposite = new ListWish.Edit(edit.resource(), edit.text(), !edit.added());
    List<ListWish.Edit> waiting = pending.computeIfAbsent(edit.resource(), r -> new ArrayList<>());
    boolean there = isThere(edit);
    for (ListWish.Edit before : waiting) {
      there = before.text().equals(edit.text()) ? before.added() : there;
    }
    if (edit.added() == there) {
      return;
    }
    waiting.add(edit);
    // What came and goes again in between is no step.
    if (edits.remove(opposite) == null) {
      edits.put(edit, other);
    }
  }

  /** What is to be done at each resource for each other, in order, removals first. */
  public Map<List<Integer>, List<ListWish.Edit>> byResource() {
    Map<List<Integer>, List<ListWish.Edit>> all = new HashMap<>();
    for (boolean added : new boolean[] {false, true}) {
      edits.forEach(
          (edit, other) -> {
            if (edit.added() == added) {
              all.computeIfAbsent(List.of(edit.resource(), other), k -> new ArrayList<>())
                  .add(edit);
            }
          });
    }
    return all;
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
    String at = ids.computeIfAbsent(edit.resource(), view.resources()::id);
    return new Step.ListItem(view.id(), at, edit.text(), edit.added());
  }
}
