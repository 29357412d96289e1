package org.sobercompass.core.system;

import java.util.List;
import java.util.stream.Stream;

/**
 * A verdict with its reasons.
 *
 * @param verdict the answer
 * @param proofs what gives it; at least one when the verdict is YES
 * @param unknowns grants of which it is not known whether the account has them, and which matter
 * @param stopped grants that would give the right but are stopped
 * @param more whether there is more than the limit let through
 */
public record Decision(
    Verdict verdict,
    List<Proof> proofs,
    List<Integer> unknowns,
    List<Stopped> stopped,
    boolean more) {

  /** A verdict without reasons yet. */
  public static Decision of(Verdict verdict) {
    return new Decision(verdict, List.of(), List.of(), List.of(), false);
  }

  /** The same verdict with the reasons of another decision besides. */
  public Decision joined(Decision other) {
    return new Decision(
        verdict,
        both(proofs, other.proofs),
        both(unknowns, other.unknowns),
        both(stopped, other.stopped),
        more || other.more);
  }

  private static <T> List<T> both(List<T> a, List<T> b) {
    return Stream.concat(a.stream(), b.stream()).distinct().toList();
  }
}
