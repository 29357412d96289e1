package org.sobercompass.core.crosswalk;

import java.util.List;

/**
 * Who could be the counterpart.
 *
 * @param to the number of the account, group or unit on the other side
 * @param score from 0 to 100
 * @param reasons what speaks for it and against it
 * @param firm whether what speaks for it is of two kinds, and nothing speaks against it
 */
public record Candidate(int to, int score, List<Reason> reasons, boolean firm) {
  /** Copies. */
  public Candidate {
    reasons = List.copyOf(reasons);
  }
}
