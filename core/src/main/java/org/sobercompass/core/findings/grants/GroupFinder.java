package org.sobercompass.core.findings.grants;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Dangling;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.GroupDetails;
import org.sobercompass.core.membership.Circles;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;

/** Broken groups that carry rights: circles, and members that are not there. */
public final class GroupFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(FindingKind.CIRCULAR_NESTING, FindingKind.DANGLING_MEMBER);

  private final FindingContext context;
  private final Facts facts;
  private final BitSet carrying;

  public GroupFinder(FindingContext context) {
    this.context = context;
    this.facts = context.facts;
    this.carrying = carrying();
  }

  /** Whom something is given now. */
  private IntList given(SystemView view) {
    IntList given = new IntList();
    for (Grant grant : view.grants()) {
      if (grant.activeAt(context.model.asOf().getEpochSecond())) {
        given.add(grant.subject());
      }
    }
    return given;
  }

  /** Groups that are given something, or are in a group that is. */
  private BitSet carrying() {
    BitSet found = new BitSet();
    IntList queue = new IntList();
    for (SystemView view : context.model.systems()) {
      IntList named = view.assigned().isEmpty() ? view.decider().trustees() : given(view);
      for (int i = 0; i < named.size(); i++) {
        int subject = named.get(i);
        boolean isGroup =
            subject >= facts.firstGroup() && subject < facts.firstGroup() + facts.groups();
        if (isGroup && !found.get(subject)) {
          found.set(subject);
          queue.add(subject);
        }
      }
    }
    MembershipGraph graph = context.model.graph();
    for (int at = 0; at < queue.size(); at++) {
      int group = queue.get(at);
      for (int i = 0; i < graph.downCount(group); i++) {
        int member = graph.downMember(group, i);
        if (member >= facts.firstGroup() && !found.get(member)) {
          found.set(member);
          queue.add(member);
        }
      }
    }
    return found;
  }

  @Override
  public void find(Consumer<Finding> out) {
    for (int[] circle : Circles.of(context.model.graph())) {
      if (carrying.get(circle[0])) {
        out.accept(circle(circle));
      }
    }
    Map<Integer, List<Dangling>> byGroup = new LinkedHashMap<>();
    for (Dangling dangling : facts.arrays().dangling()) {
      if (carrying.get(dangling.subject())) {
        byGroup.computeIfAbsent(dangling.subject(), g -> new ArrayList<>()).add(dangling);
      }
    }
    byGroup.forEach((group, list) -> out.accept(dangling(group, list)));
  }

  private Finding circle(int[] groups) {
    List<Integer> all = Arrays.stream(groups).boxed().toList();
    return context.finding(
        FindingKind.CIRCULAR_NESTING,
        "",
        facts.key(groups[0]),
        Weight.MEDIUM,
        new GroupDetails.Circle(all),
        List.of(new Evidence.Circle(all)),
        "",
        context.keys(all),
        new Remedy.Uncircled(all));
  }

  private Finding dangling(int group, List<Dangling> missing) {
    return context.decision(
        FindingKind.DANGLING_MEMBER,
        "",
        facts.key(group),
        Weight.LOW,
        new GroupDetails.MissingMembers(group, missing.size()),
        missing.stream()
            .limit(FindingContext.LISTED)
            .map(d -> new Evidence.MissingMember(d.via().attribute(), d.text()))
            .toList(),
        "",
        List.of(facts.key(group)));
  }
}
