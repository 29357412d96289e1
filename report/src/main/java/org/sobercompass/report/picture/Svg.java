package org.sobercompass.report.picture;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.sobercompass.core.problem.Plain;

/**
 * Writes the few SVG elements of a picture (SVG 1.1). All text is escaped here; numbers are
 * formatted here; text is measured roughly, since there is no font here. Not thread-safe.
 */
final class Svg {
  /** How wide a letter of the usual size is taken to be; wide enough for most fonts. */
  static final double LETTER = 7.1;

  private static final double MARGIN = 4;

  private final StringBuilder out = new StringBuilder();

  /**
   * A picture.
   *
   * @param title what it shows, for who cannot see it
   */
  Svg(String title, double width, double height) {
    out.append(
        String.format(
            Locale.ROOT,
            "<svg class=\"drawing\" role=\"img\" xmlns=\"http://www.w3.org/2000/svg\""
                + " width=\"%.0f\" height=\"%.0f\" viewBox=\"%.0f %.0f %.0f %.0f\">",
            width + 2 * MARGIN,
            height + 2 * MARGIN,
            -MARGIN,
            -MARGIN,
            width + 2 * MARGIN,
            height + 2 * MARGIN));
    hint(title);
  }

  /** What stands when somebody points at the element that was begun. */
  private void hint(String text) {
    if (!text.isEmpty()) {
      out.append("<title>").append(escape(text)).append("</title>");
    }
  }

  /** Begins what belongs together; {@link #close} ends it. */
  Svg open(String hint) {
    out.append("<g>");
    hint(hint);
    return this;
  }

  /** Ends what {@link #open} began. */
  Svg close() {
    out.append("</g>");
    return this;
  }

  /** A line through points with a head at its end. */
  void arrow(String style, List<double[]> points) {
    line(style, points);
    double[] end = points.get(points.size() - 1);
    out.append(
        String.format(
            Locale.ROOT, "<path class=\"head\" d=\"M%.1f %.1fl-7 -4v8z\"/>", end[0], end[1]));
  }

  /** A line through points. */
  void line(String style, List<double[]> points) {
    StringBuilder path = new StringBuilder();
    for (double[] p : points) {
      path.append(
          String.format(Locale.ROOT, "%s%.1f %.1f", path.isEmpty() ? "M" : "L", p[0], p[1]));
    }
    out.append("<path class=\"").append(style).append("\" d=\"").append(path).append("\"/>");
  }

  /** A straight line. */
  void line(String style, double x1, double y1, double x2, double y2) {
    line(style, List.of(new double[] {x1, y1}, new double[] {x2, y2}));
  }

  /** A rectangle with round corners. */
  void rect(String style, double x, double y, double w, double h, double corner) {
    out.append(
        String.format(
            Locale.ROOT,
            "<rect class=\"%s\" x=\"%.1f\" y=\"%.1f\" width=\"%.1f\" height=\"%.1f\" rx=\"%.1f\"/>",
            style,
            x,
            y,
            w,
            h,
            corner));
  }

  /** A text in the middle of a point, or from it on, as its style says. */
  void text(String style, double x, double y, String text) {
    out.append(
        String.format(Locale.ROOT, "<text class=\"%s\" x=\"%.1f\" y=\"%.1f\">", style, x, y));
    out.append(escape(text)).append("</text>");
  }

  /** A text that climbs from a point, for the heads of narrow columns. */
  void climbing(double x, double y, String text) {
    out.append(
        String.format(
            Locale.ROOT,
            "<text class=\"left\" transform=\"translate(%.1f %.1f) rotate(-50)\">",
            x,
            y));
    out.append(escape(text)).append("</text>");
  }

  /** Escapes for text and attributes; characters that XML forbids are replaced. */
  static String escape(String text) {
    StringBuilder safe = new StringBuilder();
    Plain.text(text)
        .codePoints()
        .forEach(
            c -> {
              switch (c) {
                case '&' -> safe.append("&amp;");
                case '<' -> safe.append("&lt;");
                case '>' -> safe.append("&gt;");
                case '"' -> safe.append("&quot;");
                case '\'' -> safe.append("&#39;");
                default -> safe.appendCodePoint(isForbidden(c) ? 0xFFFD : c);
              }
            });
    return safe.toString();
  }

  /** Characters that no XML 1.0 document may have (section 2.2). */
  private static boolean isForbidden(int c) {
    return c < ' ' || c == 0xFFFE || c == 0xFFFF || (c >= 0xD800 && c <= 0xDFFF);
  }

  /** So much of a text as fits into a width; an ellipsis tells that it was cut. */
  static String fit(String text, double width) {
    int letters = Math.max(1, (int) (width / LETTER));
    return text.length() <= letters ? text : text.substring(0, letters - 1) + "…";
  }

  /** How wide the longest of some texts is, but no wider than asked. */
  static double width(List<String> texts, double most) {
    double widest = 0;
    for (String text : texts) {
      widest = Math.max(widest, text.length() * LETTER);
    }
    return Math.min(most, widest);
  }

  /** Draws the meaning of signs in a row, from a point on; where it ends. */
  double legend(double x, double y, List<String> signs, List<String> words) {
    double at = x;
    for (int i = 0; i < signs.size(); i++) {
      text("left mark", at, y, signs.get(i));
      at += signs.get(i).length() * LETTER + 10;
      text("left quiet", at, y, words.get(i));
      at += words.get(i).length() * LETTER * 0.92 + 18;
    }
    return at;
  }

  /** How wide a legend is. */
  static double legendWidth(List<String> signs, List<String> words) {
    List<Double> parts = new ArrayList<>();
    signs.forEach(s -> parts.add(s.length() * LETTER + 10));
    words.forEach(w -> parts.add(w.length() * LETTER * 0.92 + 18));
    return parts.stream().mapToDouble(d -> d).sum();
  }

  String end() {
    return out.append("</svg>").toString();
  }
}
