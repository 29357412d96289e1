package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.sobercompass.core.findings.SeparationSweep.Hold;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.store.IntList;

/**
 * Separation of duties, per account or per person, anywhere or near to each other. What is held and
 * usable on enough sides is a conflict; where one side is usable and others are blocked, not known
 * or within reach it may become one.
 */
final class SeparationFinder {
  private final FindingContext context;
  private final SeparationTests tests;
  private final SeparationSweep sweep;
  private final SeparationReach reach;
  private final List<SeparationCauses> causes = new ArrayList<>();
  private final List<Draft> present = new ArrayList<>();
  private final List<SeparationClose.Close> close = new ArrayList<>();
  private final Map<Integer, BitSet> except = new HashMap<>();

  SeparationFinder(FindingContext context) {
    this.context = context;
    this.tests = new SeparationTests(context.judged);
    this.reach = new SeparationReach(context, tests);
    this.sweep = new SeparationSweep(tests, context.judged, reach.isAsked());
  }

  /** A cause of a conflict, and whom it concerns: persons by their first account. */
  record Draft(int rule, Cause cause, List<Integer> accounts) {}

  /** What a conflict comes from. */
  record Cause(Key key, String words, int group) {}

  void find(Consumer<Finding> out) {
    if (tests.rules.isEmpty()) {
      return;
    }
    List<Hold> holds = sweep.run();
    causes(holds);
    gather(holds);
    new SeparationWords(context, tests).tell(present, out);
    new SeparationClose(context, tests, reach).tell(close, out);
    roles(out);
  }

  /** By rule how many persons break it. */
  Map<String, Integer> counts() {
    Map<String, Integer> counts = new TreeMap<>(Key::compareUtf8);
    Map<Long, Long> byPerson = new HashMap<>();
    for (Hold hold : sweep.run()) {
      SeparationRule rule = tests.rules.get(hold.rule());
      boolean linked =
          rule.perPerson() && context.judged.persons().accounts(hold.account()).size() > 1;
      long before = 0;
      if (linked) {
        long key = (long) context.judged.persons().person(hold.account()) << 32 | hold.rule();
        before = byPerson.getOrDefault(key, 0L);
        byPerson.put(key, before | hold.usable());
      }
      boolean now =
          tests.enough(hold.rule(), before | hold.usable())
              && !tests.enough(hold.rule(), before)
              && (linked || isNear(hold.rule(), List.of(hold), true));
      counts.merge(rule.id(), now ? 1 : 0, Integer::sum);
    }
    return counts;
  }

  private void causes(List<Hold> holds) {
    List<BitSet> broken = new ArrayList<>();
    tests.rules.forEach(rule -> broken.add(new BitSet()));
    for (Hold hold : holds) {
      if (tests.enough(hold.rule(), hold.held())) {
        broken.get(hold.rule()).set(hold.account());
      }
    }
    for (int rule = 0; rule < tests.rules.size(); rule++) {
      causes.add(new SeparationCauses(context, tests, rule, broken.get(rule)));
    }
  }

  /** Sums the holds up by person where the rule says so, and sorts them into what they are. */
  private void gather(List<Hold> holds) {
    Map<Long, List<Hold>> byPerson = new HashMap<>();
    List<List<Hold>> all = new ArrayList<>();
    for (Hold hold : holds) {
      boolean linked =
          tests.rules.get(hold.rule()).perPerson()
              && context.judged.persons().accounts(hold.account()).size() > 1;
      if (linked) {
        long key = (long) context.judged.persons().person(hold.account()) << 32 | hold.rule();
        List<Hold> of = byPerson.get(key);
        if (of == null) {
          of = new ArrayList<>();
          byPerson.put(key, of);
          all.add(of);
        }
        of.add(hold);
      } else {
        all.add(List.of(hold));
      }
    }
    Map<String, Draft> drafts = new TreeMap<>(Key::compareUtf8);
    all.forEach(person -> weigh(person, drafts));
    present.addAll(drafts.values());
  }

  private void weigh(List<Hold> person, Map<String, Draft> drafts) {
    int rule = person.get(0).rule();
    long usable = 0;
    long held = 0;
    for (Hold hold : person) {
      usable |= hold.usable();
      held |= hold.held();
    }
    if (isExcepted(rule, person)) {
      return;
    }
    if (tests.enough(rule, usable) && isNear(rule, person, true)) {
      Cause cause = cause(rule, person);
      String id = tests.rules.get(rule).id() + " " + cause.key.text();
      Draft draft = drafts.computeIfAbsent(id, i -> new Draft(rule, cause, new ArrayList<>()));
      person.forEach(hold -> draft.accounts.add(hold.account()));
    } else if (usable != 0) {
      long within = reach.of(rule, person);
      if (tests.enough(rule, held | within) && isNear(rule, person, false)) {
        close.add(new SeparationClose.Close(rule, person, usable, held, within));
      }
    }
  }

  private boolean isExcepted(int rule, List<Hold> person) {
    List<Integer> named = tests.rules.get(rule).except();
    if (named.isEmpty()) {
      return false;
    }
    BitSet all =
        except.computeIfAbsent(
            rule,
            r -> {
              IntList accounts = new IntList();
              named.forEach(subject -> context.widest().accounts(subject, accounts));
              BitSet set = new BitSet();
              for (int i = 0; i < accounts.size(); i++) {
                set.set(accounts.get(i));
              }
              return set;
            });
    return person.stream().anyMatch(hold -> all.get(hold.account()));
  }

  private boolean isNear(int rule, List<Hold> person, boolean usableOnly) {
    Optional<SeparationPlaces> places = sweep.places(context.asker, rule);
    places.ifPresent(p -> person.forEach(hold -> p.add(hold.account(), usableOnly)));
    return places.map(SeparationPlaces::isEnough).orElse(true);
  }

  /** The most general cause: one role with enough sides, else one group, else the account. */
  private Cause cause(int rule, List<Hold> person) {
    SeparationCauses of = causes.get(rule);
    for (Hold hold : person) {
      Optional<SeparationCauses.RoleCause> role = of.role(hold.account());
      if (role.isPresent()) {
        return cause(role.get());
      }
    }
    for (Hold hold : person) {
      Optional<Integer> group = of.group(hold.account());
      if (group.isPresent()) {
        return new Cause(
            context.facts.key(group.get()),
            "every member of " + context.facts.label(group.get()) + " gets both",
            group.get());
      }
    }
    boolean alone = person.stream().anyMatch(hold -> tests.enough(rule, hold.usable()));
    return new Cause(
        context.facts.key(person.get(0).account()),
        alone
            ? "it comes together in this account only"
            : "it comes together in " + person.size() + " accounts of one person",
        -1);
  }

  private static Cause cause(SeparationCauses.RoleCause role) {
    String name = role.view().system().roles().get(role.role()).name();
    return new Cause(
        SeparationWords.key(role),
        "the role " + name + " of " + role.view().system().name() + " has both by itself",
        -1);
  }

  /** Roles that break a rule by themselves, and that nobody holds. */
  private void roles(Consumer<Finding> out) {
    Set<String> told = new HashSet<>();
    present.forEach(draft -> told.add(draft.rule + " " + draft.cause.key.text()));
    for (int rule = 0; rule < tests.rules.size(); rule++) {
      for (SeparationCauses.RoleCause role : causes.get(rule).roles()) {
        if (!told.contains(rule + " " + SeparationWords.key(role).text())) {
          out.accept(new SeparationWords(context, tests).role(rule, role));
        }
      }
    }
  }
}
