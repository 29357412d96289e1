package org.sobercompass.core.carry;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.carry.CarryPlan.Groups;
import org.sobercompass.core.carry.CarryPlan.How;
import org.sobercompass.core.carry.Left.Why;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.core.proposal.OwnRights;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Hindrance;
import org.sobercompass.core.system.ListWish;

/**
 * Works out what the rights of some subjects become for their counterparts. What comes to everyone,
 * or by a place in the directory, follows by itself. O(assignments + entries + memberships of those
 * who are carried). Use once; not thread-safe.
 */
public final class Carry {
  private final AccessModel model;
  private final Facts facts;
  private final Map<Integer, Integer> counterparts;
  private final CarryPlan plan;
  private final OwnRights own;
  private final Map<Integer, Visibility> sights = new HashMap<>();
  private final List<SystemView> views = new ArrayList<>();
  private final Map<SystemView, CarriedLists> lists = new LinkedHashMap<>();
  private final Map<String, CarriedRight> rights = new LinkedHashMap<>();
  private final Set<Left> left = new LinkedHashSet<>();
  private final Map<Integer, Boolean> byRule = new HashMap<>();

  /**
   * Prepares to carry.
   *
   * @param model with its delegated administration
   * @param counterparts who is whose: accounts, groups, units by number
   */
  public Carry(AccessModel model, Map<Integer, Integer> counterparts, CarryPlan plan) {
    this.model = model;
    this.facts = model.facts();
    this.counterparts = new LinkedHashMap<>(counterparts);
    this.plan = plan;
    this.own = new OwnRights(model);
    views.addAll(model.systems());
    views.addAll(model.delegated());
    for (SystemView view : views) {
      if (view.system().isOfLists() && plan.covers(view)) {
        lists.put(view, new CarriedLists(facts, own, view));
      }
    }
  }

  /** Works it out. */
  public Carried make() {
    counterparts.forEach(
        (from, to) -> {
          itself(from, from, to, true);
          groups(from, from, to, new HashSet<>());
        });
    lists.values().forEach(list -> list.made().forEach(this::add));
    Carried all = new Carried(List.copyOf(rights.values()), List.copyOf(left));
    return plan.how() == How.WHERE_LESS ? WhereLess.of(model, all) : all;
  }

  /**
   * What a subject has by its own name.
   *
   * @param owner whose right it is
   * @param who for whom it is carried
   * @param mine whether it can be taken from the owner afterwards
   */
  private void itself(int owner, int who, int to, boolean mine) {
    long now = model.asOf().getEpochSecond();
    for (OwnRights.Given given : own.assigned(owner)) {
      SystemView view = given.view();
      Grant grant = view.grants().get(given.grant());
      if (!plan.covers(view, grant.resource())) {
        continue;
      }
      if (given.isOver(now)) {
        left.add(Left.ofGrant(Why.OVER, who, to, view.number(), given.grant()));
      } else if (mayCarry(view, given.grant(), who, to)) {
        Step source = new Step.Assign(given.what().orElseThrow());
        Step.Assignment wish = given.what().orElseThrow().to(facts.key(to));
        boolean there =
            own.assigned(to).stream().anyMatch(has -> has.what().equals(Optional.of(wish)));
        add(
            new CarriedRight(
                owner, to, source, List.of(new Step.Assign(wish)), ends(source, mine), there));
      }
    }
    for (Step line : own.lines(owner)) {
      if (line instanceof Step.Register register) {
        enrolled(register, owner, who, to, mine);
      }
    }
    lists.forEach((view, naming) -> entries(view, naming, owner, who, to, mine));
  }

  private boolean mayCarry(SystemView view, int grant, int who, int to) {
    if (plan.powerful().test(view, grant)) {
      left.add(Left.ofGrant(Why.POWERFUL, who, to, view.number(), grant));
      return false;
    }
    return isSeen(view, who, to);
  }

  /** A system that looks at other directories only would give nothing to the counterpart. */
  private boolean isSeen(SystemView view, int who, int to) {
    Visibility sight =
        sights.computeIfAbsent(view.number(), n -> Visibility.of(facts, view.system().sight()));
    boolean seen =
        view.system().sight().directory().isEmpty()
            || sight.sees(to)
            || sight.perhapsSees(to)
            || facts.kind(to) == SubjectKind.IMPLICIT;
    if (!seen) {
      left.add(Left.ofSystem(Why.NOT_SEEN, who, to, view.number(), ""));
    }
    return seen;
  }

  private void enrolled(Step.Register line, int owner, int who, int to, boolean mine) {
    SystemView view = model.system(line.application()).orElse(null);
    if (view != null && plan.covers(view) && isSeen(view, who, to)) {
      Step.Register target =
          new Step.Register(
              line.application(),
              facts.key(to),
              line.signIn(),
              line.active(),
              // A second factor is somebody's own.
              false,
              line.at(),
              true);
      boolean there =
          own.lines(to).stream()
              .anyMatch(
                  has ->
                      has instanceof Step.Register r && r.application().equals(line.application()));
      add(new CarriedRight(owner, to, line, List.of(target), ends(line, mine), there));
    }
  }

