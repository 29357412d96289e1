package org.sobercompass.core.facts;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicReferenceArray;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.filter.Syntax;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.store.NameIndex;

/**
 * Finds subjects by what people write: login or short name, mail, display name, DN, id or key. Case
 * and runs of spaces do not count. An index for each form of name is made on first use, O(n log n),
 * and then shared; thread-safe.
 */
public final class FactsNames {
  private static final int ID = 0;
  private static final int DN = 1;
  private static final int LOGIN = 2;
  private static final int FORMS = 5;

  private final Facts facts;
  private final AtomicReferenceArray<@Nullable NameIndex> indexes =
      new AtomicReferenceArray<>(FORMS);

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
    String folded = Syntax.fold(name);
    Set<Integer> found = new LinkedHashSet<>(matches(kind, ID, stripKey(kind, name)));
    if (dnForm.indexOf('=') > 0) {
      found.addAll(matches(kind, DN, dnForm));
    }
    for (int form = LOGIN; found.isEmpty() && form < FORMS; form++) {
      found.addAll(matches(kind, form, folded));
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
      if (group != Implicit.UNREAD && group.id().equals(name)) {
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

  private List<Integer> matches(SubjectKind kind, int form, String wanted) {
    List<Integer> found = new ArrayList<>();
    IntFunction<String> text = text(form);
    for (int candidate : index(form).candidates(wanted)) {
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

  private NameIndex index(int form) {
    NameIndex made = indexes.get(form);
    return made == null ? make(form) : made;
  }

  /** One thread makes it, the others wait for it. */
  private synchronized NameIndex make(int form) {
    NameIndex made = indexes.get(form);
    if (made == null) {
      made = NameIndex.of(facts.subjects(), text(form));
      indexes.set(form, made);
    }
    return made;
  }

  /** The nearest name of an attribute that is filled or usual, lower case; empty when none is. */
  public String nearestAttribute(String attribute) {
    Set<String> known = new TreeSet<>(facts.arrays().columns().keySet());
    known.addAll(Syntax.known());
    known.remove(attribute);
    return Spelling.nearest(attribute, known).orElse("");
  }
}
