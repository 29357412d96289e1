package org.sobercompass.core.access;

import java.util.BitSet;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;

/**
 * The subjects of one account after the other, each handed only to the systems that name it: a
 * decider gives the same with them as with all. Not thread-safe.
 */
final class NamedSubjects {
  private static final int NONE = -1;

  private final Asker asker;
  private final IntRows naming;
  private final SystemView[] views;
  private final SubjectSet[] perSystem;
  private final @Nullable SystemView[] firstOfContext;
  private final BitSet wanted;
  private final BitSet asksImplicit = new BitSet();
  private final BitSet named = new BitSet();
  private final boolean oneContext;
  private int account = NONE;

  /** All that all systems name. */
  NamedSubjects(Asker asker) {
    this(asker, asker.model().trustees().systems, all(asker.model()));
  }

  /** The numbers of all systems. */
  static BitSet all(AccessModel model) {
    BitSet all = new BitSet();
    all.set(0, model.systems().size());
    return all;
  }

  /**
   * A part of what systems name.
   *
   * @param naming by subject the systems that it is handed to
   * @param wanted the systems that are handed anything
   */
  NamedSubjects(Asker asker, IntRows naming, BitSet wanted) {
    TrusteeIndex index = asker.model().trustees();
    this.asker = asker;
    this.naming = naming;
    this.wanted = wanted;
    views = asker.model().systems().toArray(SystemView[]::new);
    perSystem = new SubjectSet[views.length];
    oneContext = index.contexts == 1;
    firstOfContext = new SystemView[index.contexts];
    for (SystemView view : views) {
      perSystem[view.number()] = new SubjectSet();
      asksImplicit.set(view.number(), view.admission().isOpen() || index.namesImplicit(view));
      if (firstOfContext[view.context()] == null) {
        firstOfContext[view.context()] = view;
      }
    }
    asksImplicit.and(wanted);
  }

  /** Whether a system is one of those that are handed anything. */
  boolean knows(SystemView view) {
    return view.number() < views.length && views[view.number()] == view;
  }

  /**
   * The systems that name an account or something that it counts as; not to be changed, and valid
   * until the next.
   */
  BitSet systems(int of) {
    if (account != of) {
      name(of);
    }
    return named;
  }

  /** What a system names of an account. Valid until the next account. */
  SubjectSet of(SystemView view, int of) {
    systems(of);
    // Implicit groups depend on the whole set, so it is asked only where the system names one.
    return asksImplicit.get(view.number())
        ? asker.subjects(view, account)
        : perSystem[view.number()];
  }

  private void name(int next) {
    for (int system = named.nextSetBit(0); system >= 0; system = named.nextSetBit(system + 1)) {
      perSystem[system].clear();
    }
    named.clear();
    named.or(asksImplicit);
    account = next;
    for (SystemView first : firstOfContext) {
      if (first != null) {
        SubjectSet subjects = asker.memberships(first, account);
        name(subjects.sure(), first.context(), true);
        name(subjects.perhaps(), first.context(), false);
      }
    }
  }

  private void name(IntList subjects, int context, boolean sure) {
    for (int i = 0; i < subjects.size(); i++) {
      int subject = subjects.get(i);
      for (int at = naming.start(subject); at < naming.end(subject); at++) {
        int system = naming.at(at);
        if (wanted.get(system) && (oneContext || views[system].context() == context)) {
          SubjectSet own = perSystem[system];
          (sure ? own.sure() : own.perhaps()).add(subject);
          named.set(system);
        }
      }
    }
  }
}
