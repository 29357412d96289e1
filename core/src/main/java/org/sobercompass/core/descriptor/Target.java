package org.sobercompass.core.descriptor;

import java.util.List;
import java.util.UUID;

/**
 * What is asked of one object: rights, and on what part of it.
 *
 * @param mask the rights asked for, all together
 * @param types the object types that stand for the part asked about, any of which an entry may name
 *     ([MS-ADTS] 5.1.3.3.3): an attribute with its set and the object's class; a right; a class of
 *     children. None for rights on the object as such, for which entries that name a type do not
 *     count ([MS-ADTS] 5.1.3.3.2)
 */
public record Target(int mask, List<UUID> types) {
  /** Copies. */
  public Target {
    types = List.copyOf(types);
  }

  /** Rights on the object as such. */
  public static Target simple(int mask) {
    return new Target(mask, List.of());
  }

  /** Rights on the part that these types stand for. */
  public static Target on(int mask, UUID... types) {
    return new Target(mask, List.of(types));
  }
}
