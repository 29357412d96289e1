package org.sobercompass.core.facts;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.IntFunction;
import org.sobercompass.core.filter.Syntax;
import org.sobercompass.core.store.NameIndex;
import org.jspecify.annotations.Nullable;

/**
 * Finds subjects by what people write: login or short name, mail, display name, DN, id or key. Case
 * and runs of spaces do not count. The indexes are made on first use, O(n log n), and then shared;
 * thread-safe.
 */
public final class FactsNames {
  private final Facts facts;
  private volatile @Nullable List<NameIndex> indexes;

  FactsNames(Facts facts) {
    this.facts = facts;
  }

  /**
   * All subjects of a kind that {@code name} fits, ascending. The strongest form of name that fits
   * anything wins: key, id or DN, then login, then mail, then display name.
   *
   * @param kind the kind looked for
   * @param name what was written
   * @param dnForm the canonical form of {@code name} if it may be a DN, else {@code name}
   */
  public List<Integer> find(SubjectKind kind, String name, String dnForm) {
    if (kind == SubjectKind.IMPLICIT) {
      return implicit(name);
    }
    List<NameIndex> all = indexes();
    String folded = Syntax.fold(name);
    String id = stripKey(kind, name);
    List<Integer> strong = matches(kind, all.get(0), id, s -> facts.arrays().id().get(s));
    Set<Integer> found = new LinkedHashSet<>(strong);
    found.addAll(matches(kind, all.get(1), dnForm, s -> facts.arrays().dnForm().get(s)));
    for (int form = 2; found.isEmpty() && form < all.size(); form++) {
      found.addAll(matches(kind, all.get(form), folded, text(form)));
    }
    return found.stream().sorted().toList();
  }

  /** All login names, mail addresses and display names of a kind; for spelling suggestions. */
  public List<String> known(SubjectKind kind) {
    List<String> names = new ArrayList<>();
    for (int s = first(kind); s < last(kind); s++) {
      for (String name : List.of(facts.login(s), facts.label(s), facts.mail(s))) {
        if (!name.isEmpty()) {
          names.add(name);
        }
      }
    }
    return names;
  }

  private List<Integer> implicit(String name) {
    for (Implicit group : Implicit.values()) {
      if (group.id().equals(name)) {
        return List.of(facts.implicit(group));
      }
    }
    return List.of();
  }

  private String stripKey(SubjectKind kind, String name) {
    int slash = name.indexOf('/');
    String prefix = kind.keyKind().word() + ":";
    return slash > 0 && name.startsWith(prefix) ? name.substring(slash + 1) : name;
  }

  private List<Integer> matches(
      SubjectKind kind, NameIndex index, String wanted, IntFunction<String> text) {
    List<Integer> found = new ArrayList<>();
    for (int candidate : index.candidates(wanted)) {
      boolean inKind = candidate >= first(kind) && candidate < last(kind);
      if (inKind && text.apply(candidate).equals(wanted)) {
        found.add(candidate);
      }
    }
    return found;
  }

  private int first(SubjectKind kind) {
    return switch (kind) {
      case ACCOUNT -> 0;
      case GROUP -> facts.firstGroup();
      case IMPLICIT -> facts.firstGroup() + facts.groups();
      case UNIT -> facts.firstUnit();
    };
  }

  private int last(SubjectKind kind) {
    return switch (kind) {
      case ACCOUNT -> facts.accounts();
      case GROUP -> facts.firstGroup() + facts.groups();
      case IMPLICIT -> facts.firstUnit();
      case UNIT -> facts.subjects();
    };
  }

  private IntFunction<String> text(int form) {
    Facts.Arrays a = facts.arrays();
    return switch (form) {
      case 0 -> s -> a.id().get(s);
      case 1 -> s -> a.dnForm().get(s);
      case 2 -> s -> Syntax.fold(a.login().get(s));
      case 3 -> s -> Syntax.fold(a.mail().get(s));
      default -> s -> Syntax.fold(a.display().get(s));
    };
  }

  private List<NameIndex> indexes() {
    List<NameIndex> made = indexes;
    if (made == null) {
      made = new ArrayList<>();
      for (int form = 0; form < 5; form++) {
        made.add(NameIndex.of(facts.subjects(), text(form)));
      }
      indexes = made;
    }
    return made;
  }
}
