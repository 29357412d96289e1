package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.audit.ActEffects;
import org.sobercompass.core.audit.ActsOfPersons;
import org.sobercompass.core.carry.Carried;
import org.sobercompass.core.carry.InStep;
import org.sobercompass.core.carry.LossAndGain;
import org.sobercompass.core.carry.LossAndGain.Cell;
import org.sobercompass.core.carry.LossAndGain.Outcome;
import org.sobercompass.core.carry.LossAndGain.Person;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.report.data.AnswerTable;

/** What carrying rights over does to each person, and what is not carried. Not thread-safe. */
public final class CarryAnswers {
  private static final String[] RANKS = {"no", "blocked", "undecided", "yes"};

  private final AnswerContext ask;
  private final AccessModel before;
  private final CarryCauses causes;
  private final Facts facts;

  /**
   * Answers on a model and what becomes of it.
   *
   * @param before with its delegated administration
   */
  public CarryAnswers(AnswerContext ask, AccessModel before, AccessModel after) {
    this.ask = ask;
    this.before = before;
    this.causes = new CarryCauses(before, after);
    this.facts = before.facts();
  }

  /** How many come out how, in a sentence. */
  public String heading(Carried carried, InStep step, LossAndGain result) {
    int equal = (int) result.persons().stream().filter(Person::isEqual).count();
    int less = count(result, Outcome.LESS);
    int more = count(result, Outcome.MORE);
    String persons = AnswerContext.count(result.persons().size(), "person", "persons");
    String out = equal + " can do afterwards exactly what they could before";
    if (less + more > 0) {
      out += ", " + less + " can do less, " + more + " more";
    }
    return todo(carried, step)
        + " Of "
        + persons
        + ", "
        + out
        + "; "
        + (result.isNobodyElse()
            ? "nobody else gains or loses anything."
            : others(result) + " besides.");
  }

  private static String todo(Carried carried, InStep step) {
    int open = step.open();
    int all = step.rights().size();
    List<String> parts = new ArrayList<>();
    if (open > 0) {
      parts.add(AnswerContext.count(open, "right", "rights") + " to carry");
    }
    if (!step.withdrawn().isEmpty()) {
      parts.add(step.withdrawn().size() + " to withdraw, since the old side has them no more");
    }
    if (!step.lost().isEmpty()) {
      parts.add(step.lost().size() + " taken from the new side since, which somebody must decide");
    }
    if (!step.bothChanged().isEmpty()) {
      parts.add(step.bothChanged().size() + " changed on both sides, which somebody must decide");
    }
    if (parts.isEmpty() && carried.leavesAny()) {
      return "Nothing more can be carried as things stand, and not all is.";
    }
    return parts.isEmpty()
        ? "Both sides are in step: "
            + AnswerContext.count(all, "right is", "rights are")
            + " there, and nothing is left to carry."
        : String.join("; ", parts) + ".";
  }

  private static int count(LossAndGain result, Outcome outcome) {
    return (int) result.persons().stream().filter(p -> p.count(outcome) > 0).count();
  }

  private static String others(LossAndGain result) {
    Set<Integer> who = new HashSet<>();
    result.others().ends().forEach(effect -> who.add(effect.account()));
    result.others().gives().forEach(effect -> who.add(effect.account()));
    result.othersActs().ends().forEach(act -> who.add(act.account()));
    result.othersActs().gives().forEach(act -> who.add(act.account()));
    return AnswerContext.count(who.size(), "other account gains or loses", "others gain or lose")
        + " something";
  }

  /** One row for each person. */
  public AnswerTable persons(Carried carried, InStep step, LossAndGain result) {
    AnswerTable.Builder rows =
        ask.begin("carry/1", "account", "from", "equal", "less", "more", "less in", "more in");
    for (Person person : result.persons()) {
      rows.row(
          Words.subject(facts, person.to()),
          froms(person),
          person.count(Outcome.EQUAL),
          person.count(Outcome.LESS),
          person.count(Outcome.MORE),
          systems(person, Outcome.LESS),
          systems(person, Outcome.MORE));
    }
    rows.heading(heading(carried, step, result));
    for (Effects.Effect effect : result.others().gives()) {
      rows.note(other(effect, "gains"));
    }
    for (Effects.Effect effect : result.others().ends()) {
      rows.note(other(effect, "loses"));
    }
    result.othersActs().gives().forEach(act -> rows.note(other(act, "can now")));
    result.othersActs().ends().forEach(act -> rows.note(other(act, "cannot any more")));
    if (!result.allActs()) {
      rows.note(
          "What each can administer was not compared: for so many objects and persons it would take"
              + " too long. sober preview of what is kept lists the admin actions that come and"
              + " go.");
    }
    return ask.finish(rows);
  }

  private String other(ActEffects.Act act, String verb) {
    return Words.subject(facts, act.account())
        + " "
        + verb
        + " "
        + act.action().name()
        + ": "
        + act.label()
        + ".";
  }

