package org.sobercompass.core.access;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Verdict;

/** What is missing where an answer is undecided, in words. */
public final class Unknown {
  private static final String MEMBERS =
      "the members of a group on the way were withheld, or a filter or rule is undefined";

  private Unknown() {}

  /** That something about memberships is missing, where it is not worked out what. */
  static List<String> ofMemberships() {
    return List.of(MEMBERS);
  }

  /**
   * What is missing for an answer that is undecided; never empty. Each group, filter, list or
   * condition is named once.
   *
   * @param routes the answer with its routes
   */
  public static List<String> reasons(
      Asker asker, SystemView view, int account, int right, int resource, Routes routes) {
    Set<String> reasons = new LinkedHashSet<>();
    if (routes.can().standing().state() == Standing.State.UNDECIDED) {
      reasons.addAll(routes.can().standing().reasons());
    }
    if (routes.can().held() == Verdict.UNDECIDED) {
      routes.open().forEach(route -> ofRoute(view, route, reasons));
      Question question = Question.of(resource, right);
      for (Layer layer : view.decider().layers(asker.token(view, account), question)) {
        if (layer.verdict() == Verdict.UNDECIDED) {
          String where = view.resources().name(layer.resource());
          reasons.add(
              layer.name()
                  + (layer.name().endsWith(" " + where) ? "" : " of " + where)
                  + " is not known"
                  + (layer.note().isEmpty() ? "" : " (" + layer.note() + ")"));
        }
      }
      if (reasons.isEmpty()) {
        reasons.add(MEMBERS);
      }
    }
    return List.copyOf(reasons);
  }

  private static void ofRoute(SystemView view, Route route, Set<String> reasons) {
    Facts facts = view.memberships().graph().facts();
    Visibility seen = view.memberships().visibility();
    Grant grant = view.grants().get(route.grant());
    if (grant.isOfUnread()) {
      reasons.add(
          grant.subjectText()
              + " is not in what was read ("
              + grant.place()
              + "): it may be gone, or anybody may be in it");
      return;
    }
    for (int i = 0; i < route.subjects().size(); i++) {
      int subject = route.subjects().get(i);
      String name = Words.subject(facts, subject);
      Via via = i == 0 || i > route.vias().size() ? Via.MEMBER : route.vias().get(i - 1);
      if (via == Via.WITHHELD) {
        reasons.add("the members of " + name + " were withheld, or stand where nobody read");
      } else if (via == Via.UNDEFINED) {
        reasons.add("the rule of " + name + " is undefined for it");
      }
      if (seen.perhapsSees(subject)) {
        reasons.add("it is not known whether " + name + " is seen: the filter is undefined");
      }
    }
  }
}
