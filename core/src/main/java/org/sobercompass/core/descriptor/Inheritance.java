package org.sobercompass.core.descriptor;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;

/**
 * What an object gets from above, and what a class gives it by default ([MS-DTYP] 2.5.3.4,
 * [MS-ADTS] 6.1.3). In a directory every object is a container. Thread-safe.
 */
public final class Inheritance {
  private static final int ALL_INHERIT =
      Ace.OBJECTS | Ace.CHILDREN | Ace.NEXT_ONLY | Ace.BELOW_ONLY;

  private Inheritance() {}

  /**
   * The entries that an object of a class inherits from the descriptor above.
   *
   * @param owner the owner of the object, who takes the place of whoever creates it
   */
  public static List<Ace> inherited(
      Descriptor above, UUID objectClass, Optional<String> owner, Optional<String> group) {
    List<Ace> inherited = new ArrayList<>();
    for (Ace ace : above.entries()) {
      if ((ace.flags() & Ace.CHILDREN) != 0) {
        one(ace, objectClass, owner, group, inherited);
      }
    }
    return inherited;
  }

  private static void one(
      Ace ace, UUID objectClass, Optional<String> owner, Optional<String> group, List<Ace> into) {
    boolean forClass = ace.inheritedBy().isEmpty() || ace.inheritedBy().get().equals(objectClass);
    boolean further = (ace.flags() & Ace.NEXT_ONLY) == 0;
    boolean creator =
        ace.trustee().equals(WellKnown.CREATOR_OWNER)
            || ace.trustee().equals(WellKnown.CREATOR_GROUP);
    boolean generic = DsRights.mapped(ace.mask()) != ace.mask();
    int passed = further ? ace.flags() & (Ace.OBJECTS | Ace.CHILDREN) : 0;
    if (!forClass) {
      if (further) {
        into.add(ace.with(passed | Ace.BELOW_ONLY | Ace.INHERITED, ace.mask(), ace.trustee()));
      }
      return;
    }
    if (creator || generic) {
      String trustee = substitute(ace.trustee(), owner, group);
      into.add(effective(ace, trustee));
      if (further) {
        into.add(ace.with(passed | Ace.BELOW_ONLY | Ace.INHERITED, ace.mask(), ace.trustee()));
      }
    } else {
      into.add(ace.with(passed | Ace.INHERITED, ace.mask(), ace.trustee()));
    }
  }

  /** The half that counts on the object itself, and goes no further. */
  private static Ace effective(Ace ace, String trustee) {
    return ace.with(Ace.INHERITED, DsRights.mapped(ace.mask()), trustee);
  }

  private static String substitute(String trustee, Optional<String> owner, Optional<String> group) {
    return switch (trustee) {
      case WellKnown.CREATOR_OWNER -> owner.orElse(trustee);
      case WellKnown.CREATOR_GROUP -> group.orElse(trustee);
      default -> trustee;
    };
  }

  /**
   * The entries that a class's default gives an object: generic rights mapped, the creator replaced
   * by the owner.
   */
  public static List<Ace> byDefault(
      Descriptor classDefault, Optional<String> owner, Optional<String> group) {
    List<Ace> entries = new ArrayList<>();
    for (Ace ace : classDefault.entries()) {
      String trustee = substitute(ace.trustee(), owner, group);
      entries.add(ace.with(ace.flags(), DsRights.mapped(ace.mask()), trustee));
      boolean creator = !trustee.equals(ace.trustee());
      if (creator && ace.isHandedOn()) {
        entries.add(ace.with(ace.flags() | Ace.BELOW_ONLY, ace.mask(), ace.trustee()));
      }
    }
    return entries;
  }

  /**
   * Whether two entries say the same, but for the claim to be inherited. Rights are compared as
   * mapped. What an entry that goes no further says of who inherits it says nothing, and servers
   * leave it out: then an entry for objects without an object type is a plain one.
   */
  public static boolean same(Ace a, Ace b) {
    int flags = ~Ace.INHERITED & 0xff;
    boolean handed = (a.flags() & (ALL_INHERIT & flags)) == (b.flags() & (ALL_INHERIT & flags));
    return handed
        && sameType(a, b)
        && DsRights.mapped(a.mask()) == DsRights.mapped(b.mask())
        && a.object().equals(b.object())
        && (!a.isHandedOn() || a.inheritedBy().equals(b.inheritedBy()))
        && a.trustee().equals(b.trustee())
        && a.data().equals(b.data());
  }

  private static boolean sameType(Ace a, Ace b) {
    AceType.Effect effect = a.type().effect();
    boolean decides = effect != AceType.Effect.NONE && effect != AceType.Effect.UNKNOWN;
    return a.code() == b.code() || (decides && effect == b.type().effect());
  }
}
