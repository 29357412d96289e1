package org.sobercompass.core.delegation;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.system.Rights;

/**
 * Admin actions as the rights of a system. Those of the catalogue come first. There are as many
 * more as there are attributes and classes to ask about; such a one gets its number when it is
 * first asked about, and keeps it. Thread-safe.
 */
public final class ActionRights implements Rights {
  private final List<AdminAction> actions;
  private final Map<AdminAction, Integer> numbers = new HashMap<>();
  private final int catalogue;

  /** Those of a catalogue. */
  public ActionRights(List<AdminAction> catalogue) {
    this.actions = new ArrayList<>(catalogue);
    this.catalogue = catalogue.size();
    catalogue.forEach(action -> numbers.putIfAbsent(action, numbers.size()));
  }

  /** The number of an action. */
  public synchronized int number(AdminAction action) {
    return numbers.computeIfAbsent(
        action,
        added -> {
          actions.add(added);
          return actions.size() - 1;
        });
  }

  /** The action with a number. */
  public synchronized AdminAction action(int right) {
    return actions.get(right);
  }

  /** How many there are in the catalogue. */
  @Override
  public int size() {
    return catalogue;
  }

  @Override
  public String text(int right) {
    return action(right).id();
  }

  @Override
  public synchronized Optional<Integer> find(String text) {
    for (int right = 0; right < actions.size(); right++) {
      if (actions.get(right).id().equals(text)) {
        return Optional.of(right);
      }
    }
    return Optional.empty();
  }

  @Override
  public synchronized List<String> texts() {
    return actions.stream().limit(catalogue).map(AdminAction::id).toList();
  }

  @Override
  public int[] byText() {
    List<String> texts = texts();
    return IntStream.range(0, catalogue)
        .boxed()
        .sorted(Comparator.comparing(texts::get, Key::compareUtf8))
        .mapToInt(Integer::intValue)
        .toArray();
  }

  /** None: what an action contains is told where entries are put in words. */
  @Override
  public List<Integer> contains(int right) {
    return List.of();
  }

  @Override
  public boolean isStrongest(int right) {
    return action(right).weight() == 2;
  }
}
