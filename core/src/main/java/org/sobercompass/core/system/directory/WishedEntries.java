package org.sobercompass.core.system.directory;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DsNames;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.delegation.Rules;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.descriptor.Target;
import org.sobercompass.core.system.ListWish;

/**
 * The entries that let somebody do an admin action to an object, or to those of the action's
 * classes below it; as few rights as the action needs. Immutable.
 *
 * @param tree the objects
 * @param sid to whom
 */
record WishedEntries(DirectoryTree tree, String sid) {
  /** What an entry is but for its rights; entries that agree in it are one. */
  private record Place(int object, int flags, Optional<UUID> part, Optional<UUID> inheritedBy) {}

  /**
   * The entries for some actions.
   *
   * @throws IllegalArgumentException when no entry there could give one of them
   */
  List<ListWish.Edit> of(List<AdminAction> actions, int object, boolean below) {
    Map<Place, Integer> rights = new LinkedHashMap<>();
    for (AdminAction action : actions) {
      boolean itself = action.fits(tree.names(), tree.objectClass(object));
      boolean leaf = tree.end(object) == object + 1 && itself;
      if (itself && (leaf || !below)) {
        need(action.need(), new Reach(object, 0, tree.objectClass(object)), rights);
      } else if (below) {
        for (String kind : kinds(action, object)) {
          int flags = kind.isEmpty() ? Ace.CHILDREN : Ace.CHILDREN | Ace.BELOW_ONLY;
          need(action.need(), new Reach(object, flags, kind), rights);
        }
      } else {
        throw new IllegalArgumentException(
            action.id()
                + " cannot be done to "
                + tree.dn(object)
                + " itself, only to what is below it");
      }
    }
    Set<ListWish.Edit> edits = new LinkedHashSet<>();
    rights.forEach((place, mask) -> edits.add(edit(place, mask)));
    return List.copyOf(edits);
  }

  /** Of the classes that it can be done to those that are there; all where none is. */
  private List<String> kinds(AdminAction action, int object) {
    Set<String> there = new TreeSet<>();
    for (int below = object + 1; below < tree.end(object); below++) {
      there.add(tree.objectClass(below));
    }
    List<String> kinds =
        action.on().stream()
            .filter(kind -> there.stream().anyMatch(c -> tree.names().isA(c, kind)))
            .toList();
    return !kinds.isEmpty() ? kinds : action.on().isEmpty() ? List.of("") : action.on();
  }

  private ListWish.Edit edit(Place place, int mask) {
    boolean plain = place.part.isEmpty() && place.inheritedBy.isEmpty();
    Ace ace =
        Ace.of(plain ? AceType.ALLOW : AceType.ALLOW_OBJECT, place.flags, mask, sid)
            .on(place.part, place.inheritedBy);
    return new ListWish.Edit(place.object, Sddl.text(ace), true);
  }

  /**
   * Where a need is met.
   *
   * @param object whose list gets the entry
   * @param flags how far it is handed on
   * @param kind the class of the objects that it is for; empty for all
   */
  private record Reach(int object, int flags, String kind) {}

  private void need(Requirement need, Reach reach, Map<Place, Integer> rights) {
    if (need instanceof Requirement.All all) {
      all.parts().forEach(part -> need(part, reach, rights));
    } else if (need instanceof Requirement.Any any) {
      any(any, reach, rights);
    } else if (need instanceof Requirement.At at) {
      need(Rules.ofClass(at.need(), reach.kind), above(at, reach), rights);
    } else if (need instanceof Requirement.Confidential) {
      throw new IllegalArgumentException(
          "reading confidential attributes is given attribute by attribute; read=ATTRIBUTE");
    } else {
      one(Rules.ofClass(need, reach.kind), reach, rights);
    }
  }

  /** The first way that an entry can give. */
  private void any(Requirement.Any any, Reach reach, Map<Place, Integer> rights) {
    List<String> why = new ArrayList<>();
    for (Requirement part : any.parts()) {
      Map<Place, Integer> these = new LinkedHashMap<>();
      try {
        need(part, reach, these);
        these.forEach((place, mask) -> rights.merge(place, mask, (a, b) -> a | b));
        return;
      } catch (IllegalArgumentException e) {
        why.add(String.valueOf(e.getMessage()));
      }
    }
    throw new IllegalArgumentException(String.join("; ", why));
  }

  /** What is asked of the object above counts there, and on all containers below it. */
  private Reach above(Requirement.At at, Reach reach) {
    if (at.where() == Requirement.Where.DESTINATION) {
      throw new IllegalArgumentException(
          "moving also takes a right where it goes; give create=CLASS there");
    }
    if (reach.flags != 0) {
      return new Reach(reach.object, Ace.CHILDREN, "");
    }
    int parent = tree.parent(reach.object);
    if (parent < 0) {
      throw new IllegalArgumentException("nothing stands above " + tree.dn(reach.object));
    }
    return new Reach(parent, 0, "");
  }

  private void one(Requirement need, Reach reach, Map<Place, Integer> rights) {
    String never = Rules.never(tree.names(), need);
    if (!never.isEmpty()) {
      throw new IllegalArgumentException(never);
    }
    String kind = reach.kind.isEmpty() ? tree.objectClass(reach.object) : reach.kind;
    Target target =
        Rules.target(tree.names(), need, kind)
            .orElseThrow(
                () ->
                    new IllegalArgumentException(
                        "the directory does not say what " + need + " is called in its lists"));
    Optional<UUID> part = target.types().stream().findFirst();
    Optional<UUID> inheritedBy =
        reach.flags == 0 || reach.kind.isEmpty()
            ? Optional.empty()
            : tree.names().objectClass(reach.kind).map(DsNames.ObjectClass::id);
    rights.merge(
        new Place(reach.object, reach.flags, part, inheritedBy), target.mask(), (a, b) -> a | b);
  }
}
