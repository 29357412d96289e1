package org.sobercompass.core.audit;

import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.findings.Found;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.accounts.AccountFinder;
import org.sobercompass.core.findings.accounts.LeaverFinder;
import org.sobercompass.core.findings.accounts.PowerfulFinder;
import org.sobercompass.core.findings.accounts.ReachFinder;
import org.sobercompass.core.findings.accounts.ServiceFinder;
import org.sobercompass.core.findings.accounts.SourceFinder;
import org.sobercompass.core.findings.grants.DriftFinder;
import org.sobercompass.core.findings.grants.GrantFinder;
import org.sobercompass.core.findings.grants.GroupFinder;
import org.sobercompass.core.findings.grants.NestingFinder;
import org.sobercompass.core.findings.grants.PeerFinder;
import org.sobercompass.core.findings.grants.TakenAwayFinder;
import org.sobercompass.core.findings.grants.UsageFinder;
import org.sobercompass.core.findings.grants.WideFinder;
import org.sobercompass.core.findings.lists.AdminGrantFinder;
import org.sobercompass.core.findings.lists.DelegationFinder;
import org.sobercompass.core.findings.lists.DirectoryListFinder;
import org.sobercompass.core.findings.lists.EarlierIdFinder;
import org.sobercompass.core.findings.lists.RemarkFinder;
import org.sobercompass.core.findings.lists.SensitiveFinder;
import org.sobercompass.core.findings.separation.SeparationFinder;
import org.sobercompass.core.key.Key;

/** Finds all that should not be. */
public final class Findings {
  /** A finder, which is made only where one of its kinds is looked for. */
  record Registered(Set<FindingKind> kinds, Function<FindingContext, Finder> maker) {
    /** What is looked for, in words: the first kind, and how many more. */
    private String words() {
      String first = kinds.iterator().next().words();
      int more = kinds.size() - 1;
      return more == 0
          ? first
          : first + " (and " + more + (more == 1 ? " more kind)" : " more kinds)");
    }
  }

  static final List<Registered> FINDERS =
      List.of(
          new Registered(SeparationFinder.KINDS, SeparationFinder::new),
          new Registered(AccountFinder.KINDS, AccountFinder::new),
          new Registered(GrantFinder.KINDS, GrantFinder::new),
          new Registered(DriftFinder.KINDS, DriftFinder::new),
          new Registered(GroupFinder.KINDS, GroupFinder::new),
          new Registered(RemarkFinder.KINDS, RemarkFinder::new),
          new Registered(WideFinder.KINDS, WideFinder::new),
          new Registered(TakenAwayFinder.KINDS, TakenAwayFinder::new),
          new Registered(LeaverFinder.KINDS, LeaverFinder::new),
          new Registered(SensitiveFinder.KINDS, SensitiveFinder::new),
          new Registered(ServiceFinder.KINDS, ServiceFinder::new),
          new Registered(UsageFinder.KINDS, UsageFinder::new),
          new Registered(PeerFinder.KINDS, PeerFinder::new),
          new Registered(NestingFinder.KINDS, NestingFinder::new),
          new Registered(SourceFinder.KINDS, SourceFinder::new),
          new Registered(EarlierIdFinder.KINDS, EarlierIdFinder::new),
          new Registered(PowerfulFinder.KINDS, PowerfulFinder::new),
          new Registered(ReachFinder.KINDS, ReachFinder::new),
          new Registered(AdminGrantFinder.KINDS, AdminGrantFinder::new),
          new Registered(DelegationFinder.KINDS, DelegationFinder::new),
          new Registered(DirectoryListFinder.KINDS, DirectoryListFinder::new));

  private static final int TOLD_AT_A_TIME = 100;

  private Findings() {}

  /** All findings of a model by the usual thresholds and these rules, worst first. */
  public static List<Finding> of(AccessModel model, List<SeparationRule> rules) {
    return of(Assessment.of(model, rules));
  }

  /**
   * All findings, worst first; the same for the same input. O(two sweeps of all accounts). Routes
   * that show a conflict are looked up when what is said of it is asked for; see {@link #lookUp}.
   */
  public static List<Finding> of(Assessment assessment) {
    return of(new FindingContext(assessment), Set.of(FindingKind.values()));
  }

  /** Those of some kinds, and of what the context looks at. */
  static List<Finding> of(FindingContext context, Set<FindingKind> kinds) {
    Assessment assessment = context.assessment;
    FindingRules rules = assessment.rules();
    List<Finding> found = new ArrayList<>();
    Set<Key> absent = absent(assessment.model().facts());
    Consumer<Finding> out =
        finding -> {
          boolean asked = kinds.contains(finding.kind()) && !rules.off().contains(finding.kind());
          if (asked && !isOf(finding, absent)) {
            Weight weight = rules.weights().getOrDefault(finding.kind(), finding.weight());
            found.add(weight == finding.weight() ? finding : finding.weighing(weight));
          }
        };
    for (Registered one : FINDERS) {
      if (!rules.off().containsAll(one.kinds) && !Collections.disjoint(kinds, one.kinds)) {
        assessment.model().progress().begin(one.words());
        one.maker.apply(context).find(out);
      }
    }
    assessment.model().progress().begin("sorting findings");
    found.sort(Finding.WORST_FIRST);
    return List.copyOf(found);
  }

  /**
   * Works out what some findings are about and what shows them, on all processors, where it is
   * going to be asked of all of them; see {@link Found}.
   */
  public static void lookUp(AccessModel model, List<Finding> findings) {
    model.progress().begin("looking up routes");
    model
        .bulk()
        .inChunksOf(TOLD_AT_A_TIME)
        .<Bulk.Range>each(
            findings.size(),
            (asker, range) -> {
              for (Finding finding : findings.subList(range.from(), range.to())) {
                finding.details();
                finding.evidence();
              }
              return range;
            },
            range -> {});
  }

  private static Set<Key> absent(Facts facts) {
    return facts.absent().stream().mapToObj(facts::key).collect(Collectors.toSet());
  }

  /** Whether it is only about subjects that are not there. */
  private static boolean isOf(Finding finding, Set<Key> absent) {
    return !absent.isEmpty()
        && (absent.contains(finding.cause())
            || (!finding.subjects().isEmpty() && absent.containsAll(finding.subjects())));
  }

  /**
   * How many accounts break each separation rule, by themselves or with the other accounts of their
   * person: without causes and evidence, the quickest answer there is. One sweep.
   */
  public static Map<String, Integer> conflicts(Assessment assessment) {
    return new SeparationFinder(new FindingContext(assessment)).counts();
  }

  /**
   * Who breaks which separation rule, without causes and evidence: takes the id of the rule and the
   * accounts of one person that hold something of it. One sweep.
   */
  public static void broken(Assessment assessment, BiConsumer<String, List<Integer>> out) {
    new SeparationFinder(new FindingContext(assessment)).broken(out);
  }

  /** The kinds that are looked for by these rules. */
  public static Set<FindingKind> kinds(FindingRules rules) {
    Set<FindingKind> all = EnumSet.allOf(FindingKind.class);
    all.removeAll(rules.off());
    return all;
  }
}
