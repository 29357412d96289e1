package org.sobercompass.core.comparison;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.ActEffects;
import org.sobercompass.core.facts.Counterparts;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.AsIn;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Resources;

/**
 * Finds by what each permission came or went. A change did it if it does so by itself on what was
 * before, or if what is now would lose it again without the change. Not thread-safe.
 */
final class Causes {
  /** Of more changes the effects of each are not worked out. */
  static final int MOST = 2_000;

  /** Of more changes the admin actions that each gives by itself are not worked out. */
  private static final int MOST_WITH_ACTS = 50;

  private final Assessment before;
  private final AccessModel was;
  private final AccessModel is;
  private final AsIn.Answer steps;
  private final WhoDid who;
  private final Bound bound;

  /** What is not explained yet, by account. */
  private final Map<Key, Set<Shift>> open = new LinkedHashMap<>();

  private final List<Cause> found = new ArrayList<>();

  Causes(Assessment before, Assessment now) {
    this.is = now.model();
    this.steps = AsIn.since(before.model(), is);
    this.before = before.expecting(steps.proposal().settings());
    this.was = this.before.model();
    this.who = new WhoDid(before, is);
    this.bound = steps.proposal().on(was);
    new Shifts(was, is)
        .all()
        .forEach(s -> open.computeIfAbsent(s.account(), k -> new TreeSet<>()).add(s));
  }

  List<String> otherwise() {
    return steps.left();
  }

  /** Whether each change was looked at by itself. */
  boolean isAlone() {
    return bound.made().size() <= MOST;
  }

  List<Cause> all() {
    Map<Integer, List<Shift>> byChange = new TreeMap<>();
    bound.made().forEach(made -> byChange.put(made.step(), new ArrayList<>()));
    subjects(is, was, Cause.Kind.NEW);
    subjects(was, is, Cause.Kind.GONE);
    if (isAlone()) {
      changes(byChange);
    }
    time();
    rest();
    acts(byChange);
    found.sort(Comparator.comparingInt(Cause::size).reversed());
    return found;
  }

  /** Takes what is explained by some effects; gains and losses are those of the comparison. */
  private List<Shift> take(Set<Shift> effects, AccessModel of) {
    List<Shift> taken = new ArrayList<>();
    if (effects.isEmpty()) {
      return taken;
    }
    Set<Key> accounts = new LinkedHashSet<>();
    effects.forEach(effect -> accounts.add(effect.account()));
    for (Key account : accounts) {
      Set<Shift> left = open.getOrDefault(account, Set.of());
      List<Shift> explained = left.stream().filter(shift -> contains(effects, shift, of)).toList();
      taken.addAll(explained);
      if (explained.size() == left.size()) {
        open.remove(account);
      } else {
        explained.forEach(left::remove);
      }
    }
    return taken;
  }

  /** Whether effects hold a shift, there or further up. */
  private static boolean contains(Set<Shift> effects, Shift shift, AccessModel of) {
    if (effects.contains(shift.plain())) {
      return true;
    }
    Optional<SystemView> view = of.system(shift.system());
    Optional<Integer> at = view.flatMap(v -> v.resources().find(shift.where()));
    if (at.isEmpty()) {
      return false;
    }
    Resources resources = view.orElseThrow().resources();
    for (int above = resources.parent(at.get()); above >= 0; above = resources.parent(above)) {
      if (effects.contains(shift.at(resources.id(above)))) {
        return true;
      }
    }
    return false;
  }

  /**
   * The effects of changes of a model.
   *
   * @param back whether the changes take back what is compared: what they end was gained
   */
  private static Set<Shift> effects(AccessModel of, List<Change> changes, boolean back) {
    Set<Shift> all = new TreeSet<>();
    Effects effects;
    try {
      effects = Effects.of(of, changes);
    } catch (IllegalArgumentException e) {
      // It can be made only with others.
      return all;
    }
    effects.gives().forEach(e -> all.add(shift(of, e, !back)));
    effects.ends().forEach(e -> all.add(shift(of, e, back)));
    return all;
  }

  private static Shift shift(AccessModel of, Effects.Effect effect, boolean gained) {
    SystemView view = of.systems().get(effect.system());
    return new Shift(
        of.facts().key(effect.account()),
        view.id(),
        view.rights().text(effect.right()),
        view.resources().id(effect.resource()),
        gained,
        false);
  }

  /** Who is in one model only: an account with all it has, a group with what it gives. */
  private void subjects(AccessModel here, AccessModel there, Cause.Kind kind) {
    Facts facts = here.facts();
    boolean isNew = kind == Cause.Kind.NEW;
    Counterparts others = Counterparts.of(facts, there.facts());
    Map<Integer, List<Change>> members = members(here, others);
    for (int s = 0; s < facts.accounts() + facts.groups(); s++) {
      if (others.of(s).isPresent()) {
        continue;
      }
      Key key = facts.key(s);
      List<Shift> shifts =
          s < facts.accounts()
              ? List.copyOf(Objects.requireNonNullElse(open.remove(key), Set.of()))
              : take(effects(here, members.getOrDefault(s, List.of()), isNew), here);
      found.add(Cause.of(kind, Optional.of(key), "", shifts).doneBy(isNew ? who.created(key) : ""));
    }
  }

