package org.sobercompass.core.membership;

import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import java.util.function.IntPredicate;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.filter.Filter;
import org.sobercompass.core.filter.Matching;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.filter.Values;
import org.sobercompass.core.store.IntRows;

/**
 * Which subjects a {@link Sight} sees: surely, or perhaps (its filter is undefined for them).
 * Implicit groups are always seen; organizational units are seen as part of names. Frozen and
 * thread-safe; one bit a subject each.
 */
public final class Visibility {
  private final BitSet sure;
  private final BitSet perhaps;

  private Visibility(BitSet sure, BitSet perhaps) {
    this.sure = sure;
    this.perhaps = perhaps;
  }

  /** Everything that is there is seen. */
  public static Visibility all(Facts facts) {
    BitSet sure = new BitSet(facts.subjects());
    sure.set(0, facts.subjects());
    return new Visibility(sure, new BitSet()).without(facts.absent());
  }

  /** These subjects are seen, and of those it is not known. The sets must not be changed. */
  public static Visibility of(BitSet sure, BitSet perhaps) {
    return new Visibility(sure, perhaps);
  }

  /** Applies a sight to all subjects. O(subjects x filter items). */
  public static Visibility of(Facts facts, Sight sight) {
    BitSet sure = new BitSet(facts.subjects());
    BitSet perhaps = new BitSet();
    sure.set(facts.firstGroup() + facts.groups(), facts.firstUnit());
    boolean byRoles = sight.isByRoles();
    IntPredicate accountBase = below(facts, sight.accountBases());
    IntPredicate groupBase = below(facts, sight.groupBases());
    for (int s = 0; s < facts.subjects(); s++) {
      SubjectKind kind = facts.kind(s);
      if (kind == SubjectKind.IMPLICIT || facts.isAbsent(s) || !sight.covers(facts.source(s))) {
        continue;
      }
      if (kind == SubjectKind.ACCOUNT && byRoles && !signsIn(facts, s)) {
        continue;
      }
      if (!facts.source(s).equals(sight.directory())) {
        sure.set(s);
        continue;
      }
      if (!sight.on()) {
        continue;
      }
      Truth seen =
          switch (kind) {
            case ACCOUNT ->
                test(facts, s, accountBase, sight.accountFilter(), sight.loginAttribute());
            case GROUP -> test(facts, s, groupBase, sight.groupFilter(), Optional.empty());
            case UNIT, IMPLICIT -> Truth.TRUE;
          };
      sure.set(s, seen == Truth.TRUE);
      perhaps.set(s, seen == Truth.UNDEFINED);
    }
    return new Visibility(sure, perhaps);
  }

  private static boolean signsIn(Facts facts, int account) {
    IntRows up = facts.arrays().up();
    for (int at = up.start(account); at < up.end(account); at++) {
      if (facts.arrays().upVia()[at] == Via.SIGNS_IN.ordinal()) {
        return true;
      }
    }
    return false;
  }

  /** The same, where some subjects are not seen, since they are absent. */
  public Visibility without(BitSet absent) {
    if (absent.isEmpty()) {
      return this;
    }
    Visibility less = new Visibility((BitSet) sure.clone(), (BitSet) perhaps.clone());
    less.sure.andNot(absent);
    less.perhaps.andNot(absent);
    return less;
  }

  /** Whether a subject is surely seen. */
  public boolean sees(int subject) {
    return sure.get(subject);
  }

  /** Whether it is not known if a subject is seen. */
  public boolean perhapsSees(int subject) {
    return perhaps.get(subject);
  }

  /** Whether all subjects of a range are surely seen. */
  boolean seesAll(int from, int to) {
    return sure.nextClearBit(from) >= to;
  }

  /** The same of those of a range that are there. */
  boolean seesAllOf(Facts facts, int from, int to) {
    for (int s = sure.nextClearBit(from); s < to; s = sure.nextClearBit(s + 1)) {
      if (!facts.isAbsent(s)) {
        return false;
      }
    }
    return true;
  }

  /** Whether there is nothing undecided. */
  public boolean isCertain() {
    return perhaps.isEmpty();
  }

  private static Truth test(
      Facts facts,
      int subject,
      IntPredicate base,
      Optional<Filter> filter,
      Optional<String> login) {
    if (!base.test(subject)) {
      return Truth.FALSE;
    }
    if (login.isPresent() && facts.values(subject, login.get()).isEmpty()) {
      return Truth.FALSE;
    }
    return filter.map(f -> f.test(new SubjectValues(facts, subject))).orElse(Truth.TRUE);
  }

  private static IntPredicate below(Facts facts, List<String> bases) {
    if (bases.isEmpty()) {
      return subject -> true;
    }
    List<String> suffixes = bases.stream().map(base -> "," + base).toList();
    return subject -> {
      String form = facts.arrays().dnForm().get(subject);
      return bases.contains(form) || suffixes.stream().anyMatch(form::endsWith);
    };
  }

  /** The kept attribute values of one subject, for a filter. */
  public record SubjectValues(Facts facts, int subject) implements Values {
    @Override
    public List<String> of(String attribute) {
      return facts.values(subject, attribute);
    }

    @Override
    public List<String> inName(String attribute) {
      return Values.inName(facts.arrays().dnForm().get(subject), attribute);
    }

    @Override
    public Optional<Matching> matching(String attribute) {
      return facts.matching(facts.source(subject), attribute);
    }
  }
}
