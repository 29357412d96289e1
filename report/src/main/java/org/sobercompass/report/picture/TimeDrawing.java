package org.sobercompass.report.picture;

import java.time.ZoneId;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.sobercompass.core.comparison.Reading;
import org.sobercompass.core.findings.Weight;

/**
 * Readings over time: a bar of findings by weight for each, and a line of powerful accounts. The
 * numbers stand with the bars, so that nothing has to be read off a scale.
 */
public final class TimeDrawing {
  private static final double HEIGHT = 190;
  private static final double TOP = 58;
  private static final int MOST = 24;
  private static final List<Weight> ORDER = List.of(Weight.HIGH, Weight.MEDIUM, Weight.LOW);

  private TimeDrawing() {}

  /** SVG of readings, the earliest first; of very many the latest. */
  public static String draw(Map<String, Reading> readings, ZoneId zone) {
    List<Reading> all = readings.values().stream().toList();
    List<Reading> shown = all.subList(Math.max(0, all.size() - MOST), all.size());
    double step = Math.max(46, Math.min(120, 900.0 / shown.size()));
    double width = Math.max(shown.size() * step + 20, 560);
    Svg out = new Svg("Findings by weight and powerful accounts, over time", width, HEIGHT + 92);
    out.text("left strong", 0, 12, "Findings by weight");
    int most = shown.stream().mapToInt(TimeDrawing::total).max().orElse(1);
    double unit = (HEIGHT - TOP) / Math.max(1, most);
    for (int i = 0; i < shown.size(); i++) {
      reading(out, shown.get(i), 10 + i * step, step - 12, unit, zone);
    }
    out.line("rule", 0, HEIGHT, width, HEIGHT);
    out.text("left quiet", 0, HEIGHT + 60, "powerful accounts stand below each day");
    legend(out, HEIGHT + 80);
    return out.end();
  }

  private static int total(Reading reading) {
    return reading.findings().values().stream().mapToInt(n -> n).sum();
  }

  private static void reading(
      Svg out, Reading reading, double x, double w, double unit, ZoneId zone) {
    double y = HEIGHT;
    for (int i = ORDER.size() - 1; i >= 0; i--) {
      Weight weight = ORDER.get(i);
      int count = reading.findings().getOrDefault(weight, 0);
      double h = count * unit;
      y -= h;
      out.open(count + " of " + weight.word() + " weight");
      out.rect(bar(weight), x, y, w, h, 0);
      out.close();
    }
    int high = reading.findings().getOrDefault(Weight.HIGH, 0);
    out.text("high", x + w / 2, y - 16, "▲ " + high);
    out.text("quiet", x + w / 2, y - 3, "of " + total(reading));
    String day = reading.asOf().atZone(zone).toLocalDate().toString();
    out.text("quiet", x + w / 2, HEIGHT + 16, w < 76 ? day.substring(5) : day);
    out.text("mark", x + w / 2, HEIGHT + 34, "★ " + reading.powerful());
  }

  private static String bar(Weight weight) {
    return weight.word().toLowerCase(Locale.ROOT) + "bar";
  }

  private static void legend(Svg out, double y) {
    double x = 0;
    for (Weight weight : ORDER) {
      out.rect(bar(weight), x, y - 10, 12, 12, 0);
      out.text("left quiet", x + 18, y, weight.word());
      x += 90;
    }
    out.text("left quiet", x, y, "▲ of high weight    ★ powerful accounts");
  }
}
