package org.sobercompass.core.delegation;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.Inheritance;

/** Finds where an entry has to be taken out, since an inherited one would come back. */
public final class HandedDown {
  private HandedDown() {}

  /** An entry of the list of an object, by its number there. */
  public record Entry(int object, int entry) {}

  /**
   * The entry to take out so that an entry goes: the one further up that hands it down, else
   * itself. Nothing where the directory keeps the entry by itself, on protected administrators.
   * O(depth x entries).
   */
  public static Optional<Entry> source(DirectoryTree tree, int object, int entry) {
    int at = object;
    int number = entry;
    for (int next = handing(tree, at, number); next >= 0; next = handing(tree, at, number)) {
      at = tree.parent(at);
      number = next;
    }
    return tree.isGuarded(at) ? Optional.empty() : Optional.of(new Entry(at, number));
  }

  /** Whether an entry stands in a list by itself: nothing above hands it down. O(entries). */
  public static boolean stands(DirectoryTree tree, int object, int entry) {
    return handing(tree, object, entry) < 0;
  }

  /** The number of the entry right above that hands this one down, or -1. */
  private static int handing(DirectoryTree tree, int object, int entry) {
    Descriptor own = tree.descriptor(object).orElseThrow();
    Ace ace = own.entries().get(entry);
    int above = tree.parent(object);
    if (!ace.isInherited() || own.isProtected() || above < 0 || tree.descriptor(above).isEmpty()) {
      return -1;
    }
    UUID kind =
        tree.names()
            .objectClass(tree.objectClass(object))
            .map(DsNames.ObjectClass::id)
            .orElse(new UUID(0, 0));
    List<Ace> list = tree.descriptor(above).get().entries();
    for (int i = 0; i < list.size(); i++) {
      Descriptor only = own.with(List.of(list.get(i)));
      boolean hands =
          Inheritance.inherited(only, kind, own.owner(), own.group()).stream()
              .anyMatch(other -> Inheritance.same(other, ace));
      if (hands) {
        return i;
      }
    }
    return -1;
  }
}
