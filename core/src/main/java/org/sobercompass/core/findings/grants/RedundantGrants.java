package org.sobercompass.core.findings.grants;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.sobercompass.core.access.Redundancy;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Focus;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.GrantDetails;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;

/** Assignments that change nothing, by what covers them. Not thread-safe. */
final class RedundantGrants {
  /** Tells what one assignment makes redundant from that assignment being redundant itself. */
  private static final String COVERED = "covered";

  private final FindingContext context;
  private final List<BitSet> all;
  private final Map<Integer, Memberships.Walker> walkers = new HashMap<>();
  private final Map<Integer, Map<Integer, BitSet>> above = new HashMap<>();

  RedundantGrants(FindingContext context) {
    this.context = context;
    this.all =
        context
            .focus()
            .map(
                focus ->
                    context.model.systems().stream().map(view -> concerned(view, focus)).toList())
            .orElseGet(() -> Redundancy.everywhere(context.model));
  }

  /**
   * Redundant assignments that may be so by changes, with all others that the same ones cover, and
   * those of the causes that are looked at.
   */
  private BitSet concerned(SystemView view, Focus focus) {
    BitSet found = new BitSet();
    Redundancy redundancy = new Redundancy(context.asker);
    List<Grant> grants = view.assigned();
    BitSet covers = new BitSet();
    for (int g = 0; g < grants.size(); g++) {
      int subject = grants.get(g).subject();
      boolean concerned =
          focus.systems().get(view.number())
              && subject >= 0
              && (focus.counted().get(subject)
                  || focus.subjects().get(subject)
                  || context.facts.kind(subject) == SubjectKind.IMPLICIT);
      if (concerned && redundancy.isEverywhere(view, g)) {
        found.set(g);
        covers.set(widest(view, g));
      }
      if (focus.causes().contains(context.grantKey(view, grants.get(g)))) {
        covers.set(widest(view, g));
        covers.set(g);
      }
    }
    for (int g = 0; g < grants.size() && !covers.isEmpty(); g++) {
      int asked = g;
      boolean covered =
          grants.get(g).subject() >= 0
              && (covers.get(g)
                  || covers.stream().anyMatch(c -> covers(view, grants.get(c), grants.get(asked))));
      if (covered && !found.get(g) && covers.get(widest(view, g))) {
        found.set(g, redundancy.isEverywhere(view, g));
      }
    }
    return found;
  }

  /**
   * Redundant assignments by what makes them so: all that one other covers are one finding. What
   * covers others is needed once they are withdrawn, so nothing else is said of it.
   */
  void tell(SystemView view, Consumer<Finding> out) {
    BitSet redundant = all.get(view.number());
    Map<Integer, List<Integer>> byCover = new TreeMap<>();
    for (int g = redundant.nextSetBit(0); g >= 0; g = redundant.nextSetBit(g + 1)) {
      Grant grant = view.grants().get(g);
      boolean over = grant.until() <= context.model.asOf().getEpochSecond();
      if (!grant.declared() && grant.on() && !over && grant.subject() >= 0) {
        byCover.computeIfAbsent(widest(view, g), c -> new ArrayList<>()).add(g);
      }
    }
    byCover.forEach(
        (cover, each) -> {
          boolean alone = each.size() == 1;
          each.removeIf(g -> g.equals(cover) && !alone);
          if (alone) {
            int only = each.get(0);
            out.accept(redundant(view, only, view.grants().get(only)));
          } else {
            out.accept(covered(view, cover, each));
          }
        });
  }

  /** The assignment that covers one, and that no other covers; itself where there is none. */
  private int widest(SystemView view, int number) {
    int at = number;
    for (int steps = 0; steps < view.grants().size() && view.decider().isMonotone(); steps++) {
      int next = cover(view, at);
      if (next < 0) {
        return at;
      }
      at = next;
    }
    return at;
  }

  /** An assignment that by itself gives all that another gives; of two alike the first. */
  private int cover(SystemView view, int number) {
    Grant grant = view.grants().get(number);
    for (int other = 0; other < view.grants().size(); other++) {
      Grant by = view.grants().get(other);
      boolean covers = other != number && covers(view, by, grant);
      if (covers && (other < number || !covers(view, grant, by))) {
        return other;
      }
    }
    return -1;
  }

  private boolean covers(SystemView view, Grant by, Grant grant) {
    boolean here =
        by.resource() == grant.resource()
            ? by.descends() || !grant.descends()
            : by.descends() && view.resources().covers(by.resource(), grant.resource());
    boolean live =
        by.on() && by.subject() >= 0 && by.from() <= grant.from() && by.until() >= grant.until();
    if (!here || !live) {
      return false;
    }
    for (int right = 0; right < view.rights().size(); right++) {
      if (view.system().roles().get(grant.role()).allows(right)
          && !view.system().roles().get(by.role()).allows(right)) {
        return false;
      }
    }
    return reaches(view, by.subject(), grant.subject());
  }

  /** Whether whoever counts as the one subject counts as the other. */
  private boolean reaches(SystemView view, int wide, int narrow) {
    if (wide == narrow) {
      return true;
    }
    if (context.facts.kind(wide) == SubjectKind.IMPLICIT) {
      return context.facts.implicitOf(wide) != Implicit.MEMBERS;
    }
    SubjectKind kind = context.facts.kind(narrow);
    if (kind != SubjectKind.GROUP && kind != SubjectKind.ACCOUNT) {
      return false;
    }
    return above
        .computeIfAbsent(view.context(), c -> new HashMap<>())
        .computeIfAbsent(narrow, subject -> above(view, subject))
        .get(wide);
  }

  /** What a subject surely counts as in a system. */
  private BitSet above(SystemView view, int subject) {
    SubjectSet found = new SubjectSet();
    walkers
        .computeIfAbsent(view.context(), c -> view.memberships().walker())
        .subjects(subject, found);
    BitSet all = new BitSet();
    found.sure().setIn(all);
    return all;
  }

  private Finding covered(SystemView view, int cover, List<Integer> each) {
    Grant by = view.grants().get(cover);
    List<Evidence> evidence = new ArrayList<>();
    List<Change> changes = new ArrayList<>();
    List<Key> subjects = new ArrayList<>();
    evidence.add(FindingContext.assigned(view, by));
    for (int number : each) {
      Grant grant = view.grants().get(number);
      changes.addAll(context.removal(view, number));
      if (evidence.size() <= FindingContext.SHOWN) {
        evidence.add(FindingContext.assigned(view, grant));
      }
      subjects.add(context.facts.key(grant.subject()));
    }
    return context.finding(
        FindingKind.REDUNDANT_ASSIGNMENT,
        COVERED,
        context.grantKey(view, by),
        Weight.LOW,
        new GrantDetails.Covered(view.number(), by, each.size()),
        evidence,
        view.id(),
        subjects.stream().distinct().sorted().toList(),
        FindingContext.ending(changes));
  }

  private Finding redundant(SystemView view, int number, Grant grant) {
    return context.ofGrant(
        FindingKind.REDUNDANT_ASSIGNMENT,
        view,
        number,
        Weight.LOW,
        new GrantDetails.Redundant(view.number(), grant),
        context.subject(grant.subject()));
  }
}
