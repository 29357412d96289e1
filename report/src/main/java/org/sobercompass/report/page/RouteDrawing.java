package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
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
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finding.Evidence;
import org.sobercompass.core.system.Grant;

/**
 * Draws routes as one layered picture, account on the left, permissions on the right: what routes
 * share is drawn once. Kinds differ by shape and by a word, not by colour alone. Text is measured
 * roughly, since there is no font here.
 */
final class RouteDrawing {
  private static final double HEIGHT = 38;
  private static final double LETTER = 7.1;
  private static final int LONGEST = 34;

  private final AccessModel model;
  private final Facts facts;
  private final Map<String, Box> boxes = new LinkedHashMap<>();
  private final Map<String, String[]> lines = new LinkedHashMap<>();

  private record Box(String kind, String text) {}

  RouteDrawing(AccessModel model) {
    this.model = model;
    this.facts = model.facts();
  }

  static {
    LayoutMetaDataService.getInstance()
        .registerLayoutMetaDataProviders(new LayeredMetaDataProvider());
  }

  /** SVG of the routes in a finding's evidence; empty when it has none. */
  String draw(List<Evidence> evidence) {
    for (Evidence item : evidence) {
      item.route().ifPresent(route -> add(model.systems().get(item.system()), route));
    }
    return boxes.isEmpty() ? "" : svg();
  }

  private void add(SystemView view, Route route) {
    String before = "";
    for (int subject : route.subjects()) {
      String id = "s" + subject;
      boxes.putIfAbsent(id, new Box(facts.kind(subject).words(), facts.label(subject)));
      before = join(before, id);
    }
    Grant grant = view.grants().get(route.grant());
    for (String role : route.roles()) {
      String name = view.system().roles().get(view.system().findRole(role).orElse(0)).name();
      String id = "r" + view.id() + "/" + role;
      String at = view.resources().size() > 1 ? ", " + Words.place(view, grant) : "";
      boxes.putIfAbsent(id, new Box("role of " + view.system().name() + at, name));
      before = join(before, id);
    }
    String id = "p" + view.id() + ":" + route.right();
    boxes.putIfAbsent(id, new Box("permission", view.rights().text(route.right())));
    join(before, id);
  }

  private String join(String from, String to) {
    if (!from.isEmpty()) {
      lines.putIfAbsent(from + " " + to, new String[] {from, to});
    }
    return to;
  }

  private String svg() {
    ElkNode graph = ElkGraphUtil.createGraph();
    graph.setProperty(CoreOptions.ALGORITHM, "org.eclipse.elk.layered");
    graph.setProperty(CoreOptions.DIRECTION, Direction.RIGHT);
    Map<String, ElkNode> nodes = new LinkedHashMap<>();
    boxes.forEach(
        (id, box) -> {
          ElkNode node = ElkGraphUtil.createNode(graph);
          int letters = Math.max(cut(box.text).length(), cut(box.kind).length());
          node.setDimensions(letters * LETTER + 22, HEIGHT);
          nodes.put(id, node);
        });
    List<ElkEdge> edges = new ArrayList<>();
    lines
        .values()
        .forEach(
            line ->
                edges.add(
                    ElkGraphUtil.createSimpleEdge(node(nodes, line[0]), node(nodes, line[1]))));
    new RecursiveGraphLayoutEngine().layout(graph, new BasicProgressMonitor());
    Svg out = new Svg(graph.getWidth(), graph.getHeight());
    edges.forEach(edge -> edge(out, edge));
    boxes.forEach((id, box) -> box(out, id, node(nodes, id), box));
    return out.end();
  }

  private static ElkNode node(Map<String, ElkNode> nodes, String id) {
    ElkNode node = nodes.get(id);
    if (node == null) {
      throw new IllegalStateException("no box " + id);
    }
    return node;
  }

  private static void edge(Svg out, ElkEdge edge) {
    for (ElkEdgeSection section : edge.getSections()) {
      List<double[]> points = new ArrayList<>();
      points.add(new double[] {section.getStartX(), section.getStartY()});
      for (ElkBendPoint bend : section.getBendPoints()) {
        points.add(new double[] {bend.getX(), bend.getY()});
      }
      points.add(new double[] {section.getEndX(), section.getEndY()});
      out.arrow(points);
    }
  }

  private static void box(Svg out, String id, ElkNode node, Box box) {
    String shape =
        switch (id.charAt(0)) {
          case 's' -> box.kind.equals("account") ? "account" : "group";
          case 'r' -> "role";
          default -> "right";
        };
    out.box(
        shape,
        node.getX(),
        node.getY(),
        node.getWidth(),
        node.getHeight(),
        cut(box.kind),
        cut(box.text));
  }

  private static String cut(String text) {
    return text.length() <= LONGEST ? text : text.substring(0, LONGEST - 1) + "…";
  }
}
