package org.sobercompass.report.answers;

import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.audit.ActEffects;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.removal.Effects.Effect;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.system.Change;

/** Removals and their effects in words. Immutable and thread-safe. */
public final class AdviceWords {
  private static final int SHOWN = 3;
  private static final String ALL = "full-control";

  private final AccessModel model;
  private final ChangeWords changeWords;

  /** Words for the changes of what is judged. */
  public AdviceWords(Assessment assessment) {
    this(assessment, ZoneOffset.UTC);
  }

  /** The same, with times in a zone. */
  public AdviceWords(Assessment assessment, ZoneId zone) {
    this.model = assessment.model();
    this.changeWords = new ChangeWords(assessment.powers(), zone);
  }

  /** What is to be done, one line a change. */
  public List<String> changes(List<Change> changes) {
    return changes.stream().map(changeWords::of).toList();
  }

  /** How sure it is that nothing less would do. */
  public String proof(Advice advice) {
    return advice.result().map(Removal.Result::words).orElse("");
  }

  /** What something comes to for one account. */
  private record Line(int account, String text) {}

  /** What advice ends: permissions, then admin actions; one line an account and place. */
  public List<String> ends(Advice advice) {
    return andUnasked(full(lines(advice.effects().ends(), advice.acts().ends())), advice);
  }

  /** What advice gives, alike. */
  public List<String> gives(Advice advice) {
    return full(lines(advice.effects().gives(), advice.acts().gives()));
  }

  /** What advice ends, with the accounts together for which it is the same. */
  public List<String> endsInBrief(Advice advice) {
    return andUnasked(brief(lines(advice.effects().ends(), advice.acts().ends())), advice);
  }

  /** What advice gives, alike. */
  public List<String> givesInBrief(Advice advice) {
    return brief(lines(advice.effects().gives(), advice.acts().gives()));
  }

  private List<Line> lines(List<Effect> effects, List<ActEffects.Act> acts) {
    List<Line> lines = new ArrayList<>(effects(effects));
    lines.addAll(acts(acts));
    return lines;
  }

  /** With a line that says so where not all admin actions were asked about. */
  private static List<String> andUnasked(List<String> lines, Advice advice) {
    ActEffects acts = advice.acts();
    if (acts.asked() == acts.concerned()) {
      return lines;
    }
    List<String> all = new ArrayList<>(lines);
    all.add(
        "perhaps more: admin actions were asked about on the first "
            + acts.asked()
            + " of "
            + acts.concerned()
            + " objects only");
    return all;
  }

  private List<String> full(List<Line> lines) {
    return lines.stream()
        .map(line -> Words.subject(model.facts(), line.account) + line.text)
        .toList();
  }

  private List<String> brief(List<Line> lines) {
    Map<String, List<String>> same = new LinkedHashMap<>();
    for (Line line : lines) {
      same.computeIfAbsent(line.text, t -> new ArrayList<>())
          .add(Words.subject(model.facts(), line.account));
    }
    List<String> out = new ArrayList<>();
    same.forEach((text, names) -> out.add(some(names) + text));
    return out;
  }

  /** The first of some names, and how many more. */
  private static String some(List<String> names) {
    return String.join(", ", names.stream().limit(SHOWN).toList())
        + (names.size() > SHOWN ? " and " + (names.size() - SHOWN) + " more" : "");
  }

  /** Effects, one line an account and application, without levels that another contains. */
  private List<Line> effects(List<Effect> effects) {
    Map<String, List<Effect>> grouped = new LinkedHashMap<>();
    for (Effect effect : effects) {
      grouped
          .computeIfAbsent(effect.account() + " " + effect.system(), k -> new ArrayList<>())
          .add(effect);
    }
    return grouped.values().stream().map(this::line).toList();
  }

  /** Admin actions, one line for an account and what it can do to the same objects. */
  private static List<Line> acts(List<ActEffects.Act> acts) {
    Map<Integer, Map<String, List<ActEffects.Act>>> byAccount = new LinkedHashMap<>();
    for (ActEffects.Act act : acts) {
      byAccount
          .computeIfAbsent(act.account(), a -> new LinkedHashMap<>())
          .computeIfAbsent(act.object().text(), o -> new ArrayList<>())
          .add(act);
    }
    List<Line> lines = new ArrayList<>();
    byAccount.forEach(
        (account, objects) -> {
          Map<String, List<String>> same = new LinkedHashMap<>();
          for (List<ActEffects.Act> of : objects.values()) {
            same.computeIfAbsent(names(of), n -> new ArrayList<>()).add(of.get(0).label());
          }
          same.forEach(
              (actions, labels) ->
                  lines.add(new Line(account, ": " + actions + " on " + some(labels))));
        });
    return lines;
  }

  /** The actions on one object; of full control nothing else is said. */
  private static String names(List<ActEffects.Act> acts) {
    for (ActEffects.Act act : acts) {
      if (act.action().id().equals(ALL)) {
        return act.action().name();
      }
    }
    return String.join(", ", acts.stream().map(act -> act.action().name()).distinct().toList());
  }

  private Line line(List<Effect> effects) {
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
    return new Line(
        effects.get(0).account(), " in " + view.system().name() + ": " + String.join("; ", parts));
  }
}
