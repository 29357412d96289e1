package org.sobercompass.core.findings.separation;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntPredicate;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;

/**
 * The most general causes for breaking one rule: roles that have enough sides by themselves, what
 * everyone is given, groups and units whose accounts all get enough sides, by themselves or with
 * what everyone and their units are given. They are found once for a rule, from the grants that
 * give a side downwards, so that asking about one account is cheap. O(grants + groups below them).
 */
final class SeparationCauses {
  private final FindingContext context;
  private final SeparationTests tests;
  private final int rule;
  private final List<RoleCause> roles = new ArrayList<>();
  private final Map<Integer, Long> sidesOfGroup = new HashMap<>();
  private final Map<Integer, Long> sidesOfUnit = new HashMap<>();
  private final Map<Integer, Integer> sizes = new HashMap<>();
  private final BitSet groups = new BitSet();
  private final Broken broken;
  private long sidesOfAll;
  private int everyone = -1;

  /** A role that has enough sides by itself. */
  record RoleCause(SystemView view, int role) {}

  /**
   * The accounts that hold enough sides of a rule, usable or not.
   *
   * @param known those whose causes are asked
   * @param any whether an account is one, among the known or not
   */
  record Broken(BitSet known, IntPredicate any) {
    boolean get(int account) {
      return known.get(account) || any.test(account);
    }
  }

  /**
   * @param broken the accounts that hold enough sides, usable or not
   */
  SeparationCauses(FindingContext context, SeparationTests tests, int rule, Broken broken) {
    this.context = context;
    this.tests = tests;
    this.rule = rule;
    this.broken = broken;
    BitSet whole = whole();
    for (SystemView view : context.model.systems()) {
      if (tests.rights[view.number()].length + tests.roles[view.number()].length > 0) {
        collect(view, whole);
      }
    }
    sidesOfGroup.forEach(
        (group, sides) -> {
          if (sides != 0 && isEnough(group, sides)) {
            groups.set(group);
          }
        });
  }

  /** Whether a group gives enough, with what all get, and what all units of all its members get. */
  private boolean isEnough(int group, long sides) {
    if (tests.enough(rule, sides | sidesOfAll)) {
      return true;
    }
    long common = sidesOfUnit.isEmpty() ? 0 : ~0L;
    IntList accounts = new IntList();
    context.widest().accounts(group, accounts);
    for (int i = 0; i < accounts.size() && common != 0; i++) {
      common &= ofUnits(accounts.get(i));
    }
    return tests.enough(rule, sides | sidesOfAll | common);
  }

  /** What the units give that an account, or a unit, stands in. */
  private long ofUnits(int subject) {
    SubjectSet above = new SubjectSet();
    context.widest().subjects(subject, above);
    long sides = 0;
    for (int i = 0; i < above.sure().size(); i++) {
      sides |= sidesOfUnit.getOrDefault(above.sure().get(i), 0L);
    }
    return sides;
  }

  private void collect(SystemView view, BitSet whole) {
    long[] sides = new long[view.system().roles().size()];
    long all = 0;
    for (int role = 0; role < sides.length; role++) {
      sides[role] = tests.sides(view, role, rule);
      all |= sides[role];
      if (tests.enough(rule, sides[role])) {
        roles.add(new RoleCause(view, role));
      }
    }
    if (all == 0 || broken.known.isEmpty()) {
      return;
    }
    long asOf = context.model.asOf().getEpochSecond();
    Map<Integer, Long> given = new HashMap<>();
    for (Grant grant : view.grants()) {
      if (sides[grant.role()] != 0 && grant.subject() >= 0 && grant.activeAt(asOf)) {
        given(grant.subject(), sides[grant.role()], given);
      }
    }
    if (!whole.isEmpty() && !given.isEmpty()) {
      Memberships.Walker walker = view.memberships().walker();
      whole.stream()
          .forEach(
              group -> sidesOfGroup.merge(group, above(walker, group, given), (a, b) -> a | b));
    }
  }

  /** What is given to a group and to all groups above it, surely or perhaps. */
  private static long above(Memberships.Walker walker, int group, Map<Integer, Long> given) {
    IntList groups = new IntList();
    walker.groupsAbove(group, groups);
    long sides = 0;
    for (int i = 0; i < groups.size(); i++) {
      sides |= given.getOrDefault(groups.get(i), 0L);
    }
    return sides;
  }

  private void given(int subject, long sides, Map<Integer, Long> toGroups) {
    switch (context.facts.kind(subject)) {
      case GROUP -> toGroups.merge(subject, sides, (a, b) -> a | b);
      case UNIT -> sidesOfUnit.merge(subject, sides, (a, b) -> a | b);
      case IMPLICIT -> {
        sidesOfAll |= sides;
        everyone = Math.max(everyone, subject);
      }
      case ACCOUNT -> {}
    }
  }

