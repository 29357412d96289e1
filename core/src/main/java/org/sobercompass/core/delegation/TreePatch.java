package org.sobercompass.core.delegation;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.ToIntBiFunction;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Arrivals;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.Inheritance;

/**
 * A tree as it would be without some entries, or with one more. What an entry handed on goes from
 * the lists below with it, as the directory itself does it ([MS-ADTS] 6.1.3): an inherited entry
 * that the list above supported, and supports no longer. Others stay as they are, and entries keep
 * their numbers: one that decides nothing stands where one was. O(objects below).
 */
public final class TreePatch {
  private final DirectoryTree tree;
  private final int[] numbers;
  private final List<Descriptor> descriptors = new ArrayList<>();
  private final Map<Below, Integer> known = new HashMap<>();

  private record Below(int own, int aboveBefore, int aboveNow, int kind) {}

  private TreePatch(DirectoryTree tree) {
    this.tree = tree;
    this.numbers = tree.descriptorNumbers();
    for (int d = 0; d < tree.descriptors(); d++) {
      descriptors.add(tree.descriptorOf(d));
    }
  }

  /** The tree without some entries; itself when there are none. */
  public static DirectoryTree without(DirectoryTree tree, List<HandedDown.Entry> entries) {
    Map<Integer, BitSet> gone = new TreeMap<>();
    for (HandedDown.Entry entry : entries) {
      gone.computeIfAbsent(entry.object(), o -> new BitSet()).set(entry.entry());
    }
    if (gone.isEmpty()) {
      return tree;
    }
    TreePatch patch = new TreePatch(tree);
    gone.forEach(patch::takeOut);
    int done = 0;
    for (int object : gone.keySet()) {
      for (int below = Math.max(done, object + 1); below < tree.end(object); below++) {
        patch.below(below, patch::without);
      }
      done = Math.max(done, tree.end(object));
    }
    return tree.with(patch.numbers, patch.descriptors);
  }

  /**
   * The tree with the list of one object in the usual order: entries of its own before those from
   * above, and among its own those that deny first ([MS-DTYP] 2.4.5).
   */
  public static DirectoryTree inOrder(DirectoryTree tree, int object) {
    TreePatch patch = new TreePatch(tree);
    Descriptor own = tree.descriptor(object).orElseThrow();
    List<Ace> sorted = new ArrayList<>(own.entries());
    sorted.sort(Comparator.comparingInt(ace -> ace.isInherited() ? 2 : ace.denies() ? 0 : 1));
    patch.numbers[object] = patch.add(own.with(sorted));
    return tree.with(patch.numbers, patch.descriptors);
  }

  /**
   * The tree with one more entry in the list of an object, and what it hands on in the lists below,
   * as the directory itself does it ([MS-ADTS] 6.1.3). Entries get other numbers.
   *
   * @throws IllegalArgumentException where the directory would not keep the entry, or nothing is
   *     known of the list
   */
  public static DirectoryTree withMore(DirectoryTree tree, int object, Ace ace) {
    Descriptor own =
        tree.descriptor(object)
            .orElseThrow(
                () -> new IllegalArgumentException("no list is known of " + tree.dn(object)));
    if (own.dacl().isEmpty()) {
      throw new IllegalArgumentException(
          tree.dn(object) + " has no list, so everyone may do everything; give it a list first");
    }
    if (tree.isGuarded(object)) {
      throw new IllegalArgumentException(
          tree.dn(object)
              + " is a protected administrator: the directory itself keeps its list, and would take"
              + " the entry out again");
    }
    TreePatch patch = new TreePatch(tree);
    patch.numbers[object] = patch.add(own.withMore(ace));
    for (int below = object + 1; below < tree.end(object); below++) {
      if (tree.isHandedTo(below)) {
        patch.below(below, patch::gaining);
      }
    }
    return tree.withMore(patch.numbers, patch.descriptors);
  }

  private void takeOut(int object, BitSet entries) {
    Descriptor own =
        tree.descriptor(object)
            .orElseThrow(
                () -> new IllegalArgumentException("no list is known of " + tree.dn(object)));
    List<Ace> left = new ArrayList<>(own.entries());
    entries.stream().forEach(entry -> left.set(entry, left.get(entry).takenOut()));
    numbers[object] = add(own.with(left));
  }

  private int add(Descriptor descriptor) {
    descriptors.add(descriptor);
    return descriptors.size() - 1;
  }

  /** What an object still gets when the list above is another. */
  private void below(int object, ToIntBiFunction<Below, String> what) {
    int above = tree.parent(object);
    int before = tree.descriptorNumber(above);
    boolean concerned =
        numbers[object] >= 0
            && descriptors.get(numbers[object]).dacl().isPresent()
            && before != numbers[above]
            && !descriptors.get(numbers[object]).isProtected();
    if (concerned) {
      Below key = new Below(numbers[object], before, numbers[above], tree.kind(object));
      numbers[object] =
          known.computeIfAbsent(key, k -> what.applyAsInt(k, tree.objectClass(object)));
    }
  }

  private int without(Below key, String className) {
    Descriptor own = descriptors.get(key.own);
    List<Ace> before = handed(key.aboveBefore, own, className);
    List<Ace> now = handed(key.aboveNow, own, className);
    List<Ace> inherited = own.entries().stream().filter(Ace::isInherited).toList();
    List<Ace> left = new ArrayList<>();
    List<Ace> gone = new ArrayList<>();
    for (Ace ace : own.entries()) {
      // Two entries above may hand on the same: then one copy goes and the other stays.
      long kept = count(now, ace) + count(gone, ace);
      boolean goes = ace.isInherited() && count(before, ace) > kept && count(inherited, ace) > kept;
      left.add(goes ? ace.takenOut() : ace);
      if (goes) {
        gone.add(ace);
      }
    }
    return gone.isEmpty() ? key.own : add(own.with(left));
  }

  private int gaining(Below key, String className) {
    Descriptor own = descriptors.get(key.own);
    List<Ace> before = handed(key.aboveBefore, own, className);
    List<Ace> now = handed(key.aboveNow, own, className);
    List<Ace> list = new ArrayList<>(own.entries());
    Arrivals.of(list, before, now, Inheritance::same)
        .forEach(arrival -> list.add(arrival.at(), arrival.ace()));
    return list.size() == own.entries().size() ? key.own : add(own.with(list));
  }

  private List<Ace> handed(int above, Descriptor own, String className) {
    Optional<UUID> id = tree.names().objectClass(className).map(DsNames.ObjectClass::id);
    return Inheritance.inherited(
        descriptors.get(above), id.orElse(new UUID(0, 0)), own.owner(), own.group());
  }

  private static long count(List<Ace> list, Ace ace) {
    return list.stream().filter(other -> Inheritance.same(other, ace)).count();
  }
}
