package org.sobercompass.core.readiness;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.Grant;

/**
 * Assignments to accounts and groups that an application does not see. Those that are unseen for
 * one reason are told once: mostly one setting is wrong.
 */
final class UnseenGrants {
  private static final int SHOWN = 3;

  private final Facts facts;
  private final SystemView view;
  private final Map<String, List<Grant>> byReason = new TreeMap<>();

  UnseenGrants(Facts facts, SystemView view) {
    this.facts = facts;
    this.view = view;
  }

  void add(Grant grant) {
    String why = SightWords.unseen(facts, view.system().sight(), grant.subject());
    byReason.computeIfAbsent(why, w -> new ArrayList<>()).add(grant);
  }

  List<Problem> problems() {
    List<Problem> told = new ArrayList<>();
    byReason.forEach((why, grants) -> told.add(problem(why, grants)));
    return told;
  }

  private Problem problem(String why, List<Grant> grants) {
    grants.sort(Comparator.comparing(Grant::place));
    Grant first = grants.get(0);
    String kind = facts.kind(first.subject()).words();
    String app = view.system().name();
    if (grants.size() == 1) {
      String name = Words.subject(facts, first.subject());
      return Problem.warning(
          first.place(),
          "the " + kind + " " + name + " is mapped, but " + app + " does not see it: " + why,
          "a sight that brings it in, or another " + kind);
    }
    String which =
        grants.stream()
            .limit(SHOWN)
            .map(grant -> Words.subject(facts, grant.subject()) + " at " + grant.place())
            .collect(Collectors.joining(", "));
    return Problem.warning(
        first.place(),
        grants.size()
            + " assignments are to "
            + kind
            + "s that "
            + app
            + " does not see, each because "
            + why
            + ": "
            + which
            + (grants.size() > SHOWN ? " and " + (grants.size() - SHOWN) + " more" : ""),
        "a sight that brings them in, or other " + kind + "s");
  }
}
