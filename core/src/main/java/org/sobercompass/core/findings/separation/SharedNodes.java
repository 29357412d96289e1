package org.sobercompass.core.findings.separation;

import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.access.SystemView;

/**
 * The nodes of several systems under one numbering: nodes with the same id have the same number.
 * Frozen and thread-safe. O(nodes of all systems) to make.
 */
final class SharedNodes {
  private final int[][] numbers;

  /** The numbering of systems, by their place in the model. */
  SharedNodes(List<SystemView> systems) {
    Map<String, Integer> byId = new HashMap<>();
    numbers = new int[systems.size()][];
    for (SystemView view : systems) {
      int[] own = new int[view.resources().size()];
      boolean asIs = true;
      for (int node = 0; node < own.length; node++) {
        own[node] = byId.computeIfAbsent(view.resources().id(node), id -> byId.size());
        asIs &= own[node] == node;
      }
      numbers[view.number()] = asIs ? new int[0] : own;
    }
  }

  /** The shared number of a node of one system. */
  int number(SystemView view, int node) {
    int[] own = numbers[view.number()];
    return own.length == 0 ? node : own[node];
  }

  /** Adds nodes of one system to a set of shared numbers. */
  void add(SystemView view, BitSet own, BitSet shared) {
    int[] number = numbers[view.number()];
    if (number.length == 0) {
      shared.or(own);
      return;
    }
    for (int node = own.nextSetBit(0); node >= 0; node = own.nextSetBit(node + 1)) {
      shared.set(number[node]);
    }
  }
}
