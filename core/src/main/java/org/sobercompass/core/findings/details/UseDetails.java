package org.sobercompass.core.findings.details;

import java.util.List;
import org.sobercompass.core.system.Grant;

/** About what is used, and by how many it is held. */
public sealed interface UseDetails extends Details {
  /**
   * An assignment of which some or all that it reaches have used nothing.
   *
   * @param all how many accounts are given it
   * @param unused how many of them have not used it
   * @param days in how many days
   */
  record Unused(int system, Grant grant, Strength strength, int all, int unused, int days)
      implements UseDetails {}

  /**
   * A role of which an account uses a small part.
   *
   * @param used how many of its permissions
   * @param all how many it has
   * @param days in how many days
   * @param percent below what share it is told
   */
  record HardlyUsed(int system, int role, int account, int used, int all, int days, int percent)
      implements UseDetails {}

  /**
   * Rights that hardly any peer holds.
   *
   * @param accounts those who stand out
   * @param values the values that peers have in common
   * @param rights what they hold
   * @param most how many of the peers hold the one of them that most hold
   * @param peers how many peers there are
   */
  record Outlier(
      int system, List<Integer> accounts, String values, List<Integer> rights, int most, int peers)
      implements UseDetails {}
}
