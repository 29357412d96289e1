package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.system.RoleInfo;

/** Two accounts, or two roles, side by side. */
public final class SideBySide {
  private SideBySide() {}

  /**
   * One right that at least one of the two has.
   *
   * @param system the number of the system
   * @param right the right
   * @param first where the first one has it, as resource ids; empty when nowhere
   * @param second where the second one has it
   */
  public record Line(int system, int right, List<String> first, List<String> second) {
    /** Whether both have the same. */
    public boolean same() {
      return first.equals(second);
    }
  }

  /** The holdings of two accounts, by system and right. */
  public static List<Line> accounts(Asker asker, int left, int right) {
    List<Line> lines = new ArrayList<>();
    for (SystemView view : asker.model().systems()) {
      Map<String, List<String>> ofLeft = places(view, asker.holdings(view, left));
      Map<String, List<String>> ofRight = places(view, asker.holdings(view, right));
      for (int r : view.rights().byText()) {
        String text = view.rights().text(r);
        List<String> a = ofLeft.getOrDefault(text, List.of());
        List<String> b = ofRight.getOrDefault(text, List.of());
        if (!a.isEmpty() || !b.isEmpty()) {
          lines.add(new Line(view.number(), r, a, b));
        }
      }
    }
    return lines;
  }

  private static Map<String, List<String>> places(SystemView view, List<Holding> holdings) {
    Map<String, List<String>> places = new TreeMap<>(Key::compareUtf8);
    for (Holding holding : holdings) {
      places
          .computeIfAbsent(view.rights().text(holding.right()), r -> new ArrayList<>())
          .add(Words.place(view, holding));
    }
    return places;
  }

  /** The rights of two roles of one system, by right. */
  public static List<Line> roles(SystemView view, RoleInfo left, RoleInfo right) {
    List<Line> lines = new ArrayList<>();
    for (int r : view.rights().byText()) {
      List<String> a = words(left, r);
      List<String> b = words(right, r);
      if (!a.isEmpty() || !b.isEmpty()) {
        lines.add(new Line(view.number(), r, a, b));
      }
    }
    return lines;
  }

  private static List<String> words(RoleInfo role, int right) {
    List<String> words = new ArrayList<>();
    if (role.allows(right)) {
      words.add("yes");
    }
    if (role.denies(right)) {
      words.add("denied");
    }
    return words;
  }
}
