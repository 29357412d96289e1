package org.sobercompass.core.audit;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.sobercompass.core.findings.Assessment;

/**
 * Since when what a preview said is otherwise, as far as readings tell that were taken after it was
 * carried out. Immutable.
 */
public final class OtherwiseSince {
  private final Map<Object, When> found = new HashMap<>();

  /**
   * A reading from after the carrying out.
   *
   * @param at when it was taken
   * @param assessment what is judged of it; asked for only where something is still open
   */
  public record Taken(Instant at, Supplier<Assessment> assessment) {}

  /**
   * Since when something is otherwise.
   *
   * @param asSaid the last reading in which it was as said; empty when it was in none
   * @param otherwise the first reading after that, in which it is not
   */
  public record When(Optional<Instant> asSaid, Instant otherwise) {}

  /**
   * Looks back from what is otherwise now. Costs a reading back for each earlier one, until each
   * thing was found as said once.
   *
   * @param now what is otherwise now
   * @param at when that was read
   * @param earlier readings before it, the latest first
   */
  public OtherwiseSince(Foretold foretold, Foretold.Readback now, Instant at, List<Taken> earlier) {
    Foretold open = foretold.only(now);
    Instant later = at;
    for (Taken reading : earlier) {
      if (open.isNothing()) {
        break;
      }
      Foretold still = open.only(open.against(reading.assessment().get()));
      When when = new When(Optional.of(reading.at()), later);
      Set<Object> left = things(still).collect(Collectors.toSet());
      things(open).filter(one -> !left.contains(one)).forEach(one -> found.put(one, when));
      open = still;
      later = reading.at();
    }
    When never = new When(Optional.empty(), later);
    things(open).forEach(one -> found.put(one, never));
  }

  private static Stream<Object> things(Foretold of) {
    return Stream.of(of.rights(), of.begin(), of.end()).flatMap(List::stream);
  }

  /** Since when a right is otherwise; empty when it is as said. */
  public Optional<When> of(Foretold.Right right) {
    return Optional.ofNullable(found.get(right));
  }

  /** Since when a finding, by its key, is there or gone against what was said. */
  public Optional<When> of(String finding) {
    return Optional.ofNullable(found.get(finding));
  }
}
