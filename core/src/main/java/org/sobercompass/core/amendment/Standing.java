package org.sobercompass.core.amendment;

import java.util.Collection;
import java.util.List;
import java.util.function.BiPredicate;

/** How a live system stands to a record. */
public enum Standing {
  /** As the record counts on: it can be made. */
  BEFORE,
  /** As the record makes it. */
  AFTER,
  /** Neither: somebody changed it since. */
  OTHER;

  /**
   * How values stand to one difference. A difference of nothing stands before.
   *
   * @param now the values that are there
   * @param same whether two values are the same to the system
   */
  public static Standing of(
      Difference difference, Collection<String> now, BiPredicate<String, String> same) {
    boolean before =
        difference.removed().stream().allMatch(value -> has(now, value, same))
            && difference.added().stream().noneMatch(value -> has(now, value, same));
    boolean after =
        difference.added().stream().allMatch(value -> has(now, value, same))
            && difference.removed().stream().noneMatch(value -> has(now, value, same));
    return before ? BEFORE : after ? AFTER : OTHER;
  }

  private static boolean has(
      Collection<String> now, String value, BiPredicate<String, String> same) {
    return now.stream().anyMatch(there -> same.test(there, value));
  }

  /** How a record stands of which the parts stand so; parts that differ stand as neither. */
  public static Standing all(List<Standing> parts) {
    Standing first = parts.isEmpty() ? BEFORE : parts.get(0);
    return parts.stream().allMatch(part -> part == first) ? first : OTHER;
  }
}