  /**
   * The groups all of whose members break the rule: from the groups of those who break it upwards,
   * as long as nobody else is in them. There are few, so this comes before what groups are given.
   */
  private BitSet whole() {
    BitSet whole = new BitSet();
    BitSet asked = new BitSet();
    MembershipGraph graph = context.model.graph();
    IntList next = new IntList();
    broken.known.stream().forEach(next::add);
    for (int at = 0; at < next.size(); at++) {
      int member = next.get(at);
      for (int i = 0; i < graph.upCount(member); i++) {
        int group = graph.upGroup(member, i);
        if (!asked.get(group) && graph.upVia(member, i).isSure()) {
          asked.set(group);
          if (isOfAll(graph, group)) {
            whole.set(group);
            next.add(group);
          }
        }
      }
    }
    return whole;
  }

  /** Whether really all of its members break the rule: a deny or a window may stop some. */
  private boolean isOfAll(MembershipGraph graph, int group) {
    if (context.facts.isOpen(group)) {
      return false;
    }
    for (int i = 0; i < graph.downCount(group); i++) {
      int member = graph.downMember(group, i);
      if (member < context.facts.accounts() && !broken.get(member)) {
        return false;
      }
    }
    IntList accounts = new IntList();
    context.widest().accounts(group, accounts);
    for (int i = 0; i < accounts.size(); i++) {
      if (!broken.get(accounts.get(i))) {
        return false;
      }
    }
    return !accounts.isEmpty();
  }

  /** The roles that have enough sides, whether anybody holds them or not. */
  List<RoleCause> roles() {
    return roles;
  }

  /** The first role given to an account that has enough sides by itself. */
  Optional<RoleCause> role(int account) {
    long asOf = context.model.asOf().getEpochSecond();
    for (RoleCause cause : roles) {
      IntList grants = cause.view.decider().grantsOf(context.asker.token(cause.view, account));
      for (int i = 0; i < grants.size(); i++) {
        Grant grant = cause.view.grants().get(grants.get(i));
        if (grant.role() == cause.role && grant.activeAt(asOf)) {
          return Optional.of(cause);
        }
      }
    }
    return Optional.empty();
  }

  /** Everyone, where all get enough sides without anything given by name. */
  Optional<Integer> everyone() {
    return tests.enough(rule, sidesOfAll) ? Optional.of(everyone) : Optional.empty();
  }

  /** A unit of an account all of whose accounts get enough sides; of several the furthest up. */
  Optional<Integer> unit(int account) {
    return sidesOfUnit.isEmpty() ? Optional.empty() : widest(account, this::isUnit, true);
  }

  private boolean isUnit(int subject) {
    return context.facts.kind(subject) == SubjectKind.UNIT
        && tests.enough(rule, upTo(subject) | sidesOfAll);
  }

  /** How many accounts are in a subject; -1 when not all break the rule and that is asked. */
  private int size(int subject, boolean ifBroken) {
    return sizes.computeIfAbsent(
        subject,
        s -> {
          IntList inside = new IntList();
          context.widest().accounts(s, inside);
          return ifBroken && !isBroken(inside) ? -1 : inside.size();
        });
  }

  /**
   * What an account counts as and that is a cause, with most accounts in it. Who is in it is asked
   * of candidates only, and once: of a unit it costs a walk over all accounts.
   */
  private Optional<Integer> widest(int account, IntPredicate candidate, boolean ifBroken) {
    SubjectSet own = new SubjectSet();
    context.widest().subjects(account, own);
    own.sure().sort();
    int best = -1;
    int most = -1;
    for (int i = 0; i < own.sure().size(); i++) {
      int subject = own.sure().get(i);
      int size = candidate.test(subject) ? size(subject, ifBroken) : -1;
      if (size > most) {
        most = size;
        best = subject;
      }
    }
    return best < 0 ? Optional.empty() : Optional.of(best);
  }

  /** What a unit and the units above it give. */
  private long upTo(int unit) {
    long sides = 0;
    for (int at = unit; at >= 0; at = context.facts.container(at)) {
      sides |= sidesOfUnit.getOrDefault(at, 0L);
    }
    return sides;
  }

  private boolean isBroken(IntList accounts) {
    for (int i = 0; i < accounts.size(); i++) {
      if (!broken.get(accounts.get(i))) {
        return false;
      }
    }
    return true;
  }

  /** A group of an account all of whose members get enough sides; of several the furthest up. */
  Optional<Integer> group(int account) {
    return groups.isEmpty() ? Optional.empty() : widest(account, groups::get, false);
  }
}
