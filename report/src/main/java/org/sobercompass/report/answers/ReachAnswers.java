package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.admin.NamedPowers;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.picture.ReachDrawing;

/** Answers about powers: who has one, who could give it to himself. Not thread-safe. */
public final class ReachAnswers {
  private final AnswerContext ask;
  private final Facts facts;
  private final List<String> unread;
  private final Map<NamedPower, Reach> reaches = new LinkedHashMap<>();

  /** Follows all powers. */
  public ReachAnswers(AnswerContext ask, Powers powers) {
    this.ask = ask;
    this.facts = ask.model().facts();
    this.unread = powers.unread();
    NamedPowers.of(powers).forEach(power -> reaches.put(power, new Reach(powers, power)));
    NamedPowers.ofSystems(powers).forEach(power -> reaches.put(power, new Reach(powers, power)));
  }

  /** The ids of the powers. */
  public List<String> ids() {
    return reaches.keySet().stream().map(NamedPower::id).toList();
  }

  /**
   * Whether all is known of a power, or, with an empty id, of all of them: who holds it, and who
   * can act on whom on the way to it.
   */
  public boolean isKnown(String id) {
    return (!id.isEmpty() || unread.isEmpty())
        && reaches.entrySet().stream()
            .filter(one -> id.isEmpty() || one.getKey().id().equals(id))
            .allMatch(one -> one.getKey().known() && one.getValue().answer().unknown().isEmpty());
  }

  /** All powers with how many have them and how many could. */
  public AnswerTable all() {
    AnswerTable.Builder sheet =
        ask.begin("powers-named/2", "power", "id", "held by", "within reach of", "not known");
    int within = 0;
    for (Map.Entry<NamedPower, Reach> one : reaches.entrySet()) {
      Reach.Answer answer = one.getValue().answer();
      within += answer.within().cardinality();
      sheet.row(
          one.getKey().name(),
          one.getKey().id(),
          answer.held().cardinality(),
          answer.within().cardinality(),
          answer.unknown().isEmpty() && one.getKey().known() ? "" : notKnown(one.getKey(), answer));
    }
    return ask.about(
        sheet.heading(
            AnswerContext.count(reaches.size(), "power", "powers")
                + "; "
                + (isKnown("") ? "" : "at least ")
                + AnswerContext.count(within, "account", "accounts")
                + " could give one of them to themselves"
                + (isKnown("") ? "." : "; undecided for others.")),
        List.of());
  }

  private static String notKnown(NamedPower power, Reach.Answer answer) {
    String acting =
        answer.unknown().isEmpty()
            ? ""
            : "who can act on "
                + AnswerContext.count(
                    answer.unknown().cardinality(),
                    "account or group on the way",
                    "accounts and groups on the way");
    return power.known() ? acting : "who holds it" + (acting.isEmpty() ? "" : ", " + acting);
  }

  /** Who could give one power to himself, by a shortest chain each. */
  public AnswerTable one(String id) {
    NamedPower power =
        reaches.keySet().stream().filter(p -> p.id().equals(id)).findFirst().orElseThrow();
    Reach reach = reaches.get(power);
    AnswerTable.Builder sheet = ask.begin("reach/1", "account", "login", "steps", "chain", "key");
    Reach.Answer answer =
        reach == null ? new Reach.Answer(new BitSet(), new BitSet(), new BitSet()) : reach.answer();
    List<Object[]> rows = new ArrayList<>();
    answer.within().stream()
        .forEach(
            a -> {
              List<Reach.Step> chain = reach == null ? List.of() : reach.chain(a);
              long acts =
                  chain.stream().filter(s -> s.action().isPresent() || !s.how().isEmpty()).count();
              rows.add(
                  new Object[] {
                    facts.label(a), facts.login(a), acts, words(chain), facts.key(a).text()
                  });
            });
    rows.sort(java.util.Comparator.comparing(r -> (Long) r[2]));
    rows.forEach(sheet::row);
    return (isKnown(id) ? ask.whole() : ask)
        .about(
            sheet
                .heading(
                    (isKnown(id) ? "" : "At least ")
                        + AnswerContext.count(answer.within().cardinality(), "account", "accounts")
                        + " could come to "
                        + power.name()
                        + "; "
                        + AnswerContext.count(answer.held().cardinality(), "holds", "hold")
                        + " it"
                        + (isKnown(id)
                            ? "."
                            : "; undecided for others, since it is not known "
                                + notKnown(power, answer)
                                + "."))
                .note("What is within reach is not held; it takes the steps of the chain."),
            List.of());
  }

  /** The chains to a power as a picture; empty when nobody could come to it. */
  public String drawing(String id) {
    for (Map.Entry<NamedPower, Reach> one : reaches.entrySet()) {
      if (one.getKey().id().equals(id)) {
        return new ReachDrawing(facts, ReachAnswers::act).draw(one.getKey(), one.getValue());
      }
    }
    throw new UnknownNameException(
        "there is no power " + Problem.quote(id) + "\nthere are: " + String.join(", ", ids()));
  }

  /** What a step does, without to whom; nothing for a membership. */
  private static String act(Reach.Step step) {
    return step.how().isEmpty() ? step.action().map(AdminAction::name).orElse("") : step.how();
  }

  /** A chain in words: what is done to whom, then what that brings. */
  String words(List<Reach.Step> chain) {
    List<String> parts = new ArrayList<>();
    for (Reach.Step step : chain) {
      String to = Words.subject(facts, step.to());
      parts.add(
          step.how().isEmpty()
              ? step.action().map(a -> a.name() + ": " + to).orElse("is in " + to)
              : step.how());
    }
    return String.join(" → ", parts);
  }

  /** For each person the powers in directories and in applications, side by side. */
  public AnswerTable sides(Persons persons) {
    Map<Integer, Set<String>> directory = new TreeMap<>();
    Map<Integer, Set<String>> applications = new TreeMap<>();
    reaches.forEach(
        (power, reach) ->
            reach.answer().held().stream()
                .forEach(
                    account -> {
                      int first = account;
                      for (int other : persons.accounts(account)) {
                        first = Math.min(first, other);
                      }
                      (power.ofDirectory() ? directory : applications)
                          .computeIfAbsent(first, a -> new TreeSet<>())
                          .add(power.id());
                    }));
    Set<Integer> all = new TreeSet<>(directory.keySet());
    all.addAll(applications.keySet());
    AnswerTable.Builder sheet =
        ask.begin("sides/1", "who", "directories", "applications", "only on one side");
    int only = 0;
    for (int account : all) {
      String inDirectory = String.join(", ", directory.getOrDefault(account, Set.of()));
      String inApplications = String.join(", ", applications.getOrDefault(account, Set.of()));
      String mark =
          inDirectory.isEmpty()
              ? "< applications only"
              : inApplications.isEmpty() ? "> directory only" : "";
      only += mark.isEmpty() ? 0 : 1;
      sheet.row(Words.subject(facts, account), inDirectory, inApplications, mark);
    }
    return ask.about(
        sheet.heading(
            AnswerContext.count(all.size(), "person has", "persons have")
                + " power over a directory or an application; "
                + only
                + " on one side only."),
        List.of());
  }
}
