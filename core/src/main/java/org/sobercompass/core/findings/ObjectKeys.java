package org.sobercompass.core.findings;

import java.util.HashMap;
import java.util.Map;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;

/** Stable keys of the objects of directories: as the subjects that they are, else by their name. */
final class ObjectKeys {
  private final Powers powers;
  private final Map<DirectoryTree, Map<Integer, Integer>> subjects = new HashMap<>();

  ObjectKeys(Powers powers) {
    this.powers = powers;
  }

  /** The number of the subject that an object is, or -1. */
  int subject(DirectoryTree tree, int object) {
    return subjects
        .computeIfAbsent(tree, t -> powers.tokens().subjects(t))
        .getOrDefault(object, -1);
  }

  /** Its key. */
  Key key(DirectoryTree tree, int object) {
    int subject = subject(tree, object);
    return subject >= 0
        ? powers.model().facts().key(subject)
        : new Key(KeyKind.NODE, tree.directory(), tree.dnForm(object));
  }
}
