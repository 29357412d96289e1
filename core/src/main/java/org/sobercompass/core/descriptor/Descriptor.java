package org.sobercompass.core.descriptor;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A security descriptor ([MS-DTYP] 2.4.6). Immutable.
 *
 * @param control its control flags
 * @param owner the owner, if it is there
 * @param group the primary group, if it is there
 * @param dacl the access control list; empty when there is none, which lets everybody do
 *     everything. A list without entries is another thing: it lets nobody do anything
 * @param sacl the list of what is watched, if it is there
 */
public record Descriptor(
    int control,
    Optional<String> owner,
    Optional<String> group,
    Optional<List<Ace>> dacl,
    Optional<List<Ace>> sacl) {

  /** A list is there (it may be null all the same). */
  public static final int DACL_PRESENT = 0x0004;

  /** A list of what is watched is there. */
  public static final int SACL_PRESENT = 0x0010;

  /** The list was made by inheritance. */
  public static final int DACL_AUTO_INHERITED = 0x0400;

  /** The same for what is watched. */
  public static final int SACL_AUTO_INHERITED = 0x0800;

  /** Nothing comes into the list from above. */
  public static final int DACL_PROTECTED = 0x1000;

  /** The same for what is watched. */
  public static final int SACL_PROTECTED = 0x2000;

  /** The binary form is in one piece. */
  public static final int SELF_RELATIVE = 0x8000;

  /** Copies. */
  public Descriptor {
    dacl = dacl.map(List::copyOf);
    sacl = sacl.map(List::copyOf);
  }

  /** The same of another owner. */
  public Descriptor ownedBy(String sid) {
    return new Descriptor(control, Optional.of(sid), group, dacl, sacl);
  }

  /** The same of another owning group. */
  public Descriptor groupedBy(String name) {
    return new Descriptor(control, owner, Optional.of(name), dacl, sacl);
  }

  /** The same with another list of entries. */
  public Descriptor with(List<Ace> entries) {
    return new Descriptor(control, owner, group, Optional.of(entries), sacl);
  }

  /**
   * The same with one more entry of its own, in the usual order: entries of its own before those
   * from above, and among its own those that deny first ([MS-DTYP] 2.4.5).
   */
  public Descriptor withMore(Ace ace) {
    List<Ace> more = new ArrayList<>(entries());
    int at = 0;
    while (at < more.size()
        && !more.get(at).isInherited()
        && (!ace.denies() || more.get(at).denies())) {
      at++;
    }
    more.add(at, ace);
    return with(more);
  }

  /** Whether nothing comes into its list from above. */
  public boolean isProtected() {
    return (control & DACL_PROTECTED) != 0;
  }

  /** The entries of its list; none where there is no list. */
  public List<Ace> entries() {
    return dacl.orElse(List.of());
  }

  /**
   * Whether its entries stand in the usual order ([MS-DTYP] 2.4.5): explicit before inherited, and
   * among the explicit those that deny before those that allow. Entries that decide nothing do not
   * count.
   */
  public boolean isCanonical() {
    int rank = 0;
    for (Ace ace : entries()) {
      int own = ace.isInherited() ? 2 : ace.denies() ? 0 : 1;
      if (ace.type().effect() == AceType.Effect.NONE) {
        continue;
      }
      if (own < rank) {
        return false;
      }
      rank = own;
    }
    return true;
  }
}
