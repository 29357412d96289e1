package org.sobercompass.core.findings.grants;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Dangling;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Finding.Evidence;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.Weight;
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
    List<Integer> all = java.util.Arrays.stream(groups).boxed().toList();
    List<String> names = new ArrayList<>(all.stream().map(facts::label).toList());
    names.add(names.get(0));
    int last = groups[groups.length - 1];
    return new Finding(
        FindingKind.CIRCULAR_NESTING,
        "",
        facts.key(groups[0]),
        Weight.MEDIUM,
        List.of("whoever may edit one of them hands out the rights of all"),
        "groups contain each other and carry rights: " + String.join(" → ", names),
        "",
        context.keys(all),
        List.of(Evidence.of("each is a member of the next: " + String.join(" → ", names))),
        "take "
            + facts.label(last)
            + " out of "
            + facts.label(groups[0])
            + ", after looking who would lose what",
        new Remedy.Uncircled(all));
  }

  private Finding dangling(int group, List<Dangling> missing) {
    List<Evidence> evidence =
        missing.stream()
            .limit(10)
            .map(d -> Evidence.of(d.via().attribute() + ": " + d.text()))
            .toList();
    return new Finding(
        FindingKind.DANGLING_MEMBER,
        "",
        facts.key(group),
        Weight.LOW,
        List.of("whoever gets that name next gets the rights of the group"),
        "the group "
            + facts.label(group)
            + " carries rights and lists "
            + Words.count(
                missing.size(), "member that does not exist", "members that do not exist"),
        "",
        List.of(facts.key(group)),
        evidence,
        "take the missing members out of the group",
        List.of());
  }
}
