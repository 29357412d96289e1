package org.sobercompass.core.crosswalk;

import java.util.Collections;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.sobercompass.core.person.Link;
import org.sobercompass.core.person.Persons;

/**
 * What was decided by hand.
 *
 * @param same the counterpart of each that has one
 * @param never pairs that are not the same, whatever speaks for it
 */
public record Decided(Map<Integer, Integer> same, Set<Pair> never) {
  /** Nothing. */
  public static final Decided NOTHING = new Decided(Map.of(), Set.of());

  /** Copies. */
  public Decided {
    // In one order, so that what follows from it is the same each time.
    same = Collections.unmodifiableMap(new TreeMap<>(same));
    never = Set.copyOf(never);
  }

  /** The same, with the accounts that somebody says are not one person's. */
  Decided apart(Persons persons) {
    Set<Pair> more = new HashSet<>(never);
    for (Link link : persons.apart()) {
      more.add(new Pair(link.account(), link.other()));
      more.add(new Pair(link.other(), link.account()));
    }
    return new Decided(same, more);
  }

  /** Two, one of each side. */
  public record Pair(int from, int to) {}
}
