package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.Advice;
import org.sobercompass.core.removal.Effects.Effect;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;

/** Removals and their effects in words. Immutable and thread-safe. */
public final class AdviceWords {
  private final AccessModel model;

  /** Words for the changes of a model. */
  public AdviceWords(AccessModel model) {
    this.model = model;
  }

  /** What is to be done, one line a change. */
  public List<String> changes(List<Change> changes) {
    return changes.stream().map(this::words).toList();
  }

  private String words(Change change) {
    if (change instanceof Change.MembershipRemoved removed) {
      return "take "
          + Words.subject(model.facts(), removed.member())
          + " out of "
          + Words.subject(model.facts(), removed.group());
    }
    if (change instanceof Change.AssignmentRemoved removed) {
      SystemView view = model.systems().get(removed.system());
      Grant grant = view.grants().get(removed.grant());
      String role = view.system().roles().get(grant.role()).name();
      String whom = Words.trustee(model.facts(), grant);
      String place = Words.place(view, grant);
      String at =
          view.resources().size() == 1
              ? ""
              : place.equals("everywhere") ? ", everywhere" : " at " + place;
      return view.system().isOfLists()
          ? "remove the entry "
              + role
              + " for "
              + whom
              + " at "
              + view.resources().id(grant.resource())
          : "withdraw the role "
              + role
              + " of "
              + view.system().name()
              + " from "
              + whom
              + at
              + " ("
              + grant.place()
              + ")";
    }
    return change.toString();
  }

  /** How sure it is that nothing less would do. */
  public String proof(Advice advice) {
    return advice.result().map(Removal.Result::words).orElse("");
  }

  /** Effects, one line an account and application, without levels that another contains. */
  public List<String> effects(List<Effect> effects) {
    Map<String, List<Effect>> grouped = new LinkedHashMap<>();
    for (Effect effect : effects) {
      grouped
          .computeIfAbsent(effect.account() + " " + effect.system(), k -> new ArrayList<>())
          .add(effect);
    }
    List<String> lines = new ArrayList<>();
    grouped.values().forEach(all -> lines.add(line(all)));
    return lines;
  }

  private String line(List<Effect> effects) {
    SystemView view = model.systems().get(effects.get(0).system());
    Map<String, List<String>> byPlace = new LinkedHashMap<>();
    for (Effect effect : effects) {
      boolean contained =
          effects.stream()
              .anyMatch(
                  other ->
                      other.resource() == effect.resource()
                          && view.rights().contains(other.right()).contains(effect.right()));
      if (!contained && !view.rights().isMinor(effect.right())) {
        String place =
            view.resources().size() == 1 || effect.resource() == 0
                ? ""
                : " at " + view.resources().id(effect.resource());
        byPlace
            .computeIfAbsent(place, p -> new ArrayList<>())
            .add(view.rights().text(effect.right()));
      }
    }
    List<String> parts = new ArrayList<>();
    byPlace.forEach((place, rights) -> parts.add(String.join(", ", rights) + place));
    return Words.subject(model.facts(), effects.get(0).account())
        + " in "
        + view.system().name()
        + ": "
        + String.join("; ", parts);
  }
}
