package org.sobercompass.core.carry;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.proposal.NamingEntries;
import org.sobercompass.core.proposal.OwnRights;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.ListWish;

/**
 * What the lists of one system say of those whose rights are carried, written for their
 * counterparts. Where an entry that names an account decides alone, it says what decided for the
 * one and for the other before: as the owner, by name, by groups, or as everybody. Use once; not
 * thread-safe.
 */
final class CarriedLists {
  private static final String NOTHING = "---";

  private final Facts facts;
  private final OwnRights own;
  private final SystemView view;
  private final NamingEntries naming;
  private final List<Listed> listed = new ArrayList<>();
  private final Map<Integer, Integer> carried = new LinkedHashMap<>();
  private final Map<Integer, Map<Integer, List<ListWish.Edit>>> entriesOf = new HashMap<>();
  private final Map<Integer, Set<Integer>> allAbove = new HashMap<>();

  /**
   * Whose entries are written for whom.
   *
   * @param owner whom they name
   * @param who for whom they are carried: a member, where the owner is a group
   * @param to the counterpart
   * @param moves whether they are taken from the owner
   */
  record Whose(int owner, int who, int to, boolean moves) {}

  /** An entry or item that was written for another. */
  private record Listed(Whose whose, ListWish.Edit entry, List<ListWish.Edit> made, boolean ends) {}

  CarriedLists(Facts facts, OwnRights own, SystemView view) {
    this.facts = facts;
    this.own = own;
    this.view = view;
    this.naming = new NamingEntries(view);
  }

  /** The number of the grant that an entry is; -1 where it is none. */
  int grant(ListWish.Edit entry) {
    return naming.grant(entry);
  }

  /** Whether any list names a subject, or is owned by it. */
  boolean isNamed(int subject) {
    return !naming.of(subject).isEmpty() || !naming.ofOwner(subject).isEmpty();
  }

  /**
   * Writes entries for another.
   *
   * @param may whether an entry may be carried
   * @throws IllegalArgumentException when the lists could not name the other
   */
  void carry(Whose whose, Predicate<ListWish.Edit> may) {
    carried.put(whose.who, whose.to);
    List<ListWish.Edit> items = naming.items(whose.owner);
    Set<Integer> givesUp = new HashSet<>();
    items.stream()
        .filter(i -> whose.moves && view.system().isExclusive(i.text()) && may.test(i))
        .forEach(i -> givesUp.add(i.resource()));
    for (ListWish.Edit entry : naming.of(whose.owner)) {
      boolean comes =
          givesUp.contains(entry.resource()) && view.system().goesWithOwner(naming.grant(entry));
      if (may.test(entry) && !comes) {
        write(whose, entry, whose.moves);
      }
    }
    for (ListWish.Edit entry : naming.ofOwner(whose.owner)) {
      if (may.test(entry) && !givesUp.contains(entry.resource())) {
        write(whose, entry, false);
      }
    }
    for (ListWish.Edit item : items) {
      boolean exclusive = view.system().isExclusive(item.text());
      if ((whose.moves || !exclusive) && may.test(item)) {
        List<ListWish.Edit> made = List.of(naming.item(item, whose.to));
        listed.add(new Listed(whose, item, made, whose.moves && !exclusive));
      }
    }
  }

  private void write(Whose whose, ListWish.Edit entry, boolean ends) {
    boolean later = view.system().namedDecides();
    if (later) {
      // What cannot be named is told at once.
      view.system().writing(entry.resource(), NOTHING, whose.to);
    }
    List<ListWish.Edit> made = later ? List.of() : naming.copy(entry, whose.to);
    listed.add(new Listed(whose, entry, made, ends));
  }

  /**
   * Where a list names the counterpart, what it gets through groups must stand in its own entry.
   */
  private void throughGroups(int who, int to) {
    boolean accounts =
        facts.kind(who) == SubjectKind.ACCOUNT && facts.kind(to) == SubjectKind.ACCOUNT;
    if (accounts && view.system().namedDecides()) {
      Set<Integer> resources = new LinkedHashSet<>(at(to, false).keySet());
      resources.addAll(at(to, true).keySet());
      Set<ListWish.Edit> known = new HashSet<>();
      if (!resources.isEmpty()) {
        listed.stream().filter(one -> one.whose.to == to).forEach(one -> known.add(one.entry));
      }
      for (int resource : resources) {
        for (ListWish.Edit entry : decidingFor(resource, who)) {
          if (known.add(entry)) {
            listed.add(new Listed(new Whose(who, who, to, false), entry, List.of(), false));
          }
        }
      }
    }
  }

