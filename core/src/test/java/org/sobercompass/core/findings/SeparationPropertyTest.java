package org.sobercompass.core.findings;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.SeparationRule.Where;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.reference.SmallWorld;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.system.Verdict;

/** Separation of duties on random organizations against asking one by one. */
class SeparationPropertyTest {
  private int conflicts;
  private int ended;

  private static SeparationRule rule(SystemView view, int seed, Where where) {
    int one = seed % view.rights().size();
    int other = (seed * 7 + 3) % view.rights().size();
    return new SeparationRule(
        "r",
        "r",
        List.of(List.of(new Permission(view.id(), one)), List.of(new Permission(view.id(), other))),
        2,
        where,
        true,
        List.of(),
        Weight.HIGH,
        Place.of("test"));
  }

  @Test
  void conflictsAreThoseThatAskingOneByOneFindsAndAdviceEndsThem() {
    for (int seed = 0; seed < 300; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      SystemView view = model.systems().get(0);
      for (Where where : Where.values()) {
        SeparationRule rule = rule(view, seed, where);
        Judged judged = Judged.of(model, List.of(rule));
        TreeSet<String> found = new TreeSet<>();
        for (Finding finding : Findings.of(judged)) {
          if (finding.kind() == FindingKind.DUTIES_NOT_SEPARATED) {
            finding.subjects().stream().map(Key::text).forEach(found::add);
            advised(judged, finding);
          }
        }
        assertThat(found).as("seed %d %s", seed, where).isEqualTo(naive(model, rule));
        conflicts += found.size();
        int counted =
            Findings.conflicts(judged).values().stream().mapToInt(Integer::intValue).sum();
        assertThat(counted).isEqualTo(found.size());
      }
    }
    assertThat(conflicts).isGreaterThan(300);
    assertThat(ended).isGreaterThan(100);
  }

  private void advised(Judged judged, Finding finding) {
    Advice advice = Advice.of(judged, finding);
    if (advice.result().orElseThrow() == Removal.Result.NONE_ENDS_IT) {
      return;
    }
    ended++;
    Judged after = judged.with(judged.model().with(advice.changes()));
    assertThat(Findings.of(after)).noneMatch(f -> f.key().equals(finding.key()));
  }

  /** All accounts, all pairs of nodes, one question at a time. */
  private static TreeSet<String> naive(AccessModel model, SeparationRule rule) {
    SystemView view = model.systems().get(0);
    Facts facts = model.facts();
    Asker asker = model.asker();
    int one = ((Permission) rule.sides().get(0).get(0)).right();
    int other = ((Permission) rule.sides().get(1).get(0)).right();
    TreeSet<String> found = new TreeSet<>();
    int nodes = view.resources().size();
    for (int account = 0; account < facts.accounts(); account++) {
      for (int a = 0; a < nodes; a++) {
        for (int b = 0; b < nodes; b++) {
          boolean near =
              switch (rule.where()) {
                case ANYWHERE -> true;
                case SAME_NODE -> a == b;
                case OVERLAPPING -> view.resources().covers(a, b) || view.resources().covers(b, a);
              };
          if (near
              && asker.can(view, account, one, a).verdict() == Verdict.YES
              && asker.can(view, account, other, b).verdict() == Verdict.YES) {
            found.add(facts.key(account).text());
          }
        }
      }
    }
    return found;
  }
}
