package org.sobercompass.core.findings.lists;

import java.util.BitSet;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.AdminGrantKeys;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.AdminGrantDetails;
import org.sobercompass.core.findings.details.AdminGrantDetails.Assigned;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRole;

/**
 * Assignments of admin roles that are wider than they need be, or lead nowhere: what is found of
 * assignments in applications is found of these too.
 */
public final class AdminGrantFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(
          FindingKind.UNSCOPED_ASSIGNMENT,
          FindingKind.ASSIGNED_TO_LARGE_GROUP,
          FindingKind.ASSIGNED_TO_EMPTY_GROUP,
          FindingKind.DIRECT_ASSIGNMENT,
          FindingKind.UNRESOLVED_SUBJECT,
          FindingKind.EXPIRED_ASSIGNMENT,
          FindingKind.REDUNDANT_ASSIGNMENT);

  private static final int FEW = 10;

  private final FindingContext context;
  private final Administration all;
  private final BitSet services;

  /** How many accounts each directory has. */
  private final int[] bySource;

  /** How many accounts are in each group that a role is given to. */
  private final Map<Integer, Integer> insides = new HashMap<>();

  public AdminGrantFinder(FindingContext context) {
    this.context = context;
    this.all = context.assessment.powers().roles().administration();
    this.services = context.services();
    this.bySource = new int[context.facts.arrays().sources().size()];
    for (int account = 0; account < context.facts.accounts(); account++) {
      bySource[context.facts.arrays().source()[account]]++;
    }
  }

  @Override
  public void find(Consumer<Finding> out) {
    long asOf = context.model.asOf().getEpochSecond();
    for (int number = 0; number < all.grants().size(); number++) {
      AdminGrant grant = all.grants().get(number);
      if (grant.on() && grant.until() <= asOf) {
        AdminGrantDetails details = new AdminGrantDetails.Expired(assigned(grant));
        out.accept(of(FindingKind.EXPIRED_ASSIGNMENT, number, Weight.LOW, details));
      } else if (grant.on() && grant.subject() < 0) {
        AdminGrantDetails details = new AdminGrantDetails.MissingSubject(assigned(grant));
        out.accept(of(FindingKind.UNRESOLVED_SUBJECT, number, Weight.LOW, details));
      } else if (grant.on()) {
        check(number, grant, out);
      }
    }
  }

  private void check(int number, AdminGrant grant, Consumer<Finding> out) {
    SubjectKind kind = context.facts.kind(grant.subject());
    Assigned what = assigned(grant);
    Weight weight = Weight.values()[what.strongest()];
    if (isCovered(number, grant)) {
      AdminGrantDetails details = new AdminGrantDetails.Redundant(what);
      out.accept(of(FindingKind.REDUNDANT_ASSIGNMENT, number, Weight.LOW, details));
    }
    if (kind == SubjectKind.ACCOUNT && !services.get(grant.subject())) {
      Weight own = grant.scope() < 0 ? FindingContext.reduced(weight) : Weight.LOW;
      AdminGrantDetails details = new AdminGrantDetails.ToPerson(what);
      out.accept(of(FindingKind.DIRECT_ASSIGNMENT, number, own, details));
    } else if (kind == SubjectKind.GROUP) {
      group(number, grant, what, out);
    }
    everywhere(number, grant, what, out);
  }

  private void group(int number, AdminGrant grant, Assigned what, Consumer<Finding> out) {
    int inside = inside(grant.subject());
    int of = bySource[context.facts.arrays().source()[grant.subject()]];
    boolean broad =
        context.rules.broad().contains(grant.subject())
            || (of >= FEW && 100L * inside >= (long) context.limits.broadPercent() * of);
    if (inside == 0 && !context.widest().hasAccount(grant.subject())) {
      AdminGrantDetails details = new AdminGrantDetails.ToEmptyGroup(what);
      out.accept(of(FindingKind.ASSIGNED_TO_EMPTY_GROUP, number, Weight.LOW, details));
    } else if (broad && what.strongest() > 0) {
      Weight weight = FindingContext.reduced(Weight.values()[what.strongest()]);
      AdminGrantDetails details = new AdminGrantDetails.ToMany(what, inside, of);
      out.accept(of(FindingKind.ASSIGNED_TO_LARGE_GROUP, number, weight, details));
    }
  }

  private int inside(int group) {
    return insides.computeIfAbsent(group, g -> context.accounts(g).cardinality());
  }

  /** Over everything, while most others have the role over a scope. */
  private void everywhere(int number, AdminGrant grant, Assigned what, Consumer<Finding> out) {
    if (grant.scope() != AdminGrant.EVERYTHING) {
      return;
    }
    long asOf = context.model.asOf().getEpochSecond();
    int narrow = 0;
    int count = 0;
    for (AdminGrant other : all.grants()) {
      if (other.role() == grant.role() && other.activeAt(asOf) && other.subject() >= 0) {
        count++;
        narrow += other.scope() == AdminGrant.EVERYTHING ? 0 : 1;
      }
    }
    boolean rare = narrow >= context.limits.narrower() && 4 * narrow >= 3 * count;
    if (rare && role(grant).limitable()) {
      Weight weight = FindingContext.reduced(Weight.values()[what.strongest()]);
      AdminGrantDetails details = new AdminGrantDetails.Everywhere(what, narrow, count);
      out.accept(of(FindingKind.UNSCOPED_ASSIGNMENT, number, weight, details));
    }
  }

  /**
   * Whether another gives at least as much over at least as much, to the same and more, as long.
   */
  private boolean isCovered(int number, AdminGrant grant) {
    long asOf = context.model.asOf().getEpochSecond();
    SubjectSet above = new SubjectSet();
    context.widest().subjects(grant.subject(), above);
    for (int other = 0; other < all.grants().size(); other++) {
      AdminGrant by = all.grants().get(other);
      boolean covers =
          other != number
              && (by.scope() == AdminGrant.EVERYTHING || by.scope() == grant.scope())
              && by.on()
              && by.subject() >= 0
              && above.sure().contains(by.subject())
              && by.from() <= Math.max(asOf, grant.from())
              && by.until() >= grant.until()
              && role(by).actions().containsAll(role(grant).actions());
      if (covers) {
        return true;
      }
    }
    return false;
  }

  private AdminRole role(AdminGrant grant) {
    return all.roles().get(grant.role());
  }

  /** What is said of an assignment; how much it gives by the strongest action of the role. */
  private Assigned assigned(AdminGrant grant) {
    int most = 0;
    for (AdminAction action : all.actions()) {
      most = role(grant).actions().contains(action.id()) ? Math.max(most, action.weight()) : most;
    }
    return new Assigned(
        role(grant).name(), all.over(grant), grant.subject(), grant.subjectText(), most);
  }

  private Finding of(FindingKind kind, int number, Weight weight, AdminGrantDetails details) {
    AdminGrant grant = all.grants().get(number);
    Evidence where =
        new Evidence.AdminAssigned(
            details.what(), grant.place().toString(), grant.from(), grant.until());
    return context.finding(
        kind,
        "",
        AdminGrantKeys.of(all, number),
        weight,
        details,
        List.of(where),
        "",
        context.subject(grant.subject()),
        new Remedy.Made(List.of(context.assessment.powers().withdrawal(number))));
  }
}
