package org.sobercompass.core.membership;

import java.util.EnumSet;
import java.util.Set;
import org.sobercompass.core.facts.Via;

/**
 * Which memberships a system counts.
 *
 * @param counts the kinds of edge that count
 * @param nesting how many levels of groups in groups it follows: 0 for direct members only, {@link
 *     #FULL} for all
 * @param mailOnlyGroups whether groups for mail only count
 */
public record MembershipProfile(Set<Via> counts, int nesting, boolean mailOnlyGroups) {
  /** Nesting without a limit. */
  public static final int FULL = Integer.MAX_VALUE;

  /** Everything counts: the widest profile. */
  public static final MembershipProfile WIDEST =
      new MembershipProfile(EnumSet.allOf(Via.class), FULL, true);

  /** Checks and copies. */
  public MembershipProfile {
    if (nesting < 0) {
      throw new IllegalArgumentException("nesting must be 0 or more, not " + nesting);
    }
    counts = Set.copyOf(counts);
  }

  int mask() {
    int mask = 0;
    for (Via via : counts) {
      mask |= 1 << via.ordinal();
    }
    return mask;
  }
}
