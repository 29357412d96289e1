package org.sobercompass.core.audit;

import java.util.BitSet;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Focus;
import org.sobercompass.core.findings.grants.GrantFinder;
import org.sobercompass.core.findings.grants.TakenAwayFinder;
import org.sobercompass.core.findings.separation.SeparationFinder;
import org.sobercompass.core.findings.separation.SeparationFocus;
import org.sobercompass.core.system.Change;

/**
 * Which findings changes begin and end. Where it is known whom they can concern, the costly kinds
 * are looked for about those alone, and what is found is the same as if all were.
 *
 * @param begin those that there would be, and are not
 * @param end those that there would not be any more
 */
record FindingDifference(List<Finding> begin, List<Finding> end) {
  /** The kinds of which one finding is about all who share a cause, by what finds them. */
  private static final List<Set<FindingKind>> SHARED =
      List.of(SeparationFinder.KINDS, TakenAwayFinder.KINDS, GrantFinder.KINDS);

  private static final int MOST_ROUNDS = 8;

  /** How many who share a cause are looked at beside, first and then, before all are. */
  private static final int[] BESIDE = {1, 50, 2_000};

  /**
   * Of changes; their numbers are those of the model before.
   *
   * @param after what is judged with the changes laid over it
   */
  static FindingDifference of(Assessment before, Assessment after, List<Change> changes) {
    return of(before, after, changes, Focusing.PART);
  }

  static FindingDifference of(Assessment before, Assessment after, List<Change> changes, int part) {
    Optional<Focusing> focusing = Focusing.of(before, after.model(), changes, part);
    if (focusing.isEmpty()) {
      return whole(before, after);
    }
    Focusing on = focusing.get();
    Set<FindingKind> others = EnumSet.allOf(FindingKind.class);
    SHARED.forEach(others::removeAll);
    FindingDifference all = of(before, after, on.focus(), others);
    for (Set<FindingKind> kinds : SHARED) {
      all = all.and(shared(before, after, on, kinds));
    }
    return all;
  }

  /** Every finding looked for, before and after. */
  static FindingDifference whole(Assessment before, Assessment after) {
    return of(Findings.of(before), Findings.of(after));
  }

  private static FindingDifference shared(
      Assessment before, Assessment after, Focusing on, Set<FindingKind> kinds) {
    Optional<BitSet> more =
        kinds.equals(SeparationFinder.KINDS)
            ? SeparationFocus.of(before, on.focus())
            : Optional.of(new BitSet());
    Optional<Focus> focus = more.map(accounts -> on.focus().with(accounts, Set.of()));
    for (int round = 0; round < MOST_ROUNDS && focus.isPresent(); round++) {
      FindingDifference found = of(before, after, focus.get(), kinds);
      int beside = round < BESIDE.length ? BESIDE[round] : Integer.MAX_VALUE;
      // Whoever shares a cause that comes or goes may have had it before, and has a part in it.
      Optional<Focus> wider = on.sharing(found.begin, found.end, focus.get(), beside);
      if (wider.equals(focus)) {
        return found;
      }
      focus = wider;
    }
    return of(
        Findings.of(new FindingContext(before), kinds),
        Findings.of(new FindingContext(after), kinds));
  }

  private static FindingDifference of(
      Assessment before, Assessment after, Focus focus, Set<FindingKind> kinds) {
    return of(
        Findings.of(new FindingContext(before, focus), kinds),
        Findings.of(new FindingContext(after, focus), kinds));
  }

  private static FindingDifference of(List<Finding> before, List<Finding> after) {
    return new FindingDifference(Finding.without(after, before), Finding.without(before, after));
  }

  private FindingDifference and(FindingDifference other) {
    return new FindingDifference(
        Stream.concat(begin.stream(), other.begin.stream()).sorted(Finding.WORST_FIRST).toList(),
        Stream.concat(end.stream(), other.end.stream()).sorted(Finding.WORST_FIRST).toList());
  }
}
