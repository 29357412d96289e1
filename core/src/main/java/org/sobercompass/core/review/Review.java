package org.sobercompass.core.review;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.sobercompass.core.review.ReviewItem.Capacity;

/**
 * What there is to confirm, and by whom. Immutable.
 *
 * @param sheets one for each responsible account or group, by its number
 * @param nobody what nobody answers for
 */
public record Review(List<Sheet> sheets, List<Line> nobody) {
  /** Copies. */
  public Review {
    sheets = List.copyOf(sheets);
    nobody = List.copyOf(nobody);
  }

  /**
   * An item on a sheet.
   *
   * @param capacity as what somebody answers for it
   * @param of the id or key of what they answer for
   * @param own whether whoever is asked has the item himself or herself
   */
  public record Line(Capacity capacity, String of, ReviewItem item, boolean own) {}

  /** What one account or group is to confirm. */
  public record Sheet(int responsible, List<Line> lines) {
    /** Copies. */
    public Sheet {
      lines = List.copyOf(lines);
    }
  }

  /**
   * Only what was asked, of whom it was asked. What was asked of somebody who is not there any more
   * is nobody's.
   *
   * @param rows the ids of the items, by the number of whoever was asked; below 0 for one who is
   *     not there
   */
  public Review asked(Map<Integer, Set<String>> rows) {
    Map<String, Line> any = new LinkedHashMap<>();
    nobody.forEach(line -> any.put(line.item().id(), line));
    sheets.forEach(sheet -> sheet.lines().forEach(line -> any.put(line.item().id(), line)));
    List<Sheet> asked = new ArrayList<>();
    List<Line> left = new ArrayList<>();
    rows.forEach(
        (who, ids) -> {
          List<Line> lines = ids.stream().map(any::get).filter(Objects::nonNull).toList();
          if (who < 0) {
            left.addAll(lines);
          } else {
            asked.add(new Sheet(who, lines));
          }
        });
    return new Review(asked, left);
  }

  /** All items by their ids, each once. O(items). */
  public Map<String, ReviewItem> byId() {
    Map<String, ReviewItem> all = new LinkedHashMap<>();
    sheets.forEach(sheet -> sheet.lines().forEach(line -> all.put(line.item().id(), line.item())));
    nobody.forEach(line -> all.put(line.item().id(), line.item()));
    return all;
  }
}
