package org.sobercompass.core.system;

import java.util.BitSet;
import java.util.List;

/**
 * A named set of rights.
 *
 * @param id unique in the system
 * @param name for people
 * @param allows one bit a right
 * @param denies one bit a right
 * @param includes ids of the roles it includes directly
 * @param derives the id of the role it derives from, or empty
 */
public record RoleInfo(
    String id, String name, long[] allows, long[] denies, List<String> includes, String derives) {
  /** Whether it gives a right. */
  public boolean allows(int right) {
    return right >> 6 < allows.length && (allows[right >> 6] >>> right & 1) != 0;
  }

  /** Whether it denies a right. */
  public boolean denies(int right) {
    return right >> 6 < denies.length && (denies[right >> 6] >>> right & 1) != 0;
  }

  /** A role and all that include it, directly or not, by their numbers. */
  public static BitSet including(List<RoleInfo> roles, int role) {
    BitSet all = new BitSet();
    all.set(role);
    for (int before = 0; before != all.cardinality(); ) {
      before = all.cardinality();
      for (int r = 0; r < roles.size(); r++) {
        List<String> included = roles.get(r).includes();
        if (all.stream().anyMatch(a -> included.contains(roles.get(a).id()))) {
          all.set(r);
        }
      }
    }
    return all;
  }
}
