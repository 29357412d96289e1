package org.sobercompass.core.system.scopes;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRole;
import org.sobercompass.core.scope.Scopes;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.FactRef;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.GrantSink;
import org.sobercompass.core.system.Impact;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Proof;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.RightBits;
import org.sobercompass.core.system.Stopped;
import org.sobercompass.core.system.Token;
import org.sobercompass.core.system.Verdict;

/**
 * Decides admin actions by admin roles: a role that holds now, has the action, is given to somebody
 * that the account counts as, over a scope with the object. Grants only add up. Thread-safe.
 */
final class ScopeDecider implements Decider {
  private static final IntList NONE = new IntList();

  private final Facts facts;
  private final ActionRights rights;
  private final List<AdminRole> roles;
  private final List<AdminGrant> grants;
  private final Scopes scopes;

  /** By action the numbers of the grants to somebody who exists, of roles that have it. */
  private final Map<String, IntList> byAction = new HashMap<>();

  /** By role its actions, as bits of the rights of the catalogue. */
  private final long[][] masks;

  ScopeDecider(
      Facts facts,
      ActionRights rights,
      List<AdminRole> roles,
      List<AdminGrant> grants,
      Scopes scopes) {
    this.facts = facts;
    this.rights = rights;
    this.roles = roles;
    this.grants = grants;
    this.scopes = scopes;
    this.masks = roles.stream().map(this::mask).toArray(long[][]::new);
    for (int g = 0; g < grants.size(); g++) {
      if (subject(grants.get(g)) >= 0) {
        for (String action : roles.get(grants.get(g).role()).actions()) {
          byAction.computeIfAbsent(action, a -> new IntList()).add(g);
        }
      }
    }
  }

  private long[] mask(AdminRole role) {
    long[] mask = new long[rights.words()];
    for (int right = 0; right < rights.size(); right++) {
      if (role.actions().contains(rights.text(right))) {
        mask[right >> 6] |= 1L << right;
      }
    }
    return mask;
  }

  private IntList having(int right) {
    return byAction.getOrDefault(rights.text(right), NONE);
  }

  /** What somebody counts as, ascending. */
  private record Whoever(int[] sure, int[] perhaps, long asOf) implements Projected {
    @Override
    public boolean isEmpty() {
      return sure.length + perhaps.length == 0;
    }

    Verdict countsAs(int subject) {
      return Arrays.binarySearch(sure, subject) >= 0
          ? Verdict.YES
          : Arrays.binarySearch(perhaps, subject) >= 0 ? Verdict.UNDECIDED : Verdict.NO;
    }
  }

  @Override
  public Projected project(Token token) {
    return new Whoever(
        sorted(token.subjects().sure()), sorted(token.subjects().perhaps()), token.asOf());
  }

  private static int[] sorted(IntList subjects) {
    int[] all = subjects.toArray();
    Arrays.sort(all);
    return all;
  }

  /** The subject that stands for whom a grant names; -1 for somebody who does not exist. */
  private int subject(AdminGrant grant) {
    return grant.subject() == Grant.UNREAD ? facts.implicit(Implicit.UNREAD) : grant.subject();
  }

  private boolean has(AdminGrant grant, int right) {
    return roles.get(grant.role()).actions().contains(rights.text(right));
  }

  /** Whether one grant gives a right on an object to somebody. */
  private Verdict gives(AdminGrant grant, Whoever who, int right, int object) {
    return subject(grant) >= 0 && grant.activeAt(who.asOf()) && has(grant, right)
        ? who.countsAs(subject(grant)).and(scopes.holds(grant.scope(), object))
        : Verdict.NO;
  }

  @Override
  public Verdict decide(Projected who, Question question) {
    Verdict all = Verdict.YES;
    for (int right : question.allOf()) {
      Verdict best = Verdict.NO;
      IntList having = having(right);
      for (int i = 0; i < having.size() && best != Verdict.YES; i++) {
        AdminGrant grant = grants.get(having.get(i));
        best = best.or(gives(grant, (Whoever) who, right, question.resource()));
      }
      all = all.and(best);
    }
    return all;
  }

  /** O(objects of the account's scopes x its own grants). */
  @Override
  public void sweep(Projected who, GrantSink out) {
    Whoever whoever = (Whoever) who;
    BitSet objects = new BitSet();
    List<AdminGrant> own = new ArrayList<>();
    for (AdminGrant grant : grants) {
      if (subject(grant) >= 0
          && grant.activeAt(whoever.asOf())
          && whoever.countsAs(subject(grant)) != Verdict.NO) {
        own.add(grant);
        objects.or(scopes.widest(grant.scope()));
      }
    }
    int words = rights.words();
    for (int o = objects.nextSetBit(0); o >= 0; o = objects.nextSetBit(o + 1)) {
      long[] yes = new long[words];
      long[] perhaps = new long[words];
      for (AdminGrant grant : own) {
        Verdict gives = whoever.countsAs(subject(grant)).and(scopes.holds(grant.scope(), o));
        if (gives != Verdict.NO) {
          RightBits.add(masks[grant.role()], gives == Verdict.YES ? yes : perhaps);
        }
      }
      for (int w = 0; w < words; w++) {
        perhaps[w] &= ~yes[w];
      }
      if (!RightBits.isEmpty(yes) || !RightBits.isEmpty(perhaps)) {
        out.cell(o, false, 1, yes, perhaps);
      }
    }
  }

