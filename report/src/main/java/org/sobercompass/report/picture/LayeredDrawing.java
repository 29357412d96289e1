package org.sobercompass.report.picture;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.eclipse.elk.alg.layered.options.LayeredMetaDataProvider;
import org.eclipse.elk.core.RecursiveGraphLayoutEngine;
import org.eclipse.elk.core.data.LayoutMetaDataService;
import org.eclipse.elk.core.options.CoreOptions;
import org.eclipse.elk.core.options.Direction;
import org.eclipse.elk.core.util.BasicProgressMonitor;
import org.eclipse.elk.graph.ElkBendPoint;
import org.eclipse.elk.graph.ElkEdge;
import org.eclipse.elk.graph.ElkEdgeSection;
import org.eclipse.elk.graph.ElkNode;
import org.eclipse.elk.graph.util.ElkGraphUtil;

/**
 * Boxes in layers from left to right, joined by arrows, laid out by the layout library. Boxes of
 * one kind that stand between the same others are merged into one that tells how many it is. The
 * same input gives the same picture. Not thread-safe.
 */
final class LayeredDrawing {
  /** So many boxes can be read; the rest is left out, and told. */
  static final int MOST = 80;

  private static final double HEIGHT = 38;
  private static final double LONGEST = 250;
  private static final int NAMED = 2;

  /** So many more letters of the small size fit. */
  private static final double SMALL = 1.25;

  private final Map<String, Box> boxes = new LinkedHashMap<>();
  private final Map<String, Arrow> arrows = new LinkedHashMap<>();

  /** A kind of box; each has a shape of its own. */
  enum Shape {
    ACCOUNT,
    GROUP,
    ROLE,
    PERMISSION,
    STOPPER
  }

  private record Box(Shape shape, String kind, List<String> names) {}

  private record Arrow(String from, String to, boolean stopped) {}

  static {
    LayoutMetaDataService.getInstance()
        .registerLayoutMetaDataProviders(new LayeredMetaDataProvider());
  }

  /** A box; one with the same id is there once. */
  void box(String id, Shape shape, String kind, String name) {
    boxes.putIfAbsent(id, new Box(shape, kind, List.of(name)));
  }

  /** An arrow between two boxes; one that stops nothing wins over one that does. */
  void arrow(String from, String to, boolean stopped) {
    arrows.merge(
        from + " " + to,
        new Arrow(from, to, stopped),
        (one, other) -> new Arrow(from, to, one.stopped && other.stopped));
  }

  boolean isEmpty() {
    return boxes.isEmpty();
  }

  /** How many boxes there are before any are merged. */
  int size() {
    return boxes.size();
  }

  /** The picture. */
  String draw(String title) {
    merge();
    ElkNode graph = ElkGraphUtil.createGraph();
    graph.setProperty(CoreOptions.ALGORITHM, "org.eclipse.elk.layered");
    graph.setProperty(CoreOptions.DIRECTION, Direction.RIGHT);
    Map<String, ElkNode> nodes = new LinkedHashMap<>();
    boxes.forEach(
        (id, box) -> {
          ElkNode node = ElkGraphUtil.createNode(graph);
          double width = Svg.width(List.of(text(box), box.kind), LONGEST);
          node.setDimensions(width + 24, HEIGHT);
          nodes.put(id, node);
        });
    Map<ElkEdge, Arrow> edges = new LinkedHashMap<>();
    for (Arrow arrow : arrows.values()) {
      ElkNode from = nodes.get(arrow.from);
      ElkNode to = nodes.get(arrow.to);
      if (from != null && to != null) {
        edges.put(ElkGraphUtil.createSimpleEdge(from, to), arrow);
      }
    }
    new RecursiveGraphLayoutEngine().layout(graph, new BasicProgressMonitor());
    Svg out = new Svg(title, graph.getWidth(), graph.getHeight());
    edges.forEach((edge, arrow) -> edge(out, edge, arrow.stopped));
    boxes.forEach(
        (id, box) -> {
          ElkNode node = nodes.get(id);
          if (node != null) {
            box(out, node, box);
          }
        });
    return out.end();
  }

  /** Merges boxes of one kind between the same others, until none are left to merge. */
  private void merge() {
    for (int before = -1; before != boxes.size(); ) {
      before = boxes.size();
      Map<String, Set<String>> into = new LinkedHashMap<>();
      Map<String, Set<String>> outOf = new LinkedHashMap<>();
      for (Arrow arrow : arrows.values()) {
        outOf.computeIfAbsent(arrow.from, k -> new TreeSet<>()).add(arrow.to + arrow.stopped);
        into.computeIfAbsent(arrow.to, k -> new TreeSet<>()).add(arrow.from + arrow.stopped);
      }
      Map<String, List<String>> alike = new LinkedHashMap<>();
      boxes.forEach(
          (id, box) ->
              alike
                  .computeIfAbsent(
                      box.shape + "|" + box.kind + "|" + into.get(id) + "|" + outOf.get(id),
                      k -> new ArrayList<>())
                  .add(id));
      alike.values().stream().filter(ids -> ids.size() > 1).forEach(this::merge);
    }
  }

  private void merge(List<String> ids) {
    String kept = ids.get(0);
    List<String> names = new ArrayList<>();
    for (String id : ids) {
      Box box = boxes.get(id);
      if (box != null) {
        names.addAll(box.names);
      }
    }
    Box first = boxes.get(kept);
    if (first != null) {
      boxes.put(kept, new Box(first.shape, first.kind, names));
    }
    Set<String> gone = new TreeSet<>(ids.subList(1, ids.size()));
    boxes.keySet().removeAll(gone);
    arrows.values().removeIf(arrow -> gone.contains(arrow.from) || gone.contains(arrow.to));
  }

  private static String text(Box box) {
    List<String> names = box.names;
    if (names.size() == 1) {
      return names.get(0);
    }
    List<String> sorted = names.stream().sorted(Comparator.naturalOrder()).toList();
    String some = String.join(", ", sorted.subList(0, Math.min(NAMED, sorted.size())));
    return names.size() + ": " + some + (names.size() > NAMED ? " …" : "");
  }

  private static void edge(Svg out, ElkEdge edge, boolean stopped) {
    for (ElkEdgeSection section : edge.getSections()) {
      List<double[]> points = new ArrayList<>();
      points.add(new double[] {section.getStartX(), section.getStartY()});
      for (ElkBendPoint bend : section.getBendPoints()) {
        points.add(new double[] {bend.getX(), bend.getY()});
      }
      points.add(new double[] {section.getEndX(), section.getEndY()});
      out.arrow(stopped ? "stopped" : "line", points);
    }
  }

  private static void box(Svg out, ElkNode node, Box box) {
    double w = node.getWidth();
    double corner =
        switch (box.shape) {
          case ACCOUNT -> HEIGHT / 2;
          case GROUP -> 8;
          default -> 0;
        };
    String style = box.shape.name().toLowerCase(java.util.Locale.ROOT);
    out.open(box.kind + ": " + String.join(", ", box.names));
    out.rect(style, node.getX(), node.getY(), w, HEIGHT, corner);
    double middle = node.getX() + w / 2;
    out.text("small", middle, node.getY() + 14, Svg.fit(box.kind, (w - 8) * SMALL));
    String sign = box.shape == Shape.STOPPER ? "✕ " : "";
    out.text("name", middle, node.getY() + 29, Svg.fit(sign + text(box), w - 8));
    out.close();
  }
}
