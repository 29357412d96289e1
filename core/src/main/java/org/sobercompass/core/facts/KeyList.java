package org.sobercompass.core.facts;

import java.util.AbstractList;
import java.util.RandomAccess;
import org.sobercompass.core.key.Key;

/**
 * The keys of subjects, made when they are asked for: four bytes each until then, since lists of
 * all whom something concerns can be long. Immutable and thread-safe; {@link #get} is O(1).
 */
final class KeyList extends AbstractList<Key> implements RandomAccess {
  private final Facts facts;
  private final int[] subjects;

  KeyList(Facts facts, int[] subjects) {
    this.facts = facts;
    this.subjects = subjects;
  }

  @Override
  public Key get(int index) {
    return facts.key(subjects[index]);
  }

  @Override
  public int size() {
    return subjects.length;
  }
}
