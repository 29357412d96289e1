package org.sobercompass.core.system.files;

import java.util.BitSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.PathTree;

/** The folders that are waste bins, collected before paths have their numbers. Not thread-safe. */
final class WasteBins {
  private final IntList nodes = new IntList();

  void add(int node) {
    nodes.add(node);
  }

  /** All that lies in them, and they themselves, one bit a path. */
  BitSet in(PathTree.Built built) {
    BitSet all = new BitSet();
    for (int n = 0; n < nodes.size(); n++) {
      int top = built.numbers()[nodes.get(n)];
      all.set(top, built.tree().end(top));
    }
    return all;
  }
}
