package org.sobercompass.core.findings.separation;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.IntPredicate;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Focus;
import org.sobercompass.core.findings.details.SeparationDetails.Together;
import org.sobercompass.core.findings.separation.SeparationCauses.Broken;
import org.sobercompass.core.findings.separation.SeparationSweep.Hold;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.store.IntList;

/**
 * Separation of duties, per account or per person, anywhere or near to each other. What is held and
 * usable on enough sides is a conflict; where one side is usable and others are blocked, not known
 * or within reach it may become one.
 */
public final class SeparationFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(
          FindingKind.SEPARATION_OF_DUTIES,
          FindingKind.POTENTIAL_CONFLICT,
          FindingKind.CONFLICTING_ROLE);

  private static final BitSet NOBODY = new BitSet();

  private final FindingContext context;
  private final SeparationTests tests;
  private final SeparationSweep sweep;
  private final SeparationReach reach;
  private final List<SeparationCauses> causes = new ArrayList<>();
  private final List<Draft> present = new ArrayList<>();
  private final List<SeparationClose.Close> close = new ArrayList<>();

  public SeparationFinder(FindingContext context) {
    this.context = context;
    this.tests = new SeparationTests(context.assessment);
    this.reach = new SeparationReach(context, tests);
    this.sweep = new SeparationSweep(tests, context.assessment, reach.isAsked());
  }

  /** A cause of a conflict, and whom it concerns: persons by their first account. */
  record Draft(int rule, Cause cause, List<Integer> accounts) {}

  /**
   * What a conflict comes from.
   *
   * @param role the role, where it is one
   * @param subject the number of everyone, the group or the unit, where it is one; else -1
   * @param accounts how many accounts of one person it takes
   */
  record Cause(
      Together in, Key key, Optional<SeparationCauses.RoleCause> role, int subject, int accounts) {}

  @Override
  public void find(Consumer<Finding> out) {
    if (tests.rules.isEmpty()) {
      return;
    }
    List<Hold> holds = context.focus().map(this::some).orElseGet(this::all);
    causes(holds);
    gather(holds);
    new SeparationEvidence(context, tests).tell(present, out);
    new SeparationClose(context, tests, reach).tell(close, out);
    roles(out);
  }

  /** The holds of what is looked at, and who of all could come to a side of their rules. */
  private List<Hold> some(Focus focus) {
    List<Hold> holds = sweep.of(context.asker, focus.accounts());
    BitSet held = new BitSet();
    holds.stream().filter(hold -> hold.usable() != 0).forEach(hold -> held.set(hold.rule()));
    reach.prepare(held);
    return holds;
  }

  /**
   * The holds of everybody: of one who holds less than enough, and could not come to more, nothing
   * is kept. That is nearly everybody, and would be most of the memory.
   */
  private List<Hold> all() {
    SeparationSweep enough = new SeparationSweep(tests, context.assessment, false);
    List<Hold> holds = enough.run();
    if (!reach.isAsked()) {
      return holds;
    }
    reach.prepare(enough.held());
    BitSet close = reach.accounts();
    return SeparationSweep.replacing(holds, close, sweep.each(close));
  }

  /** By rule how many persons break it. */
  public Map<String, Integer> counts() {
    Map<String, Integer> counts = new TreeMap<>(Key::compareUtf8);
    tests.rules.forEach(rule -> counts.put(rule.id(), 0));
    broken((rule, accounts) -> counts.merge(rule, 1, Integer::sum));
    return counts;
  }

  /** Who breaks which rule: its id, and the accounts of one person that hold something of it. */
  public void broken(BiConsumer<String, List<Integer>> out) {
    judge(
        new SeparationSweep(tests, context.assessment, false).run(),
        person -> {
          if (person.breaks) {
            out.accept(
                tests.rules.get(person.rule).id(),
                person.holds.stream().map(Hold::account).toList());
          }
        });
  }

  private void causes(List<Hold> holds) {
    List<BitSet> broken = new ArrayList<>();
    tests.rules.forEach(rule -> broken.add(new BitSet()));
    for (Hold hold : holds) {
      if (tests.enough(hold.rule(), hold.held())) {
        broken.get(hold.rule()).set(hold.account());
      }
    }
    if (context.focus().isPresent()) {
      // Of accounts that are not looked at it is asked one by one whether they break a rule.
      SeparationBroken each = new SeparationBroken(context.asker, tests, sweep);
      for (int rule = 0; rule < broken.size(); rule++) {
        int asked = rule;
        IntPredicate any = account -> each.rules(account).get(asked);
        causes.add(new SeparationCauses(context, tests, rule, new Broken(broken.get(rule), any)));
      }
      return;
    }
    context.work(
        tests.rules.size(),
        1,
        own ->
            rule ->
                new SeparationCauses(own, tests, rule, new Broken(broken.get(rule), a -> false)),
        causes::add);
  }

  /**
   * What the holds of a person come to under one rule.
   *
   * @param within the sides that are within reach; not asked where the rule is broken
   */
  private record Person(
      int rule, List<Hold> holds, long usable, long held, boolean breaks, long within) {}

  /**
   * Weighs persons on all processors, and hands on in their order those that break a rule or are
   * close to it; not the excepted.
   *
   * @param holds by account and rule
   */
  private void judge(List<Hold> holds, Consumer<Person> out) {
    Map<Integer, BitSet> excepted = excepted();
    context
        .model
        .bulk()
        .<List<Person>>each(
            holds.size(),
            (asker, range) -> {
              SeparationPersons persons =
                  new SeparationPersons(tests, context.assessment.persons(), holds);
              List<Person> told = new ArrayList<>();
              for (Hold hold : holds.subList(range.from(), range.to())) {
                List<Hold> person = persons.of(hold);
                if (!person.isEmpty() && !isExcepted(hold, excepted)) {
                  person(asker, person).ifPresent(told::add);
                }
              }
              return told;
            },
            told -> told.forEach(out));
  }

  /** Whether any account of the person is, even one that holds nothing of the rule. */
  private boolean isExcepted(Hold hold, Map<Integer, BitSet> excepted) {
    BitSet except = excepted.getOrDefault(hold.rule(), NOBODY);
    return tests.rules.get(hold.rule()).perPerson()
        ? context.assessment.persons().accounts(hold.account()).stream().anyMatch(except::get)
        : except.get(hold.account());
  }

  private Optional<Person> person(Asker asker, List<Hold> holds) {
    int rule = holds.get(0).rule();
    long usable = 0;
    long held = 0;
    for (Hold hold : holds) {
      usable |= hold.usable();
      held |= hold.held();
    }
    boolean breaks = tests.enough(rule, usable) && sweep.isNear(asker, rule, holds, true);
    long within = breaks || usable == 0 ? 0 : reach.of(rule, holds);
    return breaks || (usable != 0 && tests.enough(rule, held | within))
        ? Optional.of(new Person(rule, holds, usable, held, breaks, within))
        : Optional.empty();
  }

  private void gather(List<Hold> holds) {
    Map<String, Draft> drafts = new TreeMap<>(Key::compareUtf8);
    judge(holds, person -> sort(person, drafts));
    present.addAll(drafts.values());
  }

  /** Into conflicts of today by their causes, and what may become one. */
  private void sort(Person person, Map<String, Draft> drafts) {
    int rule = person.rule;
    if (person.breaks) {
      Cause cause = cause(rule, person.holds);
      String id = tests.rules.get(rule).id() + " " + cause.key.text();
      Draft draft = drafts.computeIfAbsent(id, i -> new Draft(rule, cause, new ArrayList<>()));
      person.holds.forEach(hold -> draft.accounts.add(hold.account()));
    } else if (sweep.isNear(context.asker, rule, person.holds, false)) {
      close.add(
          new SeparationClose.Close(rule, person.holds, person.usable, person.held, person.within));
    }
  }

  /** By rule the accounts that may hold what others may not. */
  private Map<Integer, BitSet> excepted() {
    Map<Integer, BitSet> all = new HashMap<>();
    for (int rule = 0; rule < tests.rules.size(); rule++) {
      IntList accounts = new IntList();
      tests.rules.get(rule).except().forEach(of -> context.widest().accounts(of, accounts));
      BitSet set = new BitSet();
      accounts.setIn(set);
      all.put(rule, set);
    }
    return all;
  }

  /** The most general cause: a role with enough sides, everyone, a group, a unit, the account. */
  private Cause cause(int rule, List<Hold> person) {
    SeparationCauses of = causes.get(rule);
    for (Hold hold : person) {
      Optional<SeparationCauses.RoleCause> role = of.role(hold.account());
      if (role.isPresent()) {
        return cause(role.get());
      }
    }
    if (of.everyone().isPresent()) {
      return cause(Together.EVERYONE, of.everyone().get());
    }
    for (Hold hold : person) {
      Optional<Integer> group = of.group(hold.account());
      if (group.isPresent()) {
        return cause(Together.GROUP, group.get());
      }
    }
    for (Hold hold : person) {
      Optional<Integer> unit = of.unit(hold.account());
      if (unit.isPresent()) {
        return cause(Together.UNIT, unit.get());
      }
    }
    boolean alone = person.stream().anyMatch(hold -> tests.enough(rule, hold.usable()));
    return new Cause(
        alone ? Together.ACCOUNT : Together.PERSON,
        context.facts.key(person.get(0).account()),
        Optional.empty(),
        -1,
        person.size());
  }

  private Cause cause(Together in, int subject) {
    return new Cause(in, context.facts.key(subject), Optional.empty(), subject, 0);
  }

  private static Cause cause(SeparationCauses.RoleCause role) {
    return new Cause(Together.ROLE, SeparationEvidence.key(role), Optional.of(role), -1, 0);
  }

  /** Roles that break a rule by themselves, and that nobody holds. */
  private void roles(Consumer<Finding> out) {
    Set<String> told = new HashSet<>();
    present.forEach(draft -> told.add(draft.rule + " " + draft.cause.key.text()));
    for (int rule = 0; rule < tests.rules.size(); rule++) {
      for (SeparationCauses.RoleCause role : causes.get(rule).roles()) {
        if (!told.contains(rule + " " + SeparationEvidence.key(role).text())) {
          out.accept(new SeparationEvidence(context, tests).role(rule, role));
        }
      }
    }
  }
}
