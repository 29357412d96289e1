package org.sobercompass.core.access;

import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Resources;

/** Answers in words; apart from computing, so that the wording can be tested by itself. */
public final class Words {
  private Words() {}

  /** Where a holding holds: the resource, how far, what is excluded. */
  public static String place(SystemView view, Holding holding) {
    Resources tree = view.resources();
    boolean whole = holding.resource() == 0 && holding.reach() == Holding.Reach.SUBTREE;
    String text =
        whole
            ? "everywhere"
            : tree.id(holding.resource())
                + (holding.reach() == Holding.Reach.RESOURCE ? " only" : "");
    return holding.excluded().isEmpty()
        ? text
        : text
            + " except "
            + holding.excluded().stream().map(tree::id).collect(Collectors.joining(", "));
  }

  /** A permission with its application: {@code seedbook:records:edit}. */
  public static String permission(SystemView view, int right) {
    return view.id() + ":" + view.rights().text(right);
  }

  /** "1 account", "2 accounts". */
  public static String count(long number, String one, String many) {
    return number + " " + (number == 1 ? one : many);
  }

  /** A subject as people know it: display name and login. */
  public static String subject(Facts facts, int subject) {
    return facts.title(subject);
  }

  /** The subject of a grant; a missing one as written. */
  public static String trustee(Facts facts, Grant grant) {
    return grant.isOfUnread()
        ? grant.subjectText() + " (not in what was read)"
        : grant.subject() < 0
            ? grant.subjectText() + " (missing)"
            : subject(facts, grant.subject());
  }

  /** Where a grant holds. */
  public static String place(SystemView view, Grant grant) {
    boolean whole = grant.resource() == 0 && !view.system().isOfLists();
    String at = whole ? "everywhere" : view.resources().id(grant.resource());
    boolean single =
        !view.system().isOfLists()
            && !grant.descends()
            && view.resources().end(grant.resource()) > grant.resource() + 1;
    return single ? view.resources().id(grant.resource()) + " only" : at;
  }

  /** A route as a chain of names: account → group → … → role → entry. */
  public static String route(AccessModel model, SystemView view, Route route) {
    List<String> parts = new ArrayList<>();
    Grant given = view.grants().get(route.grant());
    for (int i = 0; i < route.subjects().size(); i++) {
      boolean unread = given.isOfUnread() && i > 0 && i == route.subjects().size() - 1;
      String name =
          unread ? trustee(model.facts(), given) : subject(model.facts(), route.subjects().get(i));
      boolean sure = i == 0 || i > route.vias().size() || route.vias().get(i - 1).isSure();
      parts.add(sure ? name : "perhaps " + name);
    }
    boolean listed = view.system().isOfLists();
    String where = given.declared() && !listed ? " (everyone has it)" : at(view, given);
    for (int i = 0; i < route.roles().size(); i++) {
      String name = view.system().roles().get(role(view, route.roles().get(i))).name();
      parts.add((i > 0 ? "includes " : listed ? "entry " : "role ") + name + (i == 0 ? where : ""));
    }
    parts.add(route.entry().isEmpty() ? view.rights().text(route.right()) : route.entry());
    String chain = String.join(" → ", parts);
    return route.also().isEmpty() ? chain : chain + "; besides " + also(model, view, route);
  }

  /** What a route needs besides, and through whom. */
  private static String also(AccessModel model, SystemView view, Route route) {
    Map<String, List<String>> places = new LinkedHashMap<>();
    for (Route.Leg leg : route.also()) {
      Grant grant = view.grants().get(leg.grant());
      List<String> names =
          leg.subjects().stream().skip(1).map(s -> subject(model.facts(), s)).toList();
      String whom = names.isEmpty() ? "the account itself" : String.join(" → ", names);
      String role = view.system().roles().get(grant.role()).name();
      places.computeIfAbsent(role + "/" + whom, k -> new ArrayList<>()).add(place(view, grant));
    }
    List<String> legs = new ArrayList<>();
    places.forEach(
        (what, where) -> {
          int cut = what.indexOf('/');
          legs.add(
              what.substring(0, cut)
                  + " at "
                  + String.join(", ", where)
                  + " through "
                  + what.substring(cut + 1));
        });
    return String.join(" and ", legs);
  }

  private static String at(SystemView view, Grant grant) {
    if (view.resources().size() == 1) {
      return "";
    }
    String place = place(view, grant);
    return place.equals("everywhere") ? " everywhere" : " at " + place;
  }

  private static int role(SystemView view, String id) {
    return view.system().findRole(id).orElse(0);
  }

  /**
   * A bound of a window as it is typed: a day where it is a whole one, else the instant.
   *
   * @param isEnd whether it is the moment after the last one that counts; its day is the last day
   */
  public static String day(Instant at, ZoneId zone, boolean isEnd) {
    ZonedDateTime local = at.atZone(zone);
    return !local.toLocalTime().equals(LocalTime.MIDNIGHT)
        ? at.toString()
        : (isEnd ? local.toLocalDate().minusDays(1) : local.toLocalDate()).toString();
  }

  /** Who holds what is given to somebody who is not there. */
  public static String whoHolds(int subject) {
    return subject == Grant.UNREAD ? "it is not known who holds it" : "nobody holds it today";
  }

  /** What is wrong with giving something to somebody who is not there. */
  public static String whoIsMissing(int subject) {
    return subject == Grant.UNREAD
        ? ", which is not in what was read; it may be gone, or anybody may be in it"
        : ", who does not exist; whoever gets that name next gets the role";
  }
}
