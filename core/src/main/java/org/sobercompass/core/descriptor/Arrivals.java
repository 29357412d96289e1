package org.sobercompass.core.descriptor;

import java.util.ArrayList;
import java.util.List;
import java.util.function.BiPredicate;

/** What comes into a list when the list above hands on more than it did. Thread-safe. */
public final class Arrivals {
  private final List<Ace> list;
  private final BiPredicate<Ace, Ace> same;

  private Arrivals(List<Ace> list, BiPredicate<Ace, Ace> same) {
    this.list = new ArrayList<>(list);
    this.same = same;
  }

  /**
   * An entry that comes.
   *
   * @param at its number in the list, once those before it in the answer are there
   */
  public record Arrival(int at, Ace ace) {}

  /**
   * The entries that come, each where it stands in the list above: what is inherited already stays,
   * and does not come a second time. O(entries squared).
   *
   * @param list the entries of the list below, as they are
   * @param before what the list above handed on
   * @param now what it hands on
   * @param same whether two entries say the same
   */
  public static List<Arrival> of(
      List<Ace> list, List<Ace> before, List<Ace> now, BiPredicate<Ace, Ace> same) {
    return new Arrivals(list, same).arrivals(before, now);
  }

  private List<Arrival> arrivals(List<Ace> before, List<Ace> now) {
    List<Arrival> arrivals = new ArrayList<>();
    int end = list.size();
    for (int i = now.size() - 1; i >= 0; i--) {
      Ace ace = now.get(i);
      int there = end - 1;
      while (there >= 0 && !(list.get(there).isInherited() && same.test(list.get(there), ace))) {
        there--;
      }
      if (there >= 0) {
        end = there;
      } else if (count(now, ace) > Math.max(count(before, ace), count(inherited(), ace))) {
        list.add(end, ace);
        arrivals.add(new Arrival(end, ace));
      }
    }
    return arrivals;
  }

  private List<Ace> inherited() {
    return list.stream().filter(Ace::isInherited).toList();
  }

  private long count(List<Ace> entries, Ace ace) {
    return entries.stream().filter(other -> same.test(other, ace)).count();
  }
}
