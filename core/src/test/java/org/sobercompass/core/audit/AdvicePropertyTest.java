package org.sobercompass.core.audit;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.SeparationRule.Where;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.Side.RoleHeld;
import org.sobercompass.core.findings.Thresholds;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.reference.SmallWorld;
import org.sobercompass.core.removal.Effects.Effect;

/**
 * All findings of random organizations: what is advised is carried out on the model, all is found
 * again, and each account is asked about each right at each node before and after.
 */
class AdvicePropertyTest {
  private final Map<FindingKind, Integer> ended = new TreeMap<>();
  private int gave;

  /** The thresholds so low that what hardly occurs among five accounts is found. */
  private static Assessment assessment(AccessModel model, long seed) {
    SystemView view = model.systems().get(0);
    int rights = view.rights().size();
    SeparationRule rights2 =
        rule(
            "rights",
            List.of(
                List.of(new Permission(view.id(), (int) (seed % rights))),
                List.of(new Permission(view.id(), (int) ((seed * 5 + 2) % rights))),
                List.of(new Permission(view.id(), (int) ((seed * 3 + 7) % rights)))),
            Where.values()[(int) (seed % 3)]);
    SeparationRule roles =
        rule(
            "roles",
            List.of(
                List.of(new RoleHeld(view.id(), 0)),
                List.of(new RoleHeld(view.id(), 1), new RoleHeld(view.id(), 3))),
            Where.ANYWHERE);
    Assessment plain = Assessment.of(model, List.of(rights2, roles));
    Thresholds low = new Thresholds(40, 1, 90, 1, 90, 25, 180, 2, 40);
    FindingRules rules =
        plain.rules().toBuilder()
            .thresholds(low)
            .broad(Set.of(model.facts().firstGroup()))
            .powerful(List.of(new Permission(view.id(), rights - 1)))
            .services(Set.of(0))
            .owners(Set.of("applications", "groups"))
            .blockingRoles(true)
            .build();
    return new Assessment(
        model,
        rules,
        plain.persons(),
        plain.powers(),
        plain.owned(),
        plain.readers(),
        plain.accepted());
  }

  private static SeparationRule rule(String id, List<List<Side>> sides, Where where) {
    return new SeparationRule(
        id, id, sides, 2, where, false, List.of(), Weight.HIGH, Place.of("test"));
  }

  @ParameterizedTest
  @ValueSource(longs = {0, 1000, 2000})
  void whatIsAdvisedEndsItAndEndsAndGivesJustWhatItSays(long from) {
    for (long seed = from; seed < from + 150; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      Assessment assessment = assessment(model, seed);
      Set<String> keys = new HashSet<>();
      for (Finding finding : Findings.of(assessment)) {
        String what = "seed " + seed + " " + finding.key();
        assertThat(keys.add(finding.key().text())).as(what + " stands once").isTrue();
        assertThat(finding.details()).as(what).isNotNull();
        carriedOut(assessment, finding, what);
      }
    }
    assertThat(ended.keySet())
        .containsAll(
            EnumSet.of(
                FindingKind.SEPARATION_OF_DUTIES,
                FindingKind.ASSIGNED_TO_EVERYONE,
                FindingKind.DIRECT_ASSIGNMENT,
                FindingKind.UNRESOLVED_SUBJECT,
                FindingKind.ASSIGNED_TO_EMPTY_GROUP,
                FindingKind.ASSIGNED_TO_LARGE_GROUP,
                FindingKind.UNSCOPED_ASSIGNMENT,
                FindingKind.REDUNDANT_ASSIGNMENT,
                FindingKind.EXPIRED_ASSIGNMENT,
                FindingKind.ASSIGNMENT_REMOVES_RIGHTS,
                FindingKind.SERVICE_ACCOUNT_EXCESS,
                FindingKind.CIRCULAR_NESTING,
                FindingKind.DISABLED_ACCOUNT));
    assertThat(gave).isGreaterThan(10);
  }

  private void carriedOut(Assessment assessment, Finding finding, String what) {
    Advice advice = Advice.of(assessment, finding);
    if (advice.changes().isEmpty()) {
      return;
    }
    ended.merge(finding.kind(), 1, Integer::sum);
    gave += advice.effects().gives().size();
    Assessment after = assessment.with(advice.changes());
    assertThat(Findings.of(after))
        .as(what + " ends by " + advice.changes())
        .noneMatch(other -> other.key().equals(finding.key()));
    assertThat(told(assessment.model(), advice))
        .as(what + " by " + advice.changes())
        .isEqualTo(differing(assessment.model(), after.model()));
    if (finding.kind() == FindingKind.REDUNDANT_ASSIGNMENT) {
      assertThat(advice.changesNothing()).as(what + advice.effects()).isTrue();
    }
  }

  /** Accounts and rights of which something is told, with whether it is more or less. */
  private static Set<String> told(AccessModel model, Advice advice) {
    Set<String> all = new TreeSet<>();
    for (Effect effect : advice.effects().ends()) {
      all.add("ends " + effect.account() + " " + effect.right());
    }
    for (Effect effect : advice.effects().gives()) {
      all.add("gives " + effect.account() + " " + effect.right());
    }
    assertThat(model.systems()).hasSize(1);
    return all;
  }

  private static Set<String> differing(AccessModel before, AccessModel after) {
    Set<String> all = new TreeSet<>();
    Asker then = before.asker();
    Asker now = after.asker();
    SystemView view = before.systems().get(0);
    SystemView viewNow = after.systems().get(0);
    for (int account = 0; account < before.facts().accounts(); account++) {
      for (int right = 0; right < view.rights().size(); right++) {
        for (int node = 0; node < view.resources().size(); node++) {
          int was = rank(then.can(view, account, right, node));
          int is = rank(now.can(viewNow, account, right, node));
          Optional<String> word =
              was == is ? Optional.empty() : Optional.of(is < was ? "ends " : "gives ");
          String of = account + " " + right;
          word.ifPresent(w -> all.add(w + of));
        }
      }
    }
    return all;
  }

  /** Not held, held and blocked, not known, usable. */
  private static int rank(Can can) {
    return switch (can.held()) {
      case NO -> 0;
      case UNDECIDED, YES ->
          switch (can.verdict()) {
            case NO -> 1;
            case UNDECIDED -> 2;
            case YES -> 3;
          };
    };
  }
}
