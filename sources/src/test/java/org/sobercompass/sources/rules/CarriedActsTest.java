package org.sobercompass.sources.rules;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.audit.ActsOfPersons.Act;
import org.sobercompass.core.carry.Carry;
import org.sobercompass.core.carry.CarryPlan;
import org.sobercompass.core.carry.LossAndGain;
import org.sobercompass.core.carry.LossAndGain.Outcome;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.system.Change;

/** Admin actions among what each person loses and gains when rights are carried over. */
class CarriedActsTest {
  @TempDir Path root;
  private SmallWorkspace world;

  @BeforeEach
  void people() {
    world = new SmallWorkspace(root).account("ann").account("bo").account("cy").account("di");
    world.group("crew", "bo").given("reader,group,crew,top,,,");
    world
        .rules("admin: admin.yaml")
        .file(
            "admin.yaml",
            "scopes:\n  s: {include: [{account: cy}]}\n"
                + "roles:\n  desk: {actions: [set-password, unlock]}\n"
                + "  key: {actions: [unlock]}\nassignments: admin.csv\n")
        .file(
            "admin.csv",
            "role,kind,subject,scope,from,until,on\ndesk,account,ann,s,,,\nkey,account,bo,s,,,\n");
  }

  private LossAndGain carried(CarryPlan plan, boolean made) {
    Assessment assessment = world.assessment();
    Facts facts = assessment.model().facts();
    int ann = account(facts, "ann");
    int bo = account(facts, "bo");
    Map<Integer, Integer> pairs = Map.of(ann, bo);
    List<Change> changes =
        made
            ? new Carry(assessment.model(), pairs, plan)
                .make()
                .proposal("")
                .on(assessment.model())
                .changes()
            : List.of();
    return LossAndGain.of(assessment, pairs, changes);
  }

  private static int account(Facts facts, String login) {
    int account = 0;
    while (!facts.login(account).equals(login)) {
      account++;
    }
    return account;
  }

  private static List<String> acts(LossAndGain result) {
    return result.persons().get(0).acts().stream()
        .map(act -> act.action() + " " + act.label() + " " + Outcome.of(act) + ranks(act))
        .toList();
  }

  private static String ranks(Act act) {
    return " " + act.old() + act.before() + act.after();
  }

  @Test
  void whatTheOldAccountCouldAdministerIsLessUntilItIsCarried() {
    LossAndGain nothing = carried(CarryPlan.USUAL, false);
    assertThat(nothing.allActs()).isTrue();
    assertThat(acts(nothing))
        .containsExactlyInAnyOrder("set-password cy LESS 300", "unlock cy EQUAL 333");
    assertThat(nothing.persons().get(0).count(Outcome.LESS)).isEqualTo(1);
    assertThat(nothing.persons().get(0).isEqual()).isFalse();
  }

  @Test
  void carriedItComesOutEqual() {
    LossAndGain result = carried(CarryPlan.USUAL, true);
    assertThat(acts(result))
        .containsExactlyInAnyOrder("set-password cy EQUAL 303", "unlock cy EQUAL 333");
    assertThat(result.persons().get(0).isEqual()).isTrue();
    assertThat(result.isNobodyElse()).isTrue();
  }

  @Test
  void whoElseCanAdministerSomethingIsSaid() {
    Assessment assessment = world.assessment();
    Facts facts = assessment.model().facts();
    Map<Integer, Integer> pairs = Map.of(account(facts, "ann"), account(facts, "di"));
    List<Change> changes =
        new Carry(
                assessment.model(),
                Map.of(account(facts, "ann"), account(facts, "bo")),
                CarryPlan.USUAL)
            .make()
            .proposal("")
            .on(assessment.model())
            .changes();
    LossAndGain result = LossAndGain.of(assessment, pairs, changes);
    assertThat(result.isNobodyElse()).isFalse();
    assertThat(result.othersActs().gives())
        .extracting(act -> facts.login(act.account()) + " " + act.action().id())
        .containsExactly("bo set-password");
  }
}
