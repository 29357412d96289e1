package org.sobercompass.core.findings.grants;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.GroupDetails;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.membership.ShortestPaths;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.Stamps;
import org.sobercompass.core.system.Grant;

/**
 * Rights that reach accounts through more groups in groups than the workspace expects. From each
 * group that is given something downwards, by the shortest chains; the cause is the group at the
 * end of the chain. O(memberships below the groups that are given something).
 */
public final class NestingFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS = EnumSet.of(FindingKind.DEEP_NESTING);

  private final FindingContext context;
  private final Facts facts;
  private final MembershipGraph graph;
  private final Stamps met;
  private final ShortestPaths paths;

  public NestingFinder(FindingContext context) {
    this.context = context;
    this.facts = context.facts;
    this.graph = context.model.graph();
    this.met = new Stamps(facts.subjects());
    this.paths = new ShortestPaths(context.model.widest());
  }

  @Override
  public void find(Consumer<Finding> out) {
    Map<Integer, List<SystemView>> given = new TreeMap<>();
    long asOf = context.model.asOf().getEpochSecond();
    for (SystemView view : context.model.systems()) {
      boolean nests = view.memberships().profile().nesting() >= context.limits.nesting();
      for (Grant grant : nests ? view.assigned() : List.<Grant>of()) {
        boolean asked =
            grant.subject() >= 0
                && context.looksAt(grant.subject())
                && grant.activeAt(asOf)
                && facts.kind(grant.subject()) == SubjectKind.GROUP;
        if (asked) {
          List<SystemView> views = given.computeIfAbsent(grant.subject(), g -> new ArrayList<>());
          if (!views.contains(view)) {
            views.add(view);
          }
        }
      }
    }
    context.each(
        List.copyOf(given.entrySet()),
        own -> {
          NestingFinder finder = new NestingFinder(own);
          return one -> finder.group(one.getKey(), one.getValue());
        },
        out);
  }

  private Optional<Finding> group(int group, List<SystemView> views) {
    IntList groups = IntList.of(group);
    IntList depths = IntList.of(0);
    met.clear();
    met.add(group);
    IntList deep = new IntList();
    int deepest = 0;
    for (int at = 0; at < groups.size(); at++) {
      for (int i = graph.downCount(groups.get(at)) - 1; i >= 0; i--) {
        int member = graph.downMember(groups.get(at), i);
        if (member >= facts.accounts()
            && graph.downVia(groups.get(at), i).isSure()
            && met.add(member)) {
          groups.add(member);
          depths.add(depths.get(at) + 1);
        }
      }
    }
    // Where no group is deep enough no account is; else the nearer groups come first.
    boolean none = depths.get(depths.size() - 1) < context.limits.nesting();
    for (int at = 0; at < groups.size() && !none; at++) {
      for (int i = 0; i < graph.downCount(groups.get(at)); i++) {
        int member = graph.downMember(groups.get(at), i);
        if (member < facts.accounts()
            && graph.downVia(groups.get(at), i).isSure()
            && met.add(member)
            && depths.get(at) >= context.limits.nesting()) {
          deep.add(member);
          deepest = Math.max(deepest, depths.get(at) + 1);
        }
      }
    }
    deep.sortBelow(facts.accounts());
    return deep.isEmpty() ? Optional.empty() : Optional.of(finding(group, views, deep, deepest));
  }

  private Finding finding(int group, List<SystemView> views, IntList deep, int deepest) {
    List<Evidence> evidence = new ArrayList<>();
    for (int i = 0; i < Math.min(FindingContext.SHOWN, deep.size()); i++) {
      paths
          .find(deep.get(i), group)
          .ifPresent(path -> evidence.add(new Evidence.Chain(path.subjects())));
    }
    List<Integer> systems = views.stream().map(SystemView::number).toList();
    return context.decision(
        FindingKind.DEEP_NESTING,
        "",
        facts.key(group),
        Weight.LOW,
        new GroupDetails.DeepNesting(
            group, systems, deep.size(), deepest, context.limits.nesting()),
        evidence,
        views.size() == 1 ? views.get(0).id() : "",
        facts.keys(deep.toArray()));
  }
}
