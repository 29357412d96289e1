package org.sobercompass.core.descriptor;

import java.util.Optional;
import java.util.UUID;

/**
 * One entry of an access control list ([MS-DTYP] 2.4.4).
 *
 * @param type its type
 * @param code the number of the type as found, also of an unknown one
 * @param flags inheritance flags, see {@link #CHILDREN} and its neighbours
 * @param mask the rights, see {@link DsRights}; 0 of an unknown entry
 * @param object the object type, if it names one: a class, attribute, set of them, or right
 * @param inheritedBy the class that inherits it, if it names one
 * @param trustee to whom (a SID as text); empty of an unknown entry
 * @param data what follows the trustee, in hexadecimal: a condition; all of an unknown entry
 */
public record Ace(
    AceType type,
    int code,
    int flags,
    int mask,
    Optional<UUID> object,
    Optional<UUID> inheritedBy,
    String trustee,
    String data) {

  /** Objects below that are no containers inherit it. */
  public static final int OBJECTS = 0x01;

  /** Containers below inherit it; in a directory everything is one. */
  public static final int CHILDREN = 0x02;

  /** It is not handed on further than to the next below. */
  public static final int NEXT_ONLY = 0x04;

  /** It does not count where it stands, only below. */
  public static final int BELOW_ONLY = 0x08;

  /** It claims to have come from above. */
  public static final int INHERITED = 0x10;

  /** An entry of a known type without data. */
  public static Ace of(AceType type, int flags, int mask, String trustee) {
    return new Ace(type, type.code(), flags, mask, Optional.empty(), Optional.empty(), trustee, "");
  }

  /** The same for an object type. */
  public Ace on(Optional<UUID> newObject, Optional<UUID> newInheritedBy) {
    return new Ace(type, code, flags, mask, newObject, newInheritedBy, trustee, data);
  }

  /** The same with other flags, mask and trustee. */
  public Ace with(int newFlags, int newMask, String newTrustee) {
    return new Ace(type, code, newFlags, newMask, object, inheritedBy, newTrustee, data);
  }

  /** An entry that decides nothing and hands nothing on, to stand where this one stood. */
  public Ace takenOut() {
    return of(AceType.AUDIT, 0, 0, "");
  }

  /** Whether it counts where it stands. */
  public boolean countsHere() {
    return (flags & BELOW_ONLY) == 0;
  }

  /** Whether it claims to have come from above. */
  public boolean isInherited() {
    return (flags & INHERITED) != 0;
  }

  /** Whether anything below inherits it. */
  public boolean isHandedOn() {
    return (flags & (CHILDREN | OBJECTS)) != 0;
  }

  /** Whether it takes away. */
  public boolean denies() {
    return type.effect() == AceType.Effect.DENY || type.effect() == AceType.Effect.PERHAPS_DENY;
  }

  /** Whether it gives. */
  public boolean allows() {
    return type.effect() == AceType.Effect.ALLOW || type.effect() == AceType.Effect.PERHAPS_ALLOW;
  }
}
