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
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Breadth;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.GrantDetails;
import org.sobercompass.core.findings.details.Strength;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;

/**
 * Assignments that are wider than they need be, or lead nowhere: to very broad groups, everywhere
 * where others are given at one place, to groups with nobody in them, past their window.
 */
public final class WideFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(
          FindingKind.EXPIRED_ASSIGNMENT,
          FindingKind.ASSIGNED_TO_LARGE_GROUP,
          FindingKind.ASSIGNED_TO_EMPTY_GROUP,
          FindingKind.UNSCOPED_ASSIGNMENT);

  private final FindingContext context;
  private final Breadth breadth;

  /** What is given to groups with nobody in them, by group: one cause is one finding. */
  private final Map<Integer, List<Finding>> empty = new TreeMap<>();

  public WideFinder(FindingContext context) {
    this.context = context;
    this.breadth = new Breadth(context);
  }

  @Override
  public void find(Consumer<Finding> out) {
    long asOf = context.model.asOf().getEpochSecond();
    for (SystemView view : context.model.systems()) {
      if (view.assigned().isEmpty() || view.admission().isOpen()) {
        continue;
      }
      int[] narrow = new int[view.system().roles().size()];
      int[] all = new int[narrow.length];
      for (Grant grant : view.grants()) {
        if (grant.activeAt(asOf) && grant.subject() >= 0) {
          all[grant.role()]++;
          narrow[grant.role()] += context.isWide(view.resources(), grant) ? 0 : 1;
        }
      }
      for (int number = 0; number < view.grants().size(); number++) {
        Grant grant = view.grants().get(number);
        if (!grant.declared() && grant.on() && grant.until() <= asOf) {
          out.accept(over(view, number, grant));
        } else if (!grant.declared() && grant.activeAt(asOf) && grant.subject() >= 0) {
          group(view, number, grant, out);
          everywhere(view, number, grant, narrow[grant.role()], all[grant.role()], out);
        }
      }
    }
    empty.forEach(
        (group, each) -> out.accept(each.size() == 1 ? each.get(0) : joined(group, each)));
  }

  /** A group with nobody in it that is given several roles. */
  private Finding joined(int group, List<Finding> each) {
    List<Evidence> evidence = new ArrayList<>();
    List<Change> changes = new ArrayList<>();
    each.forEach(finding -> evidence.addAll(finding.evidence()));
    each.forEach(finding -> changes.addAll(finding.changes()));
    List<String> systems = each.stream().map(Finding::system).distinct().toList();
    return context.finding(
        FindingKind.ASSIGNED_TO_EMPTY_GROUP,
        "",
        context.facts.key(group),
        Weight.LOW,
        new GrantDetails.EmptyGroup(group, each.size(), systems.size()),
        evidence.subList(0, Math.min(evidence.size(), FindingContext.LISTED)),
        systems.size() == 1 ? systems.get(0) : "",
        List.of(context.facts.key(group)),
        FindingContext.ending(changes));
  }

  private Finding over(SystemView view, int number, Grant grant) {
    return finding(
        FindingKind.EXPIRED_ASSIGNMENT,
        view,
        number,
        Weight.LOW,
        new GrantDetails.Expired(view.number(), grant));
  }

  private void group(SystemView view, int number, Grant grant, Consumer<Finding> out) {
    boolean isUnit = context.facts.kind(grant.subject()) == SubjectKind.UNIT;
    boolean isOfMany = isUnit || context.facts.kind(grant.subject()) == SubjectKind.GROUP;
    if (!isOfMany || !context.looksAt(grant.subject())) {
      return;
    }
    boolean isEmpty =
        isUnit
            ? breadth.members(view, grant.subject()) == 0
            : breadth.isSurelyEmpty(view, grant.subject());
    Strength strength = context.strength(view, grant);
    if (isEmpty) {
      Finding one =
          finding(
              FindingKind.ASSIGNED_TO_EMPTY_GROUP,
              view,
              number,
              Weight.LOW,
              new GrantDetails.ToEmptyGroup(view.number(), grant, strength));
      empty.computeIfAbsent(grant.subject(), g -> new ArrayList<>()).add(one);
      return;
    }
    many(view, number, grant, strength, isUnit).ifPresent(out);
  }

  /** What gives much to a group or unit that many are in. */
  private Optional<Finding> many(
      SystemView view, int number, Grant grant, Strength strength, boolean isUnit) {
    boolean named = context.rules.broad().contains(grant.subject());
    int percent = context.limits.broadPercent();
    boolean many = named || breadth.holdsPercent(view, grant.subject(), percent);
    if (!many || !givesMuch(view, view.system().roles().get(grant.role()))) {
      return Optional.empty();
    }
    GrantDetails details =
        new GrantDetails.ToMany(
            view.number(),
            grant,
            strength,
            isUnit,
            named,
            breadth.members(view, grant.subject()),
            breadth.seen(view),
            percent);
    Weight weight = FindingContext.reduced(FindingContext.weight(strength));
    return Optional.of(finding(FindingKind.ASSIGNED_TO_LARGE_GROUP, view, number, weight, details));
  }

  /** Whether a role gives more than the lowest levels and what the workspace calls everyday. */
  private boolean givesMuch(SystemView view, RoleInfo role) {
    for (int right = 0; right < view.rights().size(); right++) {
      boolean much =
          role.allows(right)
              && (view.rights().isStrongest(right) || !view.rights().contains(right).isEmpty());
      if (much && !isEveryday(view, right)) {
        return true;
      }
    }
    return false;
  }

  private boolean isEveryday(SystemView view, int right) {
    for (Permission everyday : context.rules.everyday()) {
      if (everyday.system().equals(view.id())
          && (everyday.right() == right
              || view.rights().contains(everyday.right()).contains(right))) {
        return true;
      }
    }
    return false;
  }

  private void everywhere(
      SystemView view, int number, Grant grant, int narrow, int all, Consumer<Finding> out) {
    boolean rare = narrow >= context.limits.narrower() && 4 * narrow >= 3 * all;
    RoleInfo role = view.system().roles().get(grant.role());
    boolean wide = view.resources().size() > 1 && context.isWide(view.resources(), grant);
    if (rare && wide && givesMuch(view, role)) {
      Strength strength = context.strength(view, grant);
      out.accept(
          finding(
              FindingKind.UNSCOPED_ASSIGNMENT,
              view,
              number,
              FindingContext.reduced(FindingContext.weight(strength)),
              new GrantDetails.Everywhere(view.number(), grant, strength, narrow, all)));
    }
  }

  private Finding finding(
      FindingKind kind, SystemView view, int number, Weight weight, GrantDetails details) {
    int subject = view.grants().get(number).subject();
    return context.ofGrant(kind, view, number, weight, details, context.subject(subject));
  }
}
