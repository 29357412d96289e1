package org.sobercompass.report.picture;

import java.util.List;
import java.util.OptionalInt;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.Routes;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.system.Grant;
import org.sobercompass.report.picture.LayeredDrawing.Shape;

/**
 * Routes as one layered picture, account on the left, permissions on the right: what routes share
 * is drawn once, what is alike is merged. A route that is stopped is dashed and ends in what stops
 * it. Not thread-safe.
 */
public final class RouteDrawing {
  private final AccessModel model;
  private final Facts facts;
  private final LayeredDrawing drawing = new LayeredDrawing();
  private int leftOut;

  /** Of routes in a model. */
  public RouteDrawing(AccessModel model) {
    this.model = model;
    this.facts = model.facts();
  }

  /** SVG of the routes in a finding's evidence; empty when it has none. */
  public String draw(List<Evidence> evidence) {
    for (Evidence item : evidence) {
      item.route().ifPresent(route -> add(model.systems().get(item.system()), route));
    }
    return draw();
  }

  /** Adds the routes of an answer, those that are stopped too. */
  public RouteDrawing add(SystemView view, Routes routes) {
    routes.open().forEach(route -> add(view, route));
    routes.stopped().forEach(stopped -> add(view, stopped));
    return this;
  }

  /** How many routes the picture has no room for. */
  public int leftOut() {
    return leftOut;
  }

  /** SVG of what was added; empty when nothing was. */
  public String draw() {
    return drawing.isEmpty() ? "" : drawing.draw("Routes, from accounts to permissions");
  }

  private boolean isFull() {
    boolean full = drawing.size() >= LayeredDrawing.MOST * 3;
    leftOut += full ? 1 : 0;
    return full;
  }

  /** Adds a route that gives a permission. */
  public void add(SystemView view, Route route) {
    if (isFull()) {
      return;
    }
    String before = upToRole(view, route, false);
    String id = "p" + view.id() + ":" + route.right();
    drawing.box(
        id, Shape.PERMISSION, "permission of " + view.system().name(), text(view, route.right()));
    drawing.arrow(before, id, false);
  }

  private void add(SystemView view, Route.StoppedRoute stopped) {
    if (isFull()) {
      return;
    }
    String before = upToRole(view, stopped.route(), true);
    String id = "x" + view.id() + ":" + stopped.reason() + stopped.by();
    drawing.box(id, Shape.STOPPER, "stopped: " + stopped.reason().words(), by(view, stopped.by()));
    drawing.arrow(before, id, true);
  }

  private static String by(SystemView view, OptionalInt by) {
    if (by.isEmpty()) {
      return "no other assignment";
    }
    Grant grant = view.grants().get(by.getAsInt());
    return view.system().roles().get(grant.role()).name() + ", " + Words.place(view, grant);
  }

  /** The boxes from the account to the last role; the id of that. */
  private String upToRole(SystemView view, Route route, boolean stopped) {
    String before = "";
    for (int subject : route.subjects()) {
      String id = "s" + subject;
      boolean account = facts.kind(subject).words().equals("account");
      drawing.box(
          id,
          account ? Shape.ACCOUNT : Shape.GROUP,
          facts.kind(subject).words(),
          facts.label(subject));
      before = join(before, id, stopped);
    }
    Grant grant = view.grants().get(route.grant());
    String at = view.resources().size() > 1 ? ", " + Words.place(view, grant) : "";
    String kind = (view.system().isOfLists() ? "entry of " : "role of ") + view.system().name();
    for (String role : route.roles()) {
      String name = view.system().roles().get(view.system().findRole(role).orElse(0)).name();
      String id = "r" + view.id() + "/" + role + at;
      drawing.box(id, Shape.ROLE, kind + at, name);
      before = join(before, id, stopped);
    }
    return before;
  }

  private static String text(SystemView view, int right) {
    return view.rights().text(right);
  }

  private String join(String from, String to, boolean stopped) {
    if (!from.isEmpty()) {
      drawing.arrow(from, to, stopped);
    }
    return to;
  }
}
