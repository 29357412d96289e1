package org.sobercompass.bench;

import java.awt.Color;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.knowm.xchart.BitmapEncoder;
import org.knowm.xchart.XYChart;
import org.knowm.xchart.XYChartBuilder;
import org.knowm.xchart.style.Styler;

/** Draws what {@link Growth} measured: {@code GrowthChart TABLE ONE.png ALL.png}. */
public final class GrowthChart {
  /** Dark enough on white, and told apart without red and green. */
  private static final Color[] COLOURS = {
    new Color(0x1f4e9c),
    new Color(0xc2620a),
    new Color(0x6a3d9a),
    new Color(0x1b7f5c),
    new Color(0xb3123c),
    new Color(0x7a6a00),
    new Color(0x0d86a6),
    new Color(0xa04a8f),
    new Color(0x555555),
    new Color(0x000000)
  };

  private GrowthChart() {}

  /** Draws both pictures. */
  public static void main(String[] args) throws IOException {
    List<String> rows = Files.readAllLines(Path.of(args[0]));
    draw(
        rows, "one", "Questions about one account or one permission", "milliseconds", 1e3, args[1]);
    draw(rows, "all", "Questions about all accounts, and opening", "seconds", 1, args[2]);
  }

  private static void draw(
      List<String> rows, String group, String title, String unit, double factor, String file)
      throws IOException {
    Map<String, TreeMap<Double, Double>> series = new LinkedHashMap<>();
    for (String row : rows.subList(1, rows.size())) {
      String[] cells = row.split(",(?=(?:[^\"]*\"[^\"]*\")*[^\"]*$)");
      if (cells[1].equals(group)) {
        series
            .computeIfAbsent(cells[2].replace("\"", ""), q -> new TreeMap<>())
            .put(Double.valueOf(cells[0]), Double.parseDouble(cells[3]) * factor);
      }
    }
    XYChart chart =
        new XYChartBuilder()
            .width(1280)
            .height(720)
            .title(title)
            .xAxisTitle("accounts")
            .yAxisTitle(unit)
            .build();
    chart.getStyler().setXAxisLogarithmic(true).setYAxisLogarithmic(true);
    chart.getStyler().setXAxisDecimalPattern("#,##0").setYAxisDecimalPattern("#,##0.###");
    chart.getStyler().setChartBackgroundColor(Color.WHITE).setSeriesColors(COLOURS);
    chart.getStyler().setLegendPosition(Styler.LegendPosition.OutsideE);
    series.forEach(
        (question, points) ->
            chart.addSeries(
                question, new ArrayList<>(points.keySet()), new ArrayList<>(points.values())));
    BitmapEncoder.saveBitmap(chart, file, BitmapEncoder.BitmapFormat.PNG);
  }
}