  @Override
  public Decision explain(Token token, Question question, Limits limits) {
    Whoever who = (Whoever) project(token);
    Verdict verdict = decide(who, question);
    List<Proof> proofs = new ArrayList<>();
    List<Integer> unknowns = new ArrayList<>();
    List<Stopped> stopped = new ArrayList<>();
    for (int right : question.allOf()) {
      for (int g = 0; g < grants.size(); g++) {
        AdminGrant grant = grants.get(g);
        Verdict one = gives(grant, who, right, question.resource());
        if (one == Verdict.YES && proofs.size() < limits.proofs()) {
          proofs.add(new Proof(g, right, List.of(new FactRef.GrantFact(g)), List.of()));
        } else if (one == Verdict.UNDECIDED) {
          unknowns.add(g);
        } else if (isStopped(grant, who, right, question.resource())) {
          stopped.add(new Stopped(g, right, reason(grant, who.asOf()), OptionalInt.empty()));
        }
      }
    }
    return new Decision(
        verdict,
        verdict == Verdict.YES ? List.copyOf(proofs) : List.of(),
        verdict == Verdict.UNDECIDED ? List.copyOf(unknowns) : List.of(),
        List.copyOf(stopped),
        proofs.size() == limits.proofs());
  }

  private boolean isStopped(AdminGrant grant, Whoever who, int right, int object) {
    return !grant.activeAt(who.asOf())
        && has(grant, right)
        && subject(grant) >= 0
        && who.countsAs(subject(grant)) == Verdict.YES
        && scopes.contains(grant.scope(), object);
  }

  private static Stopped.Reason reason(AdminGrant grant, long asOf) {
    return !grant.on()
        ? Stopped.Reason.SWITCHED_OFF
        : asOf < grant.from() ? Stopped.Reason.NOT_YET : Stopped.Reason.OVER;
  }

  @Override
  public Optional<Crowd> crowd(Question question, Crowd.Members members, long asOf) {
    Crowd all = null;
    for (int right : question.allOf()) {
      Crowd one = crowd(question.resource(), right, members, asOf);
      if (all == null) {
        all = one;
      } else {
        all.yes().and(one.yes());
        all.perhaps().and(one.perhaps());
      }
    }
    Crowd found = all == null ? new Crowd(new BitSet(), new BitSet()) : all;
    found.perhaps().andNot(found.yes());
    return Optional.of(found);
  }

  /** Who is given one right on an object, surely, and at most. */
  private Crowd crowd(int object, int right, Crowd.Members members, long asOf) {
    Crowd found = new Crowd(new BitSet(), new BitSet());
    IntList having = having(right);
    for (int i = 0; i < having.size(); i++) {
      AdminGrant grant = grants.get(having.get(i));
      if (grant.activeAt(asOf)) {
        Verdict inside = scopes.holds(grant.scope(), object);
        if (inside == Verdict.YES) {
          found.yes().or(members.surely(subject(grant)));
        }
        if (inside != Verdict.NO) {
          found.perhaps().or(members.atMost(subject(grant)));
        }
      }
    }
    return found;
  }

  @Override
  public IntList trustees() {
    Set<Integer> named = new TreeSet<>();
    grants.forEach(grant -> named.add(subject(grant)));
    IntList all = new IntList();
    named.stream().filter(s -> s >= 0).forEach(all::add);
    return all;
  }

  @Override
  public IntList grantsOf(Token token) {
    Whoever who = (Whoever) project(token);
    IntList own = new IntList();
    for (int g = 0; g < grants.size(); g++) {
      int subject = subject(grants.get(g));
      if (subject >= 0 && who.countsAs(subject) == Verdict.YES) {
        own.add(g);
      }
    }
    return own;
  }

  @Override
  public IntList giving(int resource, int right, boolean below) {
    IntList giving = new IntList();
    for (int g = 0; g < grants.size(); g++) {
      boolean reaches = scopes.holds(grants.get(g).scope(), resource) != Verdict.NO;
      if (reaches && has(grants.get(g), right)) {
        giving.add(g);
      }
    }
    return giving;
  }

  /** It is idle where another one that he has gives as much, over the same scope. */
  @Override
  public boolean isIdle(Projected who, int grant) {
    Whoever whoever = (Whoever) who;
    AdminGrant one = grants.get(grant);
    if (!one.activeAt(whoever.asOf())) {
      return true;
    }
    for (int g = 0; g < grants.size(); g++) {
      AdminGrant other = grants.get(g);
      boolean asMuch =
          g != grant
              && (other.scope() == one.scope() || other.scope() == AdminGrant.EVERYTHING)
              && other.activeAt(whoever.asOf())
              && subject(other) >= 0
              && whoever.countsAs(subject(other)) == Verdict.YES
              && roles.get(other.role()).actions().containsAll(roles.get(one.role()).actions());
      if (asMuch) {
        return true;
      }
    }
    return false;
  }

  @Override
  public Impact impact(Change change) {
    int everyone = facts.implicit(Implicit.EVERYONE);
    return change.fold(
        // Who is in a group may decide who is in a scope.
        moved -> new Impact(IntList.of(everyone), 0, facts.subjects()),
        own ->
            own.byKind(
                added -> new Impact(IntList.of(added.subject()), 0, facts.subjects()),
                removed -> {
                  int subject = subject(grants.get(removed.grant()));
                  return subject < 0
                      ? Impact.NONE
                      : new Impact(IntList.of(subject), 0, facts.subjects());
                },
                otherwise -> new Impact(trustees(), 0, facts.subjects())),
        self -> new Impact(IntList.of(self.subject()), 0, facts.subjects()));
  }
}
