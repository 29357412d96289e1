package org.sobercompass.report.answers;

import java.util.List;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.system.Grant;
import org.sobercompass.report.data.Prose;

/** A route drawn in text: each step below the one it comes from. */
final class RouteText {
  private final AccessModel model;
  private final Prose out;

  RouteText(AccessModel model, Prose out) {
    this.model = model;
    this.out = out;
  }

  void draw(SystemView view, Route route) {
    int depth = steps(0, route.subjects(), route.vias());
    Grant grant = view.grants().get(route.grant());
    boolean listed = view.system().isOfLists();
    for (int i = 0; i < route.roles().size(); i++) {
      String id = route.roles().get(i);
      String name =
          view.system().findRole(id).map(r -> view.system().roles().get(r).name()).orElse(id);
      String place = listed ? view.resources().id(grant.resource()) : Words.place(view, grant);
      String at = view.resources().size() == 1 || place.equals("everywhere") ? "" : " at " + place;
      step(
          depth++,
          i > 0 ? "includes" : listed ? "has the entry" : "is given",
          i > 0
              ? "the role " + name
              : (listed ? "" : "the role ")
                  + name
                  + " of "
                  + view.system().name()
                  + at
                  + (listed ? "" : "   [" + grant.place() + "]"));
    }
    String gives = view.id() + ":" + view.rights().text(route.right());
    boolean same = route.entry().isEmpty() || listed;
    step(depth, "gives", gives + (same ? "" : "   [by its entry " + route.entry() + "]"));
    for (Route.Leg leg : route.also()) {
      Grant other = view.grants().get(leg.grant());
      out.exact("      besides it needs");
      int below = steps(2, leg.subjects(), leg.vias());
      step(
          below,
          "has the entry",
          view.system().roles().get(other.role()).name()
              + " at "
              + view.resources().id(other.resource()));
    }
  }

  private int steps(int from, List<Integer> subjects, List<Via> vias) {
    step(from, "", Words.subject(model.facts(), subjects.get(0)));
    for (int i = 1; i < subjects.size(); i++) {
      step(from + i, how(vias.get(i - 1)), Words.subject(model.facts(), subjects.get(i)));
    }
    return from + subjects.size();
  }

  private static String how(Via via) {
    return switch (via) {
      case MEMBER, UNIQUE_MEMBER, MEMBER_UID -> "listed in";
      case PRIMARY -> "has the primary group";
      case DYNAMIC -> "by rule in";
      case IMPLICIT -> "counts as";
      default -> via.words();
    };
  }

  private void step(int depth, String how, String what) {
    String branch = depth == 0 ? "  " : "  " + "   ".repeat(depth - 1) + "└─ ";
    out.exact(branch + (how.isEmpty() ? "" : how + " ") + what);
  }
}
