package org.sobercompass.sources.database;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;
import java.util.function.Function;
import org.sobercompass.core.system.database.AclItem;
import org.sobercompass.core.system.database.DatabaseRights;

/**
 * What grants and revokes one after the other make of lists of items: who gave and who gets make
 * one item. Not thread-safe.
 *
 * @param <K> what a list is named by
 */
final class SqlItems<K> {
  private final Function<K, List<AclItem>> now;
  private final Map<K, List<AclItem>> before = new LinkedHashMap<>();
  private final Map<K, List<AclItem>> after = new LinkedHashMap<>();

  /**
   * What a statement does.
   *
   * @param grants whether it grants; else it revokes
   * @param option whether the right to pass it on is granted too
   * @param optionOnly whether only the right to pass it on is revoked
   */
  record Verb(boolean grants, boolean option, boolean optionOnly) {}

  /** Nothing changed yet. */
  SqlItems(Function<K, List<AclItem>> now) {
    this.now = now;
  }

  /**
   * What one right does to the item of who gave it and who gets it.
   *
   * @param idle gets the item, and whether it stays, where it is so already
   */
  void change(K key, AclItem item, Verb verb, BiConsumer<AclItem, Boolean> idle) {
    before.computeIfAbsent(key, now);
    List<AclItem> items = after.computeIfAbsent(key, k -> new ArrayList<>(now.apply(k)));
    AclItem was =
        items.stream()
            .filter(i -> i.grantee().equals(item.grantee()) && i.grantor().equals(item.grantor()))
            .findFirst()
            .orElse(new AclItem(item.grantee(), 0, item.grantor()));
    long mask = was.mask();
    if (verb.grants) {
      mask |= item.mask() | (verb.option ? options(item.mask()) : 0);
    } else {
      mask &= ~options(item.mask()) & ~(verb.optionOnly ? 0 : item.mask());
    }
    if (mask == was.mask()) {
      idle.accept(verb.grants ? was : item, verb.grants);
      return;
    }
    items.remove(was);
    if (mask != 0) {
      items.add(new AclItem(item.grantee(), mask, item.grantor()));
    }
  }

  private static long options(long mask) {
    return mask << DatabaseRights.LETTERS.length();
  }

  /** Tells of each list that changed the items that go, then those that come. */
  void differences(Differing<K> into) {
    after.forEach(
        (key, items) -> {
          List<AclItem> were = before.getOrDefault(key, List.of());
          were.stream()
              .filter(item -> !items.contains(item))
              .forEach(item -> into.accept(key, item, false));
          items.stream()
              .filter(item -> !were.contains(item))
              .forEach(item -> into.accept(key, item, true));
        });
  }

  /** Takes an item that comes or goes. */
  interface Differing<K> {
    /** Takes one; the key is that of the list. */
    void accept(K key, AclItem item, boolean added);
  }
}