  /** For each group that is not in the other model, that it had no members. O(memberships). */
  private static Map<Integer, List<Change>> members(AccessModel of, Counterparts there) {
    Facts facts = of.facts();
    Map<Integer, List<Change>> changes = new HashMap<>();
    for (int g = facts.firstGroup(); g < facts.firstGroup() + facts.groups(); g++) {
      if (there.of(g).isEmpty()) {
        changes.put(g, new ArrayList<>());
      }
    }
    for (int s = 0; s < facts.accounts() + facts.groups() && !changes.isEmpty(); s++) {
      for (int i = 0; i < of.graph().upCount(s); i++) {
        int group = of.graph().upGroup(s, i);
        List<Change> ofGroup = changes.get(group);
        if (ofGroup != null && of.graph().upVia(s, i).isSure()) {
          ofGroup.add(new Change.MembershipRemoved(s, group, of.graph().upVia(s, i)));
        }
      }
    }
    return changes;
  }

  private void changes(Map<Integer, List<Shift>> byChange) {
    bound
        .byStep()
        .forEach(
            (step, made) -> {
              if (!open.isEmpty()) {
                shifts(byChange, step).addAll(take(effects(was, made, false), was));
              }
            });
    for (int step : bound.byStep().keySet()) {
      if (!open.isEmpty()) {
        Step back = steps.proposal().steps().get(step).inverse();
        Bound one = new Proposal("", List.of(back)).on(is);
        shifts(byChange, step).addAll(take(effects(is, one.changes(), true), is));
      }
    }
  }

  private static List<Shift> shifts(Map<Integer, List<Shift>> byChange, int step) {
    return Objects.requireNonNull(byChange.get(step));
  }

  /** Windows that began or ended, accounts that ended: what was, at the later time. */
  private void time() {
    if (open.isEmpty() || was.asOf().equals(is.asOf())) {
      return;
    }
    Instant later = is.asOf();
    AccessModel then = was.at(later, was.basis());
    List<Shift> shifts = take(plain(new Shifts(was, then).all()), was);
    if (!shifts.isEmpty()) {
      found.add(Cause.of(Cause.Kind.TIME, Optional.empty(), "", shifts));
    }
  }

  private static Set<Shift> plain(List<Shift> shifts) {
    Set<Shift> plain = new TreeSet<>();
    shifts.forEach(shift -> plain.add(shift.plain()));
    return plain;
  }

  /** What all changes together do, and what none of them does. */
  private void rest() {
    if (open.isEmpty()) {
      return;
    }
    AccessModel all = all(bound.changes());
    Asker asker = all.asker();
    Asker asked = is.asker();
    List<Shift> together = new ArrayList<>();
    Map<String, List<Shift>> bySystem = new LinkedHashMap<>();
    for (Set<Shift> shifts : open.values()) {
      for (Shift shift : shifts) {
        boolean same =
            !bound.made().isEmpty()
                && Shifts.rank(all, asker, shift) == Shifts.rank(is, asked, shift);
        (same ? together : bySystem.computeIfAbsent(shift.system(), system -> new ArrayList<>()))
            .add(shift);
      }
    }
    open.clear();
    if (!together.isEmpty()) {
      found.add(Cause.of(Cause.Kind.TOGETHER, Optional.empty(), "", together));
    }
    bySystem.forEach(
        (system, shifts) ->
            found.add(Cause.of(Cause.Kind.DEFINITION, Optional.empty(), system, shifts)));
  }

  private AccessModel all(List<Change> changes) {
    try {
      return was.with(changes).at(is.asOf(), was.basis());
    } catch (IllegalArgumentException e) {
      return was;
    }
  }

  /** The changes as causes, with the admin actions that each gives and ends by itself. */
  private void acts(Map<Integer, List<Shift>> byChange) {
    ActEffects together = acts(bound.changes());
    boolean each = !together.isNone() && bound.made().size() <= MOST_WITH_ACTS;
    for (Map.Entry<Integer, List<Change>> one : bound.byStep().entrySet()) {
      ActEffects acts = each ? acts(one.getValue()) : ActEffects.NONE;
      Change first = one.getValue().get(0);
      Optional<Key> group = group(first);
      found.add(
          new Cause(
              Cause.Kind.CHANGE,
              Optional.of(first),
              Optional.empty(),
              group,
              "",
              who.did(steps.proposal().steps().get(one.getKey()), first),
              shifts(byChange, one.getKey()),
              acts.gives(),
              acts.ends(),
              ""));
    }
    if (!each && !(together.gives().isEmpty() && together.ends().isEmpty())) {
      found.add(
          new Cause(
              Cause.Kind.TOGETHER,
              Optional.empty(),
              Optional.empty(),
              Optional.empty(),
              "",
              "",
              List.of(),
              together.gives(),
              together.ends(),
              ""));
    }
  }

  private ActEffects acts(List<Change> changes) {
    try {
      return ActEffects.of(before, changes);
    } catch (IllegalArgumentException e) {
      return ActEffects.NONE;
    }
  }

  /** The group whose members a change is about. */
  private Optional<Key> group(Change change) {
    Facts facts = was.facts();
    return change.fold(
        moved -> Optional.of(facts.key(moved.group())),
        own -> Optional.empty(),
        account -> Optional.empty());
  }
}
