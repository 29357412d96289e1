package org.sobercompass.core.amendment;

import java.util.List;

/**
 * How the values of one thing change at one place: those that go, and those that come. What is not
 * named stays. Immutable.
 *
 * @param name what has the values: an attribute, an object of a database, a list
 * @param removed values that stand there before and not after
 * @param added values that stand there after and not before
 */
public record Difference(String name, List<String> removed, List<String> added) {
  /** Copies. */
  public Difference {
    removed = List.copyOf(removed);
    added = List.copyOf(added);
  }

  /** What takes it back. */
  public Difference inverse() {
    return new Difference(name, added, removed);
  }
}
