package org.sobercompass.core.delegation;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.Inheritance;

/**
 * Says of each entry where it comes from: recomputed from the list above and from the default of
 * the class, whatever the entry itself claims. Answers are kept for equal lists below equal lists.
 * Not thread-safe.
 */
public final class Origins {
  private final DirectoryTree tree;
  private final Optional<DirectoryTree> accepted;
  private final Map<String, Integer> acceptedPlaces = new HashMap<>();
  private final Map<Key, List<Origin>> known = new HashMap<>();
  private final Optional<Descriptor> guard;

  private record Key(int own, int above, int kind, int accepted, boolean guarded) {}

  /**
   * Of a tree.
   *
   * @param accepted the same directory as it was untouched, or when it was last accepted
   */
  public Origins(DirectoryTree tree, Optional<DirectoryTree> accepted) {
    this.tree = tree;
    this.accepted = accepted;
    accepted.ifPresent(
        old -> {
          for (int object = 0; object < old.size(); object++) {
            acceptedPlaces.put(old.dnForm(object), object);
          }
        });
    Optional<Descriptor> found = Optional.empty();
    for (int object = 0; object < tree.size() && found.isEmpty(); object++) {
      if (tree.isGuard(object)) {
        found = tree.descriptor(object);
      }
    }
    this.guard = found;
  }

  /** The origin of each entry of an object's list, in its order; none where it is unreadable. */
  public List<Origin> of(int object) {
    int own = tree.descriptorNumber(object);
    if (own < 0) {
      return List.of();
    }
    int parent = tree.parent(object);
    int above = parent < 0 ? -1 : tree.descriptorNumber(parent);
    int old = acceptedPlaces.isEmpty() ? -1 : acceptedPlaces.getOrDefault(tree.dnForm(object), -1);
    int oldNumber = old < 0 ? -1 : accepted.orElseThrow().descriptorNumber(old);
    Key key = new Key(own, above, tree.kind(object), oldNumber, tree.isGuarded(object));
    List<Origin> origins = known.get(key);
    if (origins == null) {
      origins = compute(key, tree.objectClass(object), parent >= 0);
      known.put(key, origins);
    }
    return origins;
  }

  private List<Origin> compute(Key key, String className, boolean hasParent) {
    Descriptor own = tree.descriptorOf(key.own);
    Optional<DsNames.ObjectClass> kind = tree.names().objectClass(className);
    UUID id = kind.map(DsNames.ObjectClass::id).orElse(new UUID(0, 0));
    List<Ace> fromAbove =
        key.above < 0 || own.isProtected()
            ? List.of()
            : Inheritance.inherited(tree.descriptorOf(key.above), id, own.owner(), own.group());
    List<Ace> byDefault =
        kind.flatMap(DsNames.ObjectClass::byDefault)
            .map(d -> Inheritance.byDefault(d, own.owner(), own.group()))
            .orElse(List.of());
    List<Ace> before =
        key.accepted < 0 ? List.of() : accepted.orElseThrow().descriptorOf(key.accepted).entries();
    boolean unknownAbove = hasParent && key.above < 0;
    List<Origin> origins = new ArrayList<>();
    for (Ace ace : own.entries()) {
      origins.add(one(ace, key, fromAbove, byDefault, before, unknownAbove));
    }
    return List.copyOf(origins);
  }

  private Origin one(
      Ace ace,
      Key key,
      List<Ace> fromAbove,
      List<Ace> byDefault,
      List<Ace> before,
      boolean unknownAbove) {
    if (ace.isInherited() && (unknownAbove || has(fromAbove, ace))) {
      return Origin.INHERITED;
    }
    if (has(byDefault, ace)) {
      return Origin.DEFAULT;
    }
    if (has(before, ace)) {
      return Origin.PROVISIONED;
    }
    if (key.guarded && guard.isPresent() && has(guard.get().entries(), ace)) {
      return Origin.GUARDED;
    }
    return ace.isInherited() ? Origin.CLAIMED : Origin.ADDED;
  }

  private static boolean has(List<Ace> list, Ace ace) {
    return list.stream().anyMatch(other -> Inheritance.same(other, ace));
  }

  /**
   * Entries that the list above hands down and that are not there: a change that did not arrive.
   */
  public List<Ace> missing(int object) {
    int parent = tree.parent(object);
    Optional<Descriptor> own = tree.descriptor(object);
    if (parent < 0 || own.isEmpty() || own.get().isProtected()) {
      return List.of();
    }
    UUID id =
        tree.names()
            .objectClass(tree.objectClass(object))
            .map(DsNames.ObjectClass::id)
            .orElse(new UUID(0, 0));
    return tree
        .descriptor(parent)
        .map(d -> Inheritance.inherited(d, id, own.get().owner(), own.get().group()))
        .orElse(List.of())
        .stream()
        .filter(ace -> !has(own.get().entries(), ace))
        .toList();
  }
}
