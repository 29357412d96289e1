package org.sobercompass.core.findings;

import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;

/** Stable keys of the objects of directories: as the subjects that they are, else by their name. */
public final class ObjectKeys {
  private final Powers powers;

  public ObjectKeys(Powers powers) {
    this.powers = powers;
  }

  /** The number of the subject that an object is, or -1. */
  public int subject(DirectoryTree tree, int object) {
    return powers.trees().subject(tree, object);
  }

  /** Its key. */
  public Key key(DirectoryTree tree, int object) {
    int subject = subject(tree, object);
    return subject >= 0
        ? powers.model().facts().key(subject)
        : new Key(KeyKind.NODE, tree.directory(), tree.dnForm(object));
  }
}
