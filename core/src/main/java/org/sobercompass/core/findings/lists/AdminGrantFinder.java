package org.sobercompass.core.findings.lists;

import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.AdminGrantKeys;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Finding.Evidence;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.problem.Problem;
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

  public AdminGrantFinder(FindingContext context) {
    this.context = context;
    this.all = context.assessment.powers().roles().administration();
    this.services = context.services();
  }

  @Override
  public void find(Consumer<Finding> out) {
    long asOf = context.model.asOf().getEpochSecond();
    for (int number = 0; number < all.grants().size(); number++) {
      AdminGrant grant = all.grants().get(number);
      if (grant.on() && grant.until() <= asOf) {
        out.accept(
            of(
                FindingKind.EXPIRED_ASSIGNMENT,
                number,
                Weight.LOW,
                List.of("it gives nothing any more"),
                "this assignment has expired and is still in place: " + words(number),
                "withdraw it, or give it a new end"));
      } else if (grant.on() && grant.subject() < 0) {
        out.accept(missing(number));
      } else if (grant.on()) {
        check(number, grant, out);
      }
    }
  }

  private void check(int number, AdminGrant grant, Consumer<Finding> out) {
    SubjectKind kind = context.facts.kind(grant.subject());
    List<String> why = new ArrayList<>();
    Weight weight = weight(grant, why);
    if (isCovered(number, grant)) {
      out.accept(
          of(
              FindingKind.REDUNDANT_ASSIGNMENT,
              number,
              Weight.LOW,
              List.of("another gives the same actions over the same, as long, to the same"),
              "the assignment of " + words(number) + " changes nothing: others give the same",
              "withdraw it, and look again: of two that cover each other only one may go"));
    }
    if (kind == SubjectKind.ACCOUNT && !services.get(grant.subject())) {
      why.add(0, "it follows the person, not the task");
      out.accept(
          of(
              FindingKind.DIRECT_ASSIGNMENT,
              number,
              weight == Weight.HIGH && grant.scope() < 0 ? Weight.MEDIUM : Weight.LOW,
              why,
              "given to a person instead of a group: " + words(number),
              "give the role to a group of those who do the task, and withdraw this"));
    } else if (kind == SubjectKind.GROUP) {
      group(number, grant, weight, why, out);
    }
    everywhere(number, grant, weight, why, out);
  }

  private void group(
      int number, AdminGrant grant, Weight weight, List<String> why, Consumer<Finding> out) {
    int inside = context.accounts(grant.subject()).cardinality();
    int of = 0;
    for (int account = 0; account < context.facts.accounts(); account++) {
      String source = context.facts.source(grant.subject());
      of += context.facts.source(account).equals(source) ? 1 : 0;
    }
    boolean broad =
        context.rules.broad().contains(grant.subject())
            || (of >= FEW && 100L * inside >= (long) context.limits.broadPercent() * of);
    if (inside == 0 && !context.widest().hasAccount(grant.subject())) {
      out.accept(
          of(
              FindingKind.ASSIGNED_TO_EMPTY_GROUP,
              number,
              Weight.LOW,
              List.of("nobody holds it today"),
              "the group "
                  + Words.subject(context.facts, grant.subject())
                  + " is empty and has the admin role "
                  + role(grant).name()
                  + "; its next member gets it",
              "withdraw it, or put somebody in"));
    } else if (broad && weight != Weight.LOW) {
      List<String> reasons = new ArrayList<>(why);
      reasons.add(inside + " of the " + of + " accounts of its directory");
      out.accept(
          of(
              FindingKind.ASSIGNED_TO_LARGE_GROUP,
              number,
              weight == Weight.HIGH ? Weight.MEDIUM : Weight.LOW,
              reasons,
              "given to a group with "
                  + Words.count(inside, "member", "members")
                  + ": "
                  + words(number),
              "give the role to a group of those who do the task"));
    }
  }

  /** Over everything, while most others have the role over a scope. */
  private void everywhere(
      int number, AdminGrant grant, Weight weight, List<String> why, Consumer<Finding> out) {
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
    if (rare && grant.scope() == AdminGrant.EVERYTHING && role(grant).limitable()) {
      List<String> reasons = new ArrayList<>(why);
      reasons.add(narrow + " of its " + count + " assignments are over a scope");
      out.accept(
          of(
              FindingKind.UNSCOPED_ASSIGNMENT,
              number,
              weight == Weight.HIGH ? Weight.MEDIUM : Weight.LOW,
              reasons,
              "given over everything, while "
                  + narrow
                  + " others have it over a scope only: "
                  + words(number),
              "give it over the scope where it is needed, and withdraw this"));
    }
  }

  private Finding missing(int number) {
    AdminGrant grant = all.grants().get(number);
    return of(
        FindingKind.UNRESOLVED_SUBJECT,
        number,
        Weight.LOW,
        List.of(Words.whoHolds(grant.subject())),
        "the admin role "
            + role(grant).name()
            + " is given to "
            + Problem.quote(grant.subjectText())
            + Words.whoIsMissing(grant.subject()),
        "withdraw the assignment, or correct the name");
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
              && by.on()
              && by.subject() >= 0
              && above.sure().contains(by.subject())
              && (by.scope() == AdminGrant.EVERYTHING || by.scope() == grant.scope())
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

  /** By the strongest action of the role. */
  private Weight weight(AdminGrant grant, List<String> why) {
    int most = 0;
    for (AdminAction action : all.actions()) {
      most = role(grant).actions().contains(action.id()) ? Math.max(most, action.weight()) : most;
    }
    why.add(
        most == 2
            ? "who has it can have the object itself"
            : most == 1 ? "it gives much" : "it gives little");
    return Weight.values()[most];
  }

  /** "the admin role Helper over Joiners to desk-helpers". */
  private String words(int number) {
    AdminGrant grant = all.grants().get(number);
    String whom =
        grant.subject() < 0
            ? Problem.quote(grant.subjectText())
            : Words.subject(context.facts, grant.subject());
    return "the admin role " + role(grant).name() + " over " + all.over(grant) + " to " + whom;
  }

  private Finding of(
      FindingKind kind,
      int number,
      Weight weight,
      List<String> why,
      String sentence,
      String advice) {
    AdminGrant grant = all.grants().get(number);
    List<Key> subjects =
        grant.subject() < 0 ? List.of() : List.of(context.facts.key(grant.subject()));
    return new Finding(
        kind,
        "",
        AdminGrantKeys.of(all, number),
        weight,
        why,
        sentence,
        "",
        subjects,
        List.of(Evidence.of(grant.place() + ": " + words(number) + window(grant))),
        advice,
        List.of(context.assessment.powers().withdrawal(number)));
  }

  private static String window(AdminGrant grant) {
    String from =
        grant.from() == Long.MIN_VALUE ? "" : ", from " + Instant.ofEpochSecond(grant.from());
    return grant.until() == Long.MAX_VALUE
        ? from
        : from + ", before " + Instant.ofEpochSecond(grant.until());
  }
}
