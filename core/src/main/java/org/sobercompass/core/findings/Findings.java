package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.AccessModel;

/** Finds all that should not be. */
public final class Findings {
  private static final Set<FindingKind> LEAVERS =
      EnumSet.of(FindingKind.OTHER_ACCOUNT_WORKS, FindingKind.LOCAL_ACCOUNT_OF_NOBODY);
  private static final Set<FindingKind> SEPARATION =
      EnumSet.of(
          FindingKind.DUTIES_NOT_SEPARATED,
          FindingKind.DUTIES_MAY_MEET,
          FindingKind.ROLE_AGAINST_RULE);
  private static final Set<FindingKind> ACCOUNTS =
      EnumSet.of(
          FindingKind.RIGHT_OF_DISABLED_ACCOUNT,
          FindingKind.RIGHT_OF_EXPIRED_ACCOUNT,
          FindingKind.RIGHT_OF_LOCKED_ACCOUNT,
          FindingKind.RIGHT_OF_SLEEPING_ACCOUNT);
  private static final Set<FindingKind> GRANTS =
      EnumSet.of(
          FindingKind.NO_SIGN_IN,
          FindingKind.GIVEN_TO_EVERYONE,
          FindingKind.GIVEN_TO_PERSON,
          FindingKind.GIVEN_TO_MISSING,
          FindingKind.REDUNDANT);
  private static final Set<FindingKind> DRIFT =
      EnumSet.of(
          FindingKind.INTENDED_NOT_ACTUAL,
          FindingKind.ACTUAL_NOT_INTENDED,
          FindingKind.DIFFERS_FROM_INTENDED);
  private static final Set<FindingKind> WIDE =
      EnumSet.of(
          FindingKind.ASSIGNMENT_OVER,
          FindingKind.GIVEN_TO_BROAD_GROUP,
          FindingKind.GIVEN_TO_EMPTY_GROUP,
          FindingKind.GIVEN_EVERYWHERE);

  private Findings() {}

  /** A finder that is left out when all its kinds are off; without kinds it never is. */
  private record Finder(Set<FindingKind> kinds, Consumer<Consumer<Finding>> find) {}

  /** All findings of a model by the usual thresholds and these rules, worst first. */
  public static List<Finding> of(AccessModel model, List<SeparationRule> rules) {
    return of(Assessment.of(model, rules));
  }

  /**
   * All findings, worst first; the same for the same input. O(two sweeps of all accounts, and
   * evidence for each finding).
   */
  public static List<Finding> of(Assessment assessment) {
    FindingContext context = new FindingContext(assessment);
    FindingRules rules = assessment.rules();
    List<Finding> found = new ArrayList<>();
    Consumer<Finding> out =
        finding -> {
          if (!rules.off().contains(finding.kind())) {
            Weight weight = rules.weights().getOrDefault(finding.kind(), finding.weight());
            found.add(weight == finding.weight() ? finding : finding.weighing(weight));
          }
        };
    List<Finder> finders =
        List.of(
            new Finder(SEPARATION, o -> new SeparationFinder(context).find(o)),
            new Finder(ACCOUNTS, o -> new AccountFinder(context).find(o)),
            new Finder(GRANTS, o -> new GrantFinder(context).find(o)),
            new Finder(DRIFT, o -> new DriftFinder(context).find(o)),
            new Finder(Set.of(), o -> new GroupFinder(context).find(o)),
            new Finder(Set.of(), o -> new RemarkFinder(context).find(o)),
            new Finder(WIDE, o -> new WideFinder(context).find(o)),
            new Finder(
                Set.of(FindingKind.GRANT_TAKES_AWAY), o -> new TakenAwayFinder(context).find(o)),
            new Finder(LEAVERS, o -> new LeaverFinder(context).find(o)),
            new Finder(
                Set.of(FindingKind.READABLE_BY_EVERYONE),
                o -> new SensitiveFinder(context).find(o)),
            new Finder(Set.of(), o -> new ServiceFinder(context).find(o)),
            new Finder(Set.of(), o -> new UsageFinder(context).find(o)),
            new Finder(Set.of(), o -> new PeerFinder(context).find(o)),
            new Finder(Set.of(FindingKind.DEEP_NESTING), o -> new NestingFinder(context).find(o)),
            new Finder(Set.of(), o -> new SourceFinder(context).find(o)),
            new Finder(Set.of(), o -> new EarlierIdFinder(context).find(o)),
            new Finder(Set.of(), o -> ofPowers(context, o)),
            new Finder(Set.of(), o -> new AdminGrantFinder(context).find(o)),
            new Finder(Set.of(), o -> new DelegationFinder(context).find(o)),
            new Finder(Set.of(), o -> new DirectoryListFinder(context).find(o)));
    for (Finder finder : finders) {
      if (finder.kinds.isEmpty() || !rules.off().containsAll(finder.kinds)) {
        finder.find.accept(out);
      }
    }
    found.sort(Finding.WORST_FIRST);
    return List.copyOf(found);
  }

  private static void ofPowers(FindingContext context, Consumer<Finding> out) {
    PowerfulAccounts powerful = new PowerfulAccounts(context);
    new PowerfulFinder(context, powerful).find(out);
    new ReachFinder(context, powerful).find(out);
  }

  /**
   * How many accounts break each separation rule, by themselves or with the other accounts of their
   * person: without causes and evidence, the quickest answer there is. One sweep.
   */
  public static Map<String, Integer> conflicts(Assessment assessment) {
    return new SeparationFinder(new FindingContext(assessment)).counts();
  }

  /** The kinds that are looked for by these rules. */
  public static Set<FindingKind> kinds(FindingRules rules) {
    Set<FindingKind> all = EnumSet.allOf(FindingKind.class);
    all.removeAll(rules.off());
    return all;
  }
}