  /** What all of it comes to, when all is known: of several entries for the same one is made. */
  List<CarriedRight> made() {
    carried.forEach((who, to) -> throughGroups(who, to));
    Map<List<Integer>, Set<Integer>> decided = new LinkedHashMap<>();
    for (Listed one : listed) {
      if (one.made.isEmpty()) {
        decided
            .computeIfAbsent(
                List.of(one.entry.resource(), one.whose.to), k -> new LinkedHashSet<>())
            .add(one.whose.who);
      }
    }
    Map<List<Integer>, List<ListWish.Edit>> written = new HashMap<>();
    decided.forEach((at, who) -> written.put(at, deciding(at.get(0), at.get(1), who)));
    // What goes is read until all is written.
    listed.stream().filter(Listed::ends).forEach(one -> naming.take(one.entry, one.whose.owner));
    Map<List<Integer>, List<ListWish.Edit>> edits = naming.byResource();
    List<CarriedRight> rights = new ArrayList<>();
    for (Listed one : listed) {
      List<Integer> at = List.of(one.entry.resource(), one.whose.to);
      rights.add(
          right(one, edits.getOrDefault(at, List.of()), written.getOrDefault(at, List.of())));
    }
    return rights;
  }

  private CarriedRight right(Listed one, List<ListWish.Edit> todo, List<ListWish.Edit> written) {
    Step gone = naming.step(new ListWish.Edit(one.entry.resource(), one.entry.text(), false));
    List<Step> makes = new ArrayList<>();
    if (view.system().isExclusive(one.entry.text()) && !todo.isEmpty()) {
      makes.add(gone);
    }
    List<ListWish.Edit> all = !todo.isEmpty() ? todo : one.made.isEmpty() ? written : one.made;
    all.forEach(edit -> makes.add(naming.step(edit)));
    return new CarriedRight(
        one.whose.owner,
        one.whose.to,
        naming.step(one.entry),
        makes,
        one.ends ? List.of(gone) : List.of(),
        todo.isEmpty());
  }

  /** Writes the one entry that decides for an account what decided for some and for itself. */
  private List<ListWish.Edit> deciding(int resource, int to, Set<Integer> from) {
    List<ListWish.Edit> entries = new ArrayList<>();
    boolean everybody = false;
    if (facts.kind(to) == SubjectKind.ACCOUNT) {
      Set<Integer> all = new LinkedHashSet<>(from);
      all.add(to);
      for (int who : all) {
        List<ListWish.Edit> deciding = decidingFor(resource, who);
        entries.addAll(deciding);
        everybody |= deciding.isEmpty();
      }
    } else {
      from.forEach(group -> entries.addAll(named(resource, group)));
    }
    return naming.together(resource, entries, everybody, to).stream()
        .filter(ListWish.Edit::added)
        .reduce((a, b) -> b)
        .stream()
        .toList();
  }

  /** The entries of a group: as the owning group, and by name. */
  private List<ListWish.Edit> named(int resource, int group) {
    List<ListWish.Edit> all = new ArrayList<>(at(group, true).getOrDefault(resource, List.of()));
    all.addAll(at(group, false).getOrDefault(resource, List.of()));
    return all;
  }

  /** The entries that decide for an account: its own as the owner, or by name, or of its groups. */
  private List<ListWish.Edit> decidingFor(int resource, int account) {
    for (boolean asOwner : new boolean[] {true, false}) {
      List<ListWish.Edit> own = at(account, asOwner).getOrDefault(resource, List.of());
      if (!own.isEmpty()) {
        return own;
      }
    }
    List<ListWish.Edit> all = new ArrayList<>();
    for (int group : above(account)) {
      all.addAll(named(resource, group));
    }
    return all;
  }

  /** The entries of a subject by resource: as the owner, or by its name. */
  private Map<Integer, List<ListWish.Edit>> at(int subject, boolean asOwner) {
    return entriesOf.computeIfAbsent(
        asOwner ? subject : -1 - subject,
        k -> {
          Map<Integer, List<ListWish.Edit>> at = new HashMap<>();
          for (ListWish.Edit entry : asOwner ? naming.ofOwner(subject) : naming.of(subject)) {
            at.computeIfAbsent(entry.resource(), r -> new ArrayList<>()).add(entry);
          }
          return at;
        });
  }

  /** All groups that a subject is in for sure. */
  private Set<Integer> above(int subject) {
    return allAbove.computeIfAbsent(
        subject,
        s -> {
          Set<Integer> met = new LinkedHashSet<>();
          List<Integer> todo = new ArrayList<>(List.of(s));
          while (!todo.isEmpty()) {
            own.memberships(todo.remove(todo.size() - 1))
                .filter(membership -> membership.via().isSure())
                .forEach(
                    membership -> {
                      if (met.add(membership.group())) {
                        todo.add(membership.group());
                      }
                    });
          }
          return met;
        });
  }
}
