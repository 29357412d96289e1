package org.sobercompass.core.audit;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.Usage;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;

/**
 * How well the roles of an application fit those who have them: holders who use a small part,
 * assignments to accounts that a group would replace, roles that always come together. Worst first.
 * O(assignments + groups x members). Not thread-safe.
 */
public final class RoleFit {
  private static final long DAY = 86_400;

  private final FindingContext context;

  /** Over a model and its rules; what is unused needs records of use. */
  public RoleFit(Assessment assessment) {
    this.context = new FindingContext(assessment);
  }

  /**
   * One thing that does not fit.
   *
   * @param kind {@code small part}, {@code group instead} or {@code always together}
   * @param what in a sentence
   * @param better what would fit better
   * @param saves how many assignments or permissions it would save
   */
  public record Fit(String kind, String what, String better, int saves) {}

  /** All that does not fit in one application, what saves most first. */
  public List<Fit> of(SystemView view) {
    List<Fit> found = new ArrayList<>();
    if (!view.assigned().isEmpty() && !view.admission().isOpen()) {
      context.rules.usage().of(view.id()).ifPresent(usage -> small(view, usage, found));
      groups(view, found);
      together(view, found);
    }
    found.sort(Comparator.comparingInt(Fit::saves).reversed().thenComparing(Fit::what));
    return List.copyOf(found);
  }

  private boolean isActive(Grant grant) {
    return grant.subject() >= 0 && grant.activeAt(context.model.asOf().getEpochSecond());
  }

  private BitSet accounts(SystemView view, int subject) {
    BitSet accounts = new BitSet();
    if (context.facts.kind(subject) == SubjectKind.IMPLICIT) {
      return accounts;
    }
    IntList found = new IntList();
    view.memberships().walker().accounts(subject, found);
    for (int i = 0; i < found.size(); i++) {
      accounts.set(found.get(i));
    }
    return accounts;
  }

  private Map<Integer, BitSet> holders(SystemView view) {
    Map<Integer, BitSet> holders = new TreeMap<>();
    for (Grant grant : view.grants()) {
      if (isActive(grant)) {
        holders
            .computeIfAbsent(grant.role(), r -> new BitSet())
            .or(accounts(view, grant.subject()));
      }
    }
    return holders;
  }

  /** Holders who use less than the share that the rules ask, and the least role that would do. */
  private void small(SystemView view, Usage.OfSystem usage, List<Fit> found) {
    long limit = context.model.asOf().getEpochSecond() - context.limits.unusedDays() * DAY;
    holders(view)
        .forEach(
            (role, accounts) ->
                accounts.stream().forEach(a -> small(view, usage, role, a, limit, found)));
  }

  private void small(
      SystemView view, Usage.OfSystem usage, int role, int account, long limit, List<Fit> found) {
    RoleInfo info = view.system().roles().get(role);
    List<Integer> all = new ArrayList<>();
    List<Integer> used = new ArrayList<>();
    for (int right = 0; right < view.rights().size(); right++) {
      if (info.allows(right)) {
        all.add(right);
        if (usage.right(account, right).orElse(Long.MIN_VALUE) >= limit) {
          used.add(right);
          used.addAll(view.rights().contains(right));
        }
      }
    }
    int count = (int) used.stream().distinct().filter(all::contains).count();
    if (count > 0 && 100L * count < (long) context.limits.usedPercent() * all.size()) {
      Optional<RoleInfo> less = least(view, used, all.size());
      found.add(
          new Fit(
              "small part",
              Words.subject(context.facts, account)
                  + " uses "
                  + count
                  + " of the "
                  + all.size()
                  + " permissions of "
                  + info.name(),
              less.map(r -> "the role " + r.name() + " would do")
                  .orElse("no smaller role would do"),
              all.size() - count));
    }
  }

  /** The role with fewest permissions that has all that is used. */
  private static Optional<RoleInfo> least(SystemView view, List<Integer> used, int below) {
    return view.system().roles().stream()
        .filter(role -> used.stream().allMatch(role::allows))
        .filter(role -> size(view, role) < below)
        .min(Comparator.comparingInt((RoleInfo role) -> size(view, role)));
  }

  private static int size(SystemView view, RoleInfo role) {
    int size = 0;
    for (int right = 0; right < view.rights().size(); right++) {
      size += role.allows(right) ? 1 : 0;
    }
    return size;
  }

  /** Assignments to accounts: a group that has the same, or whose members all have it. */
  private void groups(SystemView view, List<Fit> found) {
    Map<String, List<Grant>> direct = new TreeMap<>();
    Map<String, Grant> given = new HashMap<>();
    for (Grant grant : view.grants()) {
      if (isActive(grant) && !grant.declared()) {
        String what = grant.role() + " " + grant.resource() + " " + grant.descends();
        if (context.facts.kind(grant.subject()) == SubjectKind.ACCOUNT) {
          direct.computeIfAbsent(what, w -> new ArrayList<>()).add(grant);
        } else if (context.facts.kind(grant.subject()) == SubjectKind.GROUP) {
          given.putIfAbsent(what, grant);
        }
      }
    }
    direct.forEach((what, grants) -> direct(view, grants, given.get(what), found));
  }

  private void direct(
      SystemView view,
      List<Grant> grants,
      @org.jspecify.annotations.Nullable Grant same,
      List<Fit> found) {
    String what =
        "the role "
            + view.system().roles().get(grants.get(0).role()).name()
            + " is given to "
            + (grants.size() == 1
                ? Words.subject(context.facts, grants.get(0).subject())
                : grants.size() + " accounts one by one")
            + " at "
            + view.resources().id(grants.get(0).resource());
    if (same != null) {
      found.add(
          new Fit(
              "group instead",
              what,
              Words.subject(context.facts, same.subject()) + " is given the same: put them into it",
              grants.size()));
      return;
    }
    byGroup(view, grants, what, found);
  }

  /** A group of which all members are given something one by one. */
  private void byGroup(SystemView view, List<Grant> grants, String what, List<Fit> found) {
    BitSet accounts = new BitSet();
    grants.forEach(grant -> accounts.set(grant.subject()));
    int best = -1;
    int most = 1;
    int first = context.facts.firstGroup();
    for (int group = first; group < first + context.facts.groups(); group++) {
      BitSet members = accounts(view, group);
      BitSet outside = (BitSet) members.clone();
      outside.andNot(accounts);
      if (outside.isEmpty() && members.cardinality() > most) {
        best = group;
        most = members.cardinality();
      }
    }
    if (best >= 0) {
      found.add(
          new Fit(
              "group instead",
              what,
              "all "
                  + most
                  + " members of "
                  + Words.subject(context.facts, best)
                  + " have it: give it to the group",
              most - 1));
    }
  }

  /** Pairs of roles that exactly the same accounts hold. */
  private void together(SystemView view, List<Fit> found) {
    List<Map.Entry<Integer, BitSet>> all = new ArrayList<>(holders(view).entrySet());
    for (int a = 0; a < all.size(); a++) {
      for (int b = a + 1; b < all.size(); b++) {
        BitSet holders = all.get(a).getValue();
        if (holders.cardinality() > 1 && holders.equals(all.get(b).getValue())) {
          RoleInfo one = view.system().roles().get(all.get(a).getKey());
          RoleInfo other = view.system().roles().get(all.get(b).getKey());
          found.add(
              new Fit(
                  "always together",
                  "the same "
                      + holders.cardinality()
                      + " accounts hold "
                      + one.name()
                      + " and "
                      + other.name(),
                  "one role with both would do",
                  1));
        }
      }
    }
  }
}
