package org.sobercompass.report.picture;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;

/**
 * The layers of one permission, one below the other, for accounts side by side: each layer is a
 * gate that lets an account through or stops it; what lies below the first that stops it is quiet.
 */
public final class LayerDrawing {
  private static final double ROW = 30;
  private static final double COLUMN = 170;
  private static final List<String> SIGNS = List.of("✓", "✕", "?", "·");
  private static final List<String> WORDS =
      List.of("lets through", "stops", "undecided", "not reached");

  private LayerDrawing() {}

  /** What each of some accounts meets. */
  public record Column(int account, List<Layer> layers) {
    /** Copies. */
    public Column {
      layers = List.copyOf(layers);
    }
  }

  /** What some accounts meet when they ask one thing. */
  public static List<Column> columns(
      Asker asker, SystemView view, Question question, List<Integer> accounts) {
    return accounts.stream()
        .map(
            account ->
                new Column(account, view.decider().layers(asker.token(view, account), question)))
        .toList();
  }

  /** SVG of the layers of a right; empty when there are none. */
  public static String draw(Facts facts, SystemView view, String what, List<Column> columns) {
    Set<String> names = new LinkedHashSet<>();
    columns.forEach(c -> c.layers().forEach(layer -> names.add(name(view, layer))));
    if (names.isEmpty()) {
      return "";
    }
    double left = Svg.width(new ArrayList<>(names), 330) + 16;
    double legend = Svg.legendWidth(SIGNS, WORDS);
    double width = Math.max(left + columns.size() * COLUMN, legend);
    double height = 30 + names.size() * ROW + 26 + 28;
    Svg out = new Svg("Layers of " + what + ", for accounts side by side", width, height);
    int c = 0;
    for (Column column : columns) {
      double middle = left + c++ * COLUMN + COLUMN / 2;
      out.text("strong", middle, 16, Svg.fit(facts.label(column.account()), COLUMN - 8));
      column(out, view, column, names, middle);
    }
    int r = 0;
    for (String name : names) {
      double y = 30 + r++ * ROW;
      out.text("left", 0, y + 20, Svg.fit(name, left - 8));
      out.line("rule", 0, y, width, y);
    }
    out.line("rule", 0, 30 + names.size() * ROW, width, 30 + names.size() * ROW);
    out.text("left strong", 0, 30 + names.size() * ROW + 20, "all together");
    out.legend(0, height - 6, SIGNS, WORDS);
    return out.end();
  }

  private static void column(
      Svg out, SystemView view, Column column, Set<String> names, double middle) {
    boolean stopped = false;
    boolean unsure = false;
    int r = 0;
    for (String name : names) {
      double y = 30 + r++ * ROW;
      Layer layer =
          column.layers().stream()
              .filter(one -> name(view, one).equals(name))
              .findFirst()
              .orElse(null);
      if (layer == null) {
        out.text("quiet", middle, y + 20, "·");
        continue;
      }
      out.open(name + ": " + (stopped ? WORDS.get(3) : words(layer.verdict())));
      String style = stopped ? "quiet" : layer.verdict() == Verdict.YES ? "mark" : "high";
      out.text(style, middle, y + 20, stopped ? "·" : sign(layer.verdict()));
      out.close();
      stopped |= layer.verdict() == Verdict.NO;
      unsure |= layer.verdict() == Verdict.UNDECIDED;
    }
    String whole =
        column.layers().isEmpty()
            ? "not seen"
            : stopped ? "✕ cannot" : unsure ? "? undecided" : "✓ can";
    boolean can = whole.startsWith("✓");
    out.text(can ? "mark strong" : "high", middle, 30 + names.size() * ROW + 20, whole);
  }

  private static String name(SystemView view, Layer layer) {
    String at = view.resources().id(layer.resource());
    return layer.name().contains(at) || layer.resource() == 0
        ? layer.name()
        : layer.name() + ", " + at;
  }

  private static String sign(Verdict verdict) {
    return SIGNS.get(verdict == Verdict.YES ? 0 : verdict == Verdict.NO ? 1 : 2);
  }

  private static String words(Verdict verdict) {
    return WORDS.get(verdict == Verdict.YES ? 0 : verdict == Verdict.NO ? 1 : 2);
  }
}
