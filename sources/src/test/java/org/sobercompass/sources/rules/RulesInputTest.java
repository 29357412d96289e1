package org.sobercompass.sources.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.problem.BadInputException;

/** What rules may say, at the border and beyond it: the place, the fault, what was expected. */
class RulesInputTest {
  @TempDir Path root;
  private SmallWorkspace world;

  @BeforeEach
  void oneAssignment() {
    world = new SmallWorkspace(root).account("ann").group("crew", "ann");
    world.given("a,group,crew,top,,,");
  }

  private void isWrong(String yaml, String... parts) {
    world.rules(yaml);
    var thrown =
        assertThatThrownBy(world::open)
            .isInstanceOf(BadInputException.class)
            .hasMessageContaining("compass.yaml:3");
    for (String part : parts) {
      thrown.hasMessageContaining(part);
    }
  }

  private List<SeparationRule> rules(String yaml) {
    return world.rules(yaml).assessment().rules().separation();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "broad: {share: 0}            | share: \"0\" is out of range      | from 1 to 100; without"
            + " it 50",
        "broad: {share: 101}          | share: \"101\" is out of range    | from 1 to 100",
        "everywhere: 0                | everywhere: \"0\" is out of range | from 1 to 1000; without"
            + " it 3",
        "dormant: {days: -1}         | days: \"-1\" is out of range      | from 1 to 36500;"
            + " without it 90",
        "nesting: 0                   | nesting: \"0\" is out of range    | without it 4",
        "unused: soon                        | unused: \"soon\" is no whole number  | without it"
            + " 90",
        "used-share: 101              | used-share: \"101\"               | from 0 to 100; without"
            + " it 25",
        "emergency: 99999             | emergency: \"99999\"              | without it 180",
        "peers: {at-least: 1}         | at-least: \"1\" is out of range   | from 2 to 1000000;"
            + " without it 10",
        "peers: {share: 100}          | share: \"100\" is out of range    | from 0 to 99; without"
            + " it 10",
        "weights: {redundant-assignment: heavy}  | heavy                             | low, medium"
            + " or high",
        "weights: {redundant-asignment: low}     | redundant-asignment                          |"
            + " did you mean redundant-assignment?",
        "off: [redundant-asignment]              | redundant-asignment | did you mean"
            + " redundant-assignment?",
        "owners: [cats]               | cats                              | applications",
        "nestng: 3                    | nestng                            | nesting",
        "everyday: [app:a:edti]       | a:edti                            | did you mean",
        "broad: {groups: [group crww]}| crww                              | did you mean crew?",
        "services: {accounts: [anm]}  | anm                               | did you mean ann?",
        "both-sides: [ap]             | ap                                | app"
      })
  void whatThresholdsMayNotSay(String rule, String fault, String expected) {
    isWrong("findings: {" + rule + "}", fault.strip(), expected.strip());
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "broad: {share: 1}",
        "broad: {share: 100}",
        "everywhere: 1",
        "dormant: {days: 36500}",
        "nesting: 1000",
        "unused: 1",
        "used-share: 0",
        "used-share: 100",
        "peers: {by: [title], at-least: 2, share: 0}",
        "weights: {redundant-assignment: high}",
        "off: [redundant-assignment]",
        "blocking-roles: yes"
      })
  void whatThresholdsMaySay(String rule) {
    world.rules("findings: {" + rule + "}");
    assertThatCode(world::open).doesNotThrowAnyException();
  }

  @Test
  void aSideWithNothingOnItCanNeverBeHeld() {
    isWrong(
        "separation: [{id: r, sides: [[app:a:edit], []]}]",
        "side 2 of the rule r has nothing on it",
        "permissions, roles or admin actions");
  }

  @Test
  void oneSideIsNoRule() {
    isWrong("separation: [{id: r, sides: [[app:a:edit]]}]", "the rule has 1 sides");
  }

  @ParameterizedTest
  @CsvSource({"1", "3", "many"})
  void aRuleAsksForAtLeastTwoOfItsSidesAndAtMostAll(String atLeast) {
    isWrong(
        "separation: [{id: r, at-least: " + atLeast + ", sides: [[app:a:edit], [app:b:edit]]}]",
        "at-least: \"" + atLeast + "\"",
        "from 2 to the number of sides");
  }

  @Test
  void sidesOfWhichOneContainsTheOtherOverlap() {
    isWrong(
        "separation: [{id: r, sides: [[app:a:edit], [app:a:view]]}]",
        "which stand on two sides, one contains the other");
  }

  @Test
  void whatStandsOnTwoSidesOverlaps() {
    isWrong(
        "separation: [{id: r, sides: [[app:a:edit], [app:b:edit], [app:a:edit]]}]",
        "app:a:edit stands on two sides");
  }

  @Test
  void aRuleThatStandsTwiceIsTold() {
    isWrong(
        "separation: [{id: r, sides: [[app:a:edit], [app:b:edit]]},"
            + " {id: r, sides: [[app:a:edit], [app:b:view]]}]",
        "the rule r stands twice");
  }

  @Test
  void withoutANameItsIdIsItsNameAndAllSidesAreAsked() {
    assertThat(rules("separation: [{id: r, sides: [[app:a:edit], [app:b:edit], [role app:a]]}]"))
        .singleElement()
        .satisfies(
            rule -> {
              assertThat(rule.name()).isEqualTo("r");
              assertThat(rule.atLeast()).isEqualTo(3);
              assertThat(rule.perPerson()).isTrue();
              assertThat(rule.where()).isEqualTo(SeparationRule.Where.ANYWHERE);
              assertThat(rule.weight().word()).isEqualTo("high");
            });
  }

  private void isWrongTable(String rows, String... parts) {
    world.rules("separation-table: t.csv");
    world.file("t.csv", "task,name,needs,not with,except,weight\n" + rows);
    var thrown = assertThatThrownBy(world::open).isInstanceOf(BadInputException.class);
    for (String part : parts) {
      thrown.hasMessageContaining(part);
    }
  }

  @Test
  void aTableThatNamesATaskThatIsNotThere() {
    isWrongTable(
        "write,Writing,app:a:edit,chekc,,\ncheck,Checking,app:b:edit,,,\n",
        "t.csv:2: there is no task \"chekc\"",
        "did you mean check?");
  }

  @Test
  void aTableThatKeepsATaskApartFromItselfOrNamesOneTwice() {
    isWrongTable(
        "write,Writing,app:a:edit,write,,\nwrite,Again,app:b:edit,,,\n",
        "the task write is kept apart from itself",
        "t.csv:3: the task write stands twice");
  }

  @Test
  void aTaskThatNeedsNothing() {
    isWrongTable(
        "write,Writing,,check,,\ncheck,Checking,app:b:edit,,,\n",
        "t.csv:2: the task write needs nothing");
  }

  @Test
  void aTableMakesEachPairOnceWhoeverNamesIt() {
    world.rules("separation-table: t.csv");
    world.file(
        "t.csv",
        "task,name,needs,not with,except,weight\n"
            + "write,Writing,app:a:edit,check; sign,ann,low\n"
            + "check,Checking,app:b:edit,write,,high\n"
            + "sign,,role app:b,,,\n");
    assertThat(world.assessment().rules().separation())
        .extracting(
            r -> r.id() + " " + r.name() + " " + r.weight().word() + " " + r.except().size())
        .containsExactlyInAnyOrder(
            "check+write Checking and Writing high 1", "sign+write sign and Writing high 1");
  }
}
