package org.sobercompass.core.findings.details;

import org.sobercompass.core.system.Rights;
import org.sobercompass.core.system.RoleInfo;

/**
 * How much a role gives.
 *
 * @param strongest how many rights of the strongest kind
 * @param isAboveLowest whether it gives more than rights of the lowest level
 */
public record Strength(int strongest, boolean isAboveLowest) {
  /** What a role gives of the rights of its system. O(rights). */
  public static Strength of(Rights rights, RoleInfo role) {
    int strongest = 0;
    boolean above = false;
    for (int right = 0; right < rights.size(); right++) {
      if (role.allows(right)) {
        strongest += rights.isStrongest(right) ? 1 : 0;
        above |= rights.isStrongest(right) || !rights.contains(right).isEmpty();
      }
    }
    return new Strength(strongest, above);
  }
}
