package org.sobercompass.report.picture;

import java.util.ArrayList;
import java.util.List;

/**
 * A tree of places with what is set at each: what stands there by itself is in a box, what is only
 * handed down from above is a quiet line without one.
 */
public final class TreeDrawing {
  private static final double ROW = 24;
  private static final double INDENT = 20;
  private static final double LONGEST = 640;
  private static final List<String> SIGNS = List.of("+", "|", "=", "?");
  private static final List<String> WORDS =
      List.of("set here", "inheritance blocked", "only inherited", "not read");

  private TreeDrawing() {}

  /**
   * One place.
   *
   * @param depth how many places it stands in
   * @param name its own name
   * @param signs marks: + set here, | blocked, = inherited, ? not read
   * @param says what is set there, or empty
   */
  public record Place(int depth, String name, String signs, String says) {}

  /** SVG of a tree in preorder; empty when there is none. */
  public static String draw(String title, List<Place> places) {
    if (places.isEmpty()) {
      return "";
    }
    List<String> names = new ArrayList<>();
    places.forEach(p -> names.add(p.name() + "   ".repeat(p.depth())));
    double left = Svg.width(names, 380) + 20;
    double says = Svg.width(places.stream().map(Place::says).toList(), LONGEST);
    double width = Math.max(left + 44 + says + 16, Svg.legendWidth(SIGNS, WORDS));
    Svg out = new Svg(title, width, places.size() * ROW + 34);
    for (int i = 0; i < places.size(); i++) {
      place(out, places, i, left, says);
    }
    out.legend(0, places.size() * ROW + 26, SIGNS, WORDS);
    return out.end();
  }

  private static void place(Svg out, List<Place> places, int i, double left, double says) {
    Place place = places.get(i);
    double y = i * ROW;
    double x = place.depth() * INDENT;
    boolean own = !place.says().isEmpty();
    if (place.depth() > 0) {
      int above = above(places, i);
      double up = (above + 1) * ROW - 3;
      out.line(
          "rule",
          List.of(
              new double[] {x - INDENT + 6, up},
              new double[] {x - INDENT + 6, y + ROW / 2},
              new double[] {x - 2, y + ROW / 2}));
    }
    out.open(place.name() + (own ? ": " + place.says() : ""));
    out.text(own ? "left strong" : "left", x, y + 17, Svg.fit(place.name(), left - x - 4));
    out.text("left mark", left, y + 17, place.signs());
    if (own) {
      out.rect("role", left + 40, y + 2, says + 12, ROW - 4, 4);
      out.text("left", left + 46, y + 17, Svg.fit(place.says(), says + 8));
    }
    out.close();
  }

  /** The place right above one in its tree. */
  private static int above(List<Place> places, int i) {
    int at = i - 1;
    while (at > 0 && places.get(at).depth() >= places.get(i).depth()) {
      at--;
    }
    return at;
  }
}
