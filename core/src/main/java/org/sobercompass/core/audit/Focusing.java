package org.sobercompass.core.audit;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Focus;
import org.sobercompass.core.findings.grants.GrantFinder;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;

/**
 * Works out what changes may concern. Known are changes of memberships, of assignments and of the
 * state of accounts; of what else changes, and of what is given to everyone, it is not known. Not
 * thread-safe.
 */
final class Focusing {
  /** Where more than this part of all accounts is concerned, all may as well be looked at. */
  static final int PART = 20;

  /** How many times as many may share a cause with them: that costs less. */
  private static final int SHARING = 5;

  private final int most;
  private final Assessment before;
  private final List<AccessModel> models;
  private final List<Memberships.Walker> walkers = new ArrayList<>();
  private final BitSet accounts = new BitSet();
  private final BitSet counted = new BitSet();
  private final BitSet subjects = new BitSet();
  private final BitSet systems = new BitSet();
  private boolean known = true;

  private Focusing(Assessment before, AccessModel after, int part) {
    this.most = Math.max(before.model().facts().accounts() / part, 1);
    this.before = before;
    this.models = List.of(before.model(), after);
    models.forEach(model -> walkers.add(model.widest().walker()));
  }

  /**
   * What changes may concern; empty where it may be anything, or much.
   *
   * @param part how many times what is much goes into all accounts
   */
  static Optional<Focusing> of(
      Assessment before, AccessModel after, List<Change> changes, int part) {
    Focusing focusing = new Focusing(before, after, part);
    for (Change change : changes) {
      boolean told = change.fold(focusing::membership, focusing::assignment, focusing::subject);
      focusing.known &= told;
      focusing.impact(change);
      if (!focusing.isFew()) {
        return Optional.empty();
      }
    }
    focusing.accounts.stream().forEach(account -> focusing.counted(account, focusing.counted));
    focusing.persons(focusing.accounts);
    return Optional.of(focusing);
  }

  Focus focus() {
    return new Focus(accounts, counted, subjects, systems, Set.of());
  }

  private boolean isFew() {
    return known && accounts.cardinality() <= most;
  }

  /** Whom systems ask otherwise: for some of them more than the member counts. */
  private void impact(Change change) {
    for (SystemView view : before.model().systems()) {
      boolean here = change.fold(m -> true, own -> own.system() == view.number(), a -> true);
      if (known && here) {
        IntList whom = view.decider().impact(change).subjects();
        for (int i = 0; i < whom.size(); i++) {
          members(whom.get(i), accounts);
        }
      }
    }
  }

  /** Each says whether it is known whom such a change can concern. */
  private boolean membership(Change.OfMembership moved) {
    members(moved.member(), accounts);
    above(moved.group());
    return true;
  }

  private boolean assignment(Change.OfSystem own) {
    SystemView view = before.model().view(own.system());
    systems.set(view.number());
    return !view.system().isOfLists()
        && own.byKind(
            added -> to(added.subject()),
            removed -> to(view.grants().get(removed.grant()).subject()),
            redefined -> false);
  }

  private boolean to(int subject) {
    if (subject >= 0) {
      subjects.set(subject);
      members(subject, accounts);
    }
    return true;
  }

  private boolean subject(Change.OfSubject change) {
    return change.byKind(
        account -> {
          accounts.set(account.subject());
          counted(account.subject(), subjects);
          return true;
        },
        presence -> false);
  }

  /** All accounts that count as a subject, before or after, surely or perhaps. */
  private void members(int subject, BitSet into) {
    Facts facts = before.model().facts();
    if (facts.kind(subject) == SubjectKind.IMPLICIT) {
      known = false;
      return;
    }
    for (Memberships.Walker walker : walkers) {
      IntList found = new IntList();
      walker.candidates(subject, found);
      found.setIn(into);
    }
  }

  /** What a subject counts as, before and after, surely or perhaps. */
  private void counted(int subject, BitSet into) {
    into.set(subject);
    for (Memberships.Walker walker : walkers) {
      SubjectSet found = new SubjectSet();
      walker.subjects(subject, found);
      found.sure().setIn(into);
      found.perhaps().setIn(into);
    }
  }

  /** Where a group is changed: what is above it, and the systems that give any of it something. */
  private void above(int group) {
    BitSet all = new BitSet();
    counted(group, all);
    subjects.or(all);
    for (AccessModel model : models) {
      for (SystemView view : model.systems()) {
        IntList trustees = view.decider().trustees();
        for (int i = 0; i < trustees.size() && !systems.get(view.number()); i++) {
          if (trustees.get(i) >= 0 && all.get(trustees.get(i))) {
            systems.set(view.number());
          }
        }
      }
    }
  }

  /** Adds the other accounts of the persons. */
  private void persons(BitSet some) {
    BitSet more = new BitSet();
    some.stream().forEach(a -> before.persons().accounts(a).forEach(more::set));
    some.or(more);
  }

  /**
   * With some more of those who share a cause of shared findings that come or go; the same where
   * all of them are looked at; empty where those are a great part of all accounts, or it is not
   * known who they are.
   *
   * @param beside how many more of each cause: where one of them has the finding before and after,
   *     it neither comes nor goes, and the others need not be looked at
   */
  Optional<Focus> sharing(List<Finding> begin, List<Finding> end, Focus focus, int beside) {
    known = true;
    BitSet more = new BitSet();
    Set<Key> causes = new HashSet<>();
    for (List<Finding> some : List.of(begin, end)) {
      for (Finding finding : some) {
        if (finding.kind() == FindingKind.REDUNDANT_ASSIGNMENT) {
          causes.add(finding.cause());
        } else if (!GrantFinder.KINDS.contains(finding.kind())) {
          BitSet all = cause(finding.cause());
          all.andNot(focus.accounts());
          all.stream().limit(beside).forEach(more::set);
        }
      }
    }
    persons(more);
    Focus wider = focus.with(more, causes);
    boolean few = wider.accounts().cardinality() <= SHARING * most;
    return known && few ? Optional.of(wider) : Optional.empty();
  }

  /** All accounts that can share a cause, before or after. */
  private BitSet cause(Key cause) {
    BitSet all = new BitSet();
    if (cause.kind() == KeyKind.ROLE || cause.kind() == KeyKind.ASSIGNMENT) {
      boolean isRole = cause.kind() == KeyKind.ROLE;
      for (AccessModel model : models) {
        Optional<SystemView> there = model.system(cause.source());
        known &= there.isPresent();
        for (Grant grant : there.map(SystemView::grants).orElse(List.of())) {
          String id = isRole ? there.get().system().roles().get(grant.role()).id() : grant.id();
          if (grant.subject() >= 0 && id.equals(cause.id())) {
            orAll(grant.subject(), all);
          }
        }
      }
    } else {
      before.model().facts().find(cause).ifPresentOrElse(s -> orAll(s, all), () -> known = false);
    }
    return all;
  }

  private void orAll(int subject, BitSet into) {
    Facts facts = before.model().facts();
    if (facts.kind(subject) == SubjectKind.IMPLICIT) {
      into.set(0, facts.accounts());
    } else {
      members(subject, into);
    }
  }
}
