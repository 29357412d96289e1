package org.sobercompass.core.crosswalk;

import java.util.List;
import java.util.Optional;

/**
 * What was found for one account, group or unit.
 *
 * @param from its number
 * @param sure how sure the first candidate is
 * @param candidates who could be it, the best first; none where nothing is good enough
 * @param rivals who else of this side could be the first candidate
 * @param nearest who comes nearest where there is none, and why it is not
 */
public record Match(
    int from,
    Sureness sure,
    List<Candidate> candidates,
    List<Integer> rivals,
    Optional<Nearest> nearest) {
  /** Copies. */
  public Match {
    candidates = List.copyOf(candidates);
    rivals = List.copyOf(rivals);
  }

  /** The counterpart, where one is proposed. */
  public Optional<Candidate> best() {
    return sure == Sureness.CERTAIN || sure == Sureness.LIKELY
        ? Optional.of(candidates.get(0))
        : Optional.empty();
  }

  /** Somebody who was not taken, and why. */
  public record Nearest(Candidate candidate, WhyNot why) {}

  /** Why somebody is no candidate. */
  public enum WhyNot {
    /** Too little speaks for it, or too much against. */
    LITTLE,
    /** It is of another nature: a service, say. */
    NATURE,
    /** Somebody said so. */
    NEVER,
    /** It is the counterpart of somebody else, by hand or certainly. */
    TAKEN
  }
}
