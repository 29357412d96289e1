package org.sobercompass.core.findings.grants;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.Usage;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.Strength;
import org.sobercompass.core.findings.details.UseDetails;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;

/**
 * Rights that nobody uses, where there are records of use that reach back far enough: an assignment
 * of which nobody it reaches has used anything, else what single accounts do not use; and roles of
 * which a holder uses a small part.
 */
public final class UsageFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(FindingKind.UNUSED_RIGHTS, FindingKind.RARELY_USED_ROLE);

  private static final long DAY = 86_400;

  private final FindingContext context;
  private final long asOf;
  private final long limit;

  public UsageFinder(FindingContext context) {
    this.context = context;
    this.asOf = context.model.asOf().getEpochSecond();
    this.limit = asOf - context.limits.unusedDays() * DAY;
  }

  /** What one assignment is for those it reaches. */
  private static final class Reached {
    final BitSet all = new BitSet();
    final BitSet unused = new BitSet();
  }

  @Override
  public void find(Consumer<Finding> out) {
    for (SystemView view : context.model.systems()) {
      Optional<Usage.OfSystem> usage = context.rules.usage().of(view.id());
      if (usage.isPresent() && usage.get().since() <= limit && !view.admission().isOpen()) {
        find(view, usage.get(), out);
      }
    }
  }

  private void find(SystemView view, Usage.OfSystem usage, Consumer<Finding> out) {
    Map<Integer, Reached> reached = new TreeMap<>();
    Bulk.route(
        context.asker,
        new Bulk.Range(0, context.facts.accounts()),
        (account, of, subjects) -> {
          if (of.number() == view.number()) {
            account(view, usage, account, reached);
          }
        });
    reached.forEach(
        (number, who) -> {
          if (!who.unused.isEmpty()) {
            out.accept(unused(view, number, who));
          }
        });
    hardly(view, usage, reached, out);
  }

  private void account(
      SystemView view, Usage.OfSystem usage, int account, Map<Integer, Reached> reached) {
    boolean gone =
        context.facts.is(account, Facts.DISABLED) || context.facts.expires(account) <= asOf;
    IntList grants =
        gone ? new IntList() : view.decider().grantsOf(context.asker.token(view, account));
    for (int i = 0; i < grants.size(); i++) {
      Grant grant = view.grants().get(grants.get(i));
      boolean asked =
          FindingContext.isPersonal(context.model, grant, asOf)
              && grant.from() <= limit
              && !rights(view, grant).isEmpty();
      if (asked) {
        Reached who = reached.computeIfAbsent(grants.get(i), g -> new Reached());
        who.all.set(account);
        if (!isUsed(view, usage, account, grant)) {
          who.unused.set(account);
        }
      }
    }
  }

  private boolean isUsed(SystemView view, Usage.OfSystem usage, int account, Grant grant) {
    return usage.role(account, grant.role()).orElse(Long.MIN_VALUE) >= limit
        || rights(view, grant).stream().anyMatch(right -> usedWith(view, usage, account, right));
  }

  /** To use a level is to use those it contains. */
  private boolean usedWith(SystemView view, Usage.OfSystem usage, int account, int right) {
    return usage.right(account, right).orElse(Long.MIN_VALUE) >= limit;
  }

  private static List<Integer> rights(SystemView view, Grant grant) {
    RoleInfo role = view.system().roles().get(grant.role());
    List<Integer> rights = new ArrayList<>();
    for (int right = 0; right < view.rights().size(); right++) {
      if (role.allows(right)) {
        rights.add(right);
      }
    }
    return rights;
  }

  private Finding unused(SystemView view, int number, Reached who) {
    Grant grant = view.grants().get(number);
    Strength strength = context.strength(view, grant);
    int all = who.all.cardinality();
    int unused = who.unused.cardinality();
    boolean nobody = unused == all;
    List<Evidence> evidence = new ArrayList<>();
    evidence.add(FindingContext.assigned(view, grant));
    if (!nobody) {
      who.unused.stream()
          .limit(FindingContext.LISTED)
          .mapToObj(Evidence.NotUsedBy::new)
          .forEach(evidence::add);
    }
    var given = List.of(new Remedy.Ungiven.Given(view.number(), number));
    return context.finding(
        FindingKind.UNUSED_RIGHTS,
        "",
        context.grantKey(view, grant),
        nobody ? FindingContext.reduced(FindingContext.weight(strength)) : Weight.LOW,
        new UseDetails.Unused(
            view.number(), grant, strength, all, unused, context.limits.unusedDays()),
        evidence,
        view.id(),
        context.keys(who.unused),
        nobody
            ? new Remedy.Made(context.removal(view, number))
            : new Remedy.Ungiven(who.unused.stream().boxed().toList(), given));
  }

  /** Roles of which an account uses some, but less than the share that is asked. */
  private void hardly(
      SystemView view, Usage.OfSystem usage, Map<Integer, Reached> reached, Consumer<Finding> out) {
    Map<Integer, BitSet> told = new HashMap<>();
    reached.forEach(
        (number, who) ->
            who.all.stream()
                .filter(account -> !who.unused.get(account))
                .forEach(
                    account -> {
                      Grant grant = view.grants().get(number);
                      List<Integer> rights = rights(view, grant);
                      long used =
                          rights.stream().filter(r -> covers(view, usage, account, r)).count();
                      boolean few =
                          used > 0
                              && 100L * used < (long) context.limits.usedPercent() * rights.size();
                      BitSet of = told.computeIfAbsent(grant.role(), r -> new BitSet());
                      if (few && !of.get(account)) {
                        of.set(account);
                        out.accept(hardly(view, grant, account, (int) used, rights.size(), usage));
                      }
                    }));
  }

  /** Used itself, or by a level above it that the role gives too. */
  private boolean covers(SystemView view, Usage.OfSystem usage, int account, int right) {
    for (int other = 0; other < view.rights().size(); other++) {
      boolean above = other == right || view.rights().contains(other).contains(right);
      if (above && usage.right(account, other).orElse(Long.MIN_VALUE) >= limit) {
        return true;
      }
    }
    return false;
  }

  private Finding hardly(
      SystemView view, Grant grant, int account, int used, int all, Usage.OfSystem usage) {
    RoleInfo role = view.system().roles().get(grant.role());
    List<Integer> usedRights = new ArrayList<>();
    for (int right = 0; right < view.rights().size(); right++) {
      if (role.allows(right) && usage.right(account, right).orElse(Long.MIN_VALUE) >= limit) {
        usedRights.add(right);
      }
    }
    return context.decision(
        FindingKind.RARELY_USED_ROLE,
        view.id() + "/" + role.id(),
        context.facts.key(account),
        Weight.LOW,
        new UseDetails.HardlyUsed(
            view.number(),
            grant.role(),
            account,
            used,
            all,
            context.limits.unusedDays(),
            context.limits.usedPercent()),
        List.of(FindingContext.assigned(view, grant), new Evidence.Used(view.number(), usedRights)),
        view.id(),
        List.of(context.facts.key(account)));
  }
}