  private void entries(
      SystemView view, CarriedLists naming, int owner, int who, int to, boolean mine) {
    try {
      naming.carry(
          new CarriedLists.Whose(owner, who, to, mine && plan.how() == How.INSTEAD),
          entry ->
              plan.covers(view, entry.resource())
                  && !isHindered(view, entry, who, to)
                  && mayCarry(view, naming.grant(entry), who, to));
    } catch (IllegalArgumentException e) {
      String said = e.getMessage() == null ? "" : e.getMessage();
      left.add(Left.ofSystem(Why.NO_NAME, who, to, view.number(), said));
    }
  }

  /** Whether an entry is left; each place once. */
  private boolean isHindered(SystemView view, ListWish.Edit entry, int who, int to) {
    Hindrance hindrance = view.system().hindrance(entry);
    boolean hindered =
        hindrance == Hindrance.BY_HAND || (hindrance == Hindrance.WASTE_BIN && !plan.wasteBins());
    if (hindered) {
      Why why = hindrance == Hindrance.BY_HAND ? Why.BY_HAND : Why.WASTE_BIN;
      String at = view.resources().id(entry.resource());
      left.add(Left.ofSystem(why, who, to, view.number(), at));
    }
    return hindered;
  }

  /** What a subject has by the groups and units that it is in. */
  private void groups(int member, int who, int to, Set<Integer> met) {
    own.memberships(member).forEach(membership -> group(membership, member, who, to, met));
    for (int unit = facts.container(who);
        unit >= 0 && member == who;
        unit = facts.container(unit)) {
      Integer there = counterparts.get(unit);
      boolean same = there != null && isBelow(to, there);
      if (!same && met.add(unit)) {
        instead(unit, who, to, met);
      }
    }
  }

  private boolean isBelow(int subject, int unit) {
    int at = facts.container(subject);
    while (at >= 0 && at != unit) {
      at = facts.container(at);
    }
    return at == unit;
  }

  private void group(
      OwnRights.Membership membership, int member, int who, int to, Set<Integer> met) {
    int group = membership.group();
    if (facts.kind(group) != SubjectKind.GROUP || !met.add(group)) {
      return;
    }
    Integer counterpart = counterparts.get(group);
    if (membership.via() == Via.SIGNS_IN) {
      boolean signsIn =
          counterpart != null && own.memberships(to).anyMatch(has -> has.group() == counterpart);
      if (!signsIn) {
        left.add(Left.ofGroup(Why.SIGNS_IN, who, to, group));
      }
      return;
    }
    boolean shared = facts.source(group).equals(facts.source(to));
    int into = counterpart != null ? counterpart : shared ? group : -1;
    if (into < 0 || into == to) {
      if (into < 0) {
        instead(group, who, to, met);
      }
      return;
    }
    if (!plan.coversGroups()) {
      return;
    }
    if (isByRule(into)) {
      left.add(Left.ofGroup(Why.BY_RULE, who, to, into));
      return;
    }
    Step target = new Step.Join(facts.key(to), facts.key(into));
    Step source = new Step.Join(facts.key(member), facts.key(group));
    boolean there = own.memberships(to).anyMatch(has -> has.group() == into);
    boolean leaves = plan.how() == How.INSTEAD && member == who;
    if (leaves && !membership.via().isListed()) {
      left.add(Left.ofGroup(Why.PRIMARY, who, to, group));
    }
    List<Step> ends = leaves && membership.via().isListed() ? List.of(source.inverse()) : List.of();
    add(new CarriedRight(member, to, source, List.of(target), ends, there));
  }

  /** A group or unit without a counterpart: what it has is given in its place, or left. */
  private void instead(int group, int who, int to, Set<Integer> met) {
    int before = rights.size();
    if (plan.groups() == Groups.MEMBERS) {
      itself(group, who, to, false);
      groups(group, who, to, met);
    }
    boolean gives = rights.size() > before || !own.assigned(group).isEmpty();
    gives |= lists.values().stream().anyMatch(list -> list.isNamed(group));
    if (gives) {
      left.add(Left.ofGroup(Why.NO_COUNTERPART, group, to, group));
    }
  }

  private boolean isByRule(int group) {
    return byRule.computeIfAbsent(
        group,
        g -> {
          var down = facts.arrays().memberships().down().rows();
          for (int at = down.start(g); at < down.end(g); at++) {
            int member = down.at(at);
            boolean listed =
                own.memberships(member).anyMatch(m -> m.group() == g && m.via() == Via.DYNAMIC);
            if (listed) {
              return true;
            }
          }
          return false;
        });
  }

  private List<Step> ends(Step source, boolean mine) {
    return mine && plan.how() == How.INSTEAD ? List.of(source.inverse()) : List.of();
  }

  private void add(CarriedRight right) {
    Key to = facts.key(right.to());
    rights.putIfAbsent(StepText.of(right.source()) + " > " + to.text(), right);
  }
}
