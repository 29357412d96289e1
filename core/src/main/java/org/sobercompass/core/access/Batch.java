package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * Many questions at once: grouped by account inside, so that each account's subjects are found
 * once, and answered in the order asked. Not thread-safe, like its asker.
 */
public final class Batch {
  private final Asker asker;

  /** Asks with this asker. */
  public Batch(Asker asker) {
    this.asker = asker;
  }

  /** One question. */
  public record Item(int account, SystemView view, int right, int resource) {}

  /** The answers, in the order of the questions. O(n log n + n decisions). */
  public List<Can> answer(List<Item> items) {
    List<Integer> order = new ArrayList<>(items.size());
    Can[] answers = new Can[items.size()];
    for (int i = 0; i < items.size(); i++) {
      order.add(i);
    }
    order.sort(Comparator.comparingInt(i -> items.get(i).account()));
    for (int i : order) {
      Item item = items.get(i);
      answers[i] = asker.can(item.view(), item.account(), item.right(), item.resource());
    }
    return List.of(answers);
  }
}