  private String other(Effects.Effect effect, String verb) {
    SystemView view = before.view(effect.system());
    return Words.subject(facts, effect.account())
        + " "
        + verb
        + " "
        + Words.permission(view, effect.right())
        + " at "
        + view.resources().id(effect.resource())
        + ".";
  }

  private String systems(Person person, Outcome outcome) {
    Map<String, Integer> counts = new LinkedHashMap<>();
    person.cells().stream()
        .filter(cell -> cell.outcome() == outcome)
        .forEach(cell -> counts.merge(before.view(cell.system()).system().name(), 1, Integer::sum));
    List<String> parts = new ArrayList<>();
    counts.forEach((system, count) -> parts.add(count + " in " + system));
    int acts = (int) person.acts().stream().filter(act -> Outcome.of(act) == outcome).count();
    if (acts > 0) {
      parts.add(AnswerContext.count(acts, "admin action", "admin actions"));
    }
    return String.join(", ", parts);
  }

  /**
   * One row for each right.
   *
   * @param all whether those too that come out equal
   */
  public AnswerTable rights(LossAndGain result, boolean all) {
    AnswerTable.Builder rows =
        ask.begin(
            "carry-rights/1",
            "account",
            "from",
            "application",
            "permission",
            "where",
            "old before",
            "new before",
            "new after",
            "outcome",
            "because");
    for (Person person : result.persons()) {
      for (Cell cell : person.cells()) {
        if (all || cell.outcome() != Outcome.EQUAL) {
          right(person, cell, rows);
        }
      }
      for (ActsOfPersons.Act act : person.acts()) {
        if (all || Outcome.of(act) != Outcome.EQUAL) {
          act(person, act, rows);
        }
      }
    }
    return rows.heading(
            rows.size() == 0
                ? "Each right comes out equal."
                : all
                    ? AnswerContext.count(rows.size(), "right", "rights") + " side by side."
                    : AnswerContext.count(rows.size(), "right comes", "rights come")
                        + " out less or more.")
        .build();
  }

  /** What comes out less or more, what has the same cause together. */
  public AnswerTable differences(LossAndGain result) {
    AnswerTable.Builder rows =
        ask.begin("carry-differences/1", "account", "outcome", "rights", "in", "which", "because");
    for (Person person : result.persons()) {
      Map<List<String>, List<String>> together = new LinkedHashMap<>();
      for (Cell cell : person.cells()) {
        if (cell.outcome() != Outcome.EQUAL) {
          SystemView view = before.view(cell.system());
          together
              .computeIfAbsent(
                  List.of(
                      word(cell.outcome()), view.system().name(), causes.inFewWords(person, cell)),
                  k -> new ArrayList<>())
              .add(
                  view.rights().text(cell.right())
                      + (view.resources().size() == 1
                          ? ""
                          : " " + view.resources().id(cell.resource())));
        }
      }
      together.forEach(
          (key, rights) ->
              rows.row(
                  Words.subject(facts, person.to()),
                  key.get(0),
                  rights.size(),
                  key.get(1),
                  names(rights),
                  key.get(2)));
      acts(person, rows);
    }
    return rows.heading("What comes out less or more, and why.").build();
  }

  private void acts(Person person, AnswerTable.Builder rows) {
    Map<String, List<String>> together = new LinkedHashMap<>();
    for (ActsOfPersons.Act act : person.acts()) {
      if (Outcome.of(act) != Outcome.EQUAL) {
        together
            .computeIfAbsent(word(Outcome.of(act)), k -> new ArrayList<>())
            .add(act.words() + ": " + act.label());
      }
    }
    together.forEach(
        (word, acts) ->
            rows.row(
                Words.subject(facts, person.to()),
                word,
                acts.size(),
                "admin actions",
                names(acts),
                ""));
  }

  private static String word(Outcome outcome) {
    return outcome.name().toLowerCase(java.util.Locale.ROOT);
  }

  private void right(Person person, Cell cell, AnswerTable.Builder rows) {
    SystemView view = before.view(cell.system());
    rows.row(
        Words.subject(facts, person.to()),
        froms(person),
        view.system().name(),
        view.rights().text(cell.right()),
        view.resources().size() == 1 ? "" : view.resources().id(cell.resource()),
        RANKS[cell.old()],
        RANKS[cell.before()],
        RANKS[cell.after()],
        word(cell.outcome()),
        causes.whole(person, cell));
  }

  private void act(Person person, ActsOfPersons.Act act, AnswerTable.Builder rows) {
    rows.row(
        Words.subject(facts, person.to()),
        froms(person),
        "",
        act.words(),
        act.label(),
        RANKS[act.old()],
        RANKS[act.before()],
        RANKS[act.after()],
        word(Outcome.of(act)),
        "");
  }

  private String froms(Person person) {
    return person.from().stream()
        .map(from -> Words.subject(facts, from))
        .collect(Collectors.joining(", "));
  }

  static String names(List<String> names) {
    int more = names.size() - 3;
    return String.join(", ", names.stream().limit(3).toList())
        + (more > 0 ? " and " + more + " more" : "");
  }
}
