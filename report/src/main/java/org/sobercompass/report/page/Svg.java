package org.sobercompass.report.page;

import java.util.List;
import java.util.Locale;

/**
 * Writes the few SVG elements of a picture. All text is escaped here; numbers are formatted here.
 */
final class Svg {
  private static final double MARGIN = 4;

  private final StringBuilder out = new StringBuilder();

  Svg(double width, double height) {
    out.append(
        String.format(
            Locale.ROOT,
            "<svg class=\"drawing\" role=\"img\" xmlns=\"http://www.w3.org/2000/svg\" width=\"%.0f\""
                + " height=\"%.0f\" viewBox=\"%.0f %.0f %.0f %.0f\">",
            width + 2 * MARGIN,
            height + 2 * MARGIN,
            -MARGIN,
            -MARGIN,
            width + 2 * MARGIN,
            height + 2 * MARGIN));
  }

  /** A line through points with a head at its end. */
  void arrow(List<double[]> points) {
    StringBuilder path = new StringBuilder();
    for (double[] p : points) {
      path.append(
          String.format(Locale.ROOT, "%s%.1f %.1f", path.isEmpty() ? "M" : "L", p[0], p[1]));
    }
    double[] end = points.get(points.size() - 1);
    out.append("<path class=\"line\" d=\"").append(path).append("\"/>");
    out.append(
        String.format(
            Locale.ROOT, "<path class=\"head\" d=\"M%.1f %.1fl-7 -4v8z\"/>", end[0], end[1]));
  }

  /** A box with two lines of text; its class says what it stands for, and so do its corners. */
  void box(String kind, double x, double y, double w, double h, String small, String text) {
    double corner =
        switch (kind) {
          case "account" -> h / 2;
          case "group" -> 8;
          default -> 0;
        };
    out.append(
        String.format(
            Locale.ROOT,
            "<rect class=\"%s\" x=\"%.1f\" y=\"%.1f\" width=\"%.1f\" height=\"%.1f\" rx=\"%.1f\"/>",
            kind,
            x,
            y,
            w,
            h,
            corner));
    text("small", x + w / 2, y + 14, small);
    text("name", x + w / 2, y + 29, text);
  }

  private void text(String style, double x, double y, String text) {
    out.append(
        String.format(Locale.ROOT, "<text class=\"%s\" x=\"%.1f\" y=\"%.1f\">", style, x, y));
    out.append(escape(text)).append("</text>");
  }

  /** Escapes for text and attributes; characters that XML forbids are replaced. */
  static String escape(String text) {
    StringBuilder safe = new StringBuilder();
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      switch (c) {
        case '&' -> safe.append("&amp;");
        case '<' -> safe.append("&lt;");
        case '>' -> safe.append("&gt;");
        case '"' -> safe.append("&quot;");
        case '\'' -> safe.append("&#39;");
        default -> safe.append(c < ' ' || c == '\uFFFE' || c == '\uFFFF' ? '\uFFFD' : c);
      }
    }
    return safe.toString();
  }

  String end() {
    return out.append("</svg>").toString();
  }
}
