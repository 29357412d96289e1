package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.readiness.HostCheck;
import org.sobercompass.core.readiness.MappingCheck;
import org.sobercompass.core.readiness.Readiness;
import org.sobercompass.core.readiness.ReadinessCheck;
import org.sobercompass.core.readiness.Shortfall;
import org.sobercompass.sources.workspace.Workspace;

/** Each condition of readiness: met, not met, not known; and what a check of mappings tells. */
class ReadinessTest {
  private static final String SHAPE =
      "areas: [a]\nlevels: [view, edit]\nroles: {r: {allows: {a: edit}}, none: {}}\n";
  private static final String EMERGENCY = "emergency: [{account: spare, tried: 2026-05-01}]\n";

  @TempDir Path root;

  private SmallWorkspace people(String... lines) {
    return new SmallWorkspace(root)
        .account("ann", "staff", lines)
        .account("bo", "guests")
        .group("crew", "uid=ann,ou=staff")
        .group("outer", "cn=crew,ou=groups")
        .group("nobody", "uid=gone,ou=staff");
  }

  private Readiness readiness(SmallWorkspace.Asked asked, String login, Optional<String> from) {
    Workspace read = Workspace.open(root, ReadinessCheck.NEEDS);
    AccessModel model = read.model(asked.model().asOf(), Optional.empty());
    SystemView app = model.system("app").orElseThrow();
    return new ReadinessCheck(model.asker(), from).of(app, asked.account(login));
  }

  private Readiness readiness(SmallWorkspace.Asked asked) {
    return readiness(asked, "ann", Optional.empty());
  }

  private static String told(Readiness readiness) {
    return readiness.steps().stream()
        .filter(step -> step.met() != Truth.TRUE)
        .map(step -> step.condition() + " " + step.met())
        .collect(Collectors.joining(", "));
  }

  @Test
  void allConditionsAreMetInTheirOrder() {
    Readiness readiness =
        readiness(people().with("sight: {directory: main}\n" + SHAPE, "r,group,crew,,,,,"));
    assertThat(readiness.ready()).isEqualTo(Truth.TRUE);
    assertThat(readiness.firstFailure()).isEmpty();
    assertThat(readiness.signInName()).isEqualTo("ann");
    assertThat(readiness.steps().stream().map(Readiness.Step::condition)).isSorted();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "nsAccountLock: TRUE            | ENABLED FALSE",
        "shadowExpire: 10               | NOT_EXPIRED FALSE",
        "pwdEndTime: soon               | NOT_EXPIRED UNDEFINED",
        "pwdAccountLockedTime: 20260501000000Z | NOT_LOCKED UNDEFINED",
        "lockoutTime: 133600000000000000 | NOT_LOCKED UNDEFINED",
        "lockoutTime: 0                 | ''",
        "pwdReset: TRUE                 | PASSWORD FALSE",
        "shadowLastChange: 0            | PASSWORD FALSE",
        "pwdLastSet: 0                  | PASSWORD FALSE",
        "userWorkstations: DESK-1,DESK-2 | HOST UNDEFINED",
        "host: desk-1                   | HOST UNDEFINED"
      })
  void theStateOfTheAccountCounts(String line, String told) {
    SmallWorkspace.Asked asked =
        people(line).with("sight: {directory: main}\n" + SHAPE, "r,group,crew,,,,,");
    assertThat(told(readiness(asked))).isEqualTo(told);
  }

  /** As of 2026-06-01 12:00 UTC, with a policy that stands after the account in the export. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "shadowLastChange: 20500,shadowMax: 90          | PASSWORD FALSE",
        "shadowLastChange: 20515,shadowMax: 89 | PASSWORD FALSE",
        "shadowLastChange: 20516,shadowMax: 89 | ''",
        "shadowLastChange: 20515,shadowMax: 90 | ''",
        "shadowLastChange: 20500,shadowMax: 99999       | ''",
        "pwdChangedTime: 20260401000000Z,pwdPolicySubentry: cn=strict\\,ou=policies\\,dc=x |"
            + " PASSWORD FALSE",
        "pwdChangedTime: 20260520000000Z,pwdPolicySubentry: cn=strict\\,ou=policies\\,dc=x | ''",
        "pwdChangedTime: 20260401000000Z                | ''",
        "pwdAccountLockedTime: 20260601115500Z,pwdPolicySubentry: cn=strict\\,ou=policies\\,dc=x |"
            + " NOT_LOCKED FALSE",
        "pwdAccountLockedTime: 20260601110000Z,pwdPolicySubentry: cn=strict\\,ou=policies\\,dc=x |"
            + " ''",
        "pwdAccountLockedTime: 20260101110000Z,pwdPolicySubentry: cn=endless\\,ou=policies\\,dc=x |"
            + " NOT_LOCKED FALSE",
        "pwdAccountLockedTime: 20260601110000Z,pwdPolicySubentry: cn=gone\\,dc=x | NOT_LOCKED"
            + " UNDEFINED",
        "pwdLastSet: 134190000000000000                 | PASSWORD FALSE",
        "pwdLastSet: 134247024000000000                 | ''",
        "pwdLastSet: 134190000000000000,userAccountControl: 66048 | ''",
        "lockoutTime: 134247887000000000                | NOT_LOCKED FALSE",
        "lockoutTime: 134247880000000000                | ''",
        "pwdLastSet: 134190000000000000,msDS-UserPasswordExpiryTimeComputed: 134300000000000000 |"
            + " ''",
        "pwdLastSet: 134247024000000000,msDS-UserPasswordExpiryTimeComputed: 134247000000000000 |"
            + " PASSWORD FALSE",
      })
  void passwordsEndAndLocksRunOutByThePoliciesOfTheDirectory(String lines, String told) {
    String[] split = lines.split("(?<!\\\\),");
    for (int i = 0; i < split.length; i++) {
      split[i] = split[i].replace("\\,", ",");
    }
    SmallWorkspace workspace = people(split);
    boolean byDomain = lines.contains("pwdLastSet") || lines.contains("lockoutTime");
    workspace.entry(
        "dc=x",
        "domain",
        "dc: x",
        byDomain
            ? new String[] {"maxPwdAge: -36288000000000", "lockoutDuration: -6000000000"}
            : new String[0]);
    workspace.entry(
        "cn=strict,ou=policies,dc=x",
        "pwdPolicy",
        "cn: strict",
        "pwdMaxAge: 3888000",
        "pwdLockoutDuration: 600");
    workspace.entry(
        "cn=endless,ou=policies,dc=x", "pwdPolicy", "cn: endless", "pwdLockoutDuration: 0");
    SmallWorkspace.Asked asked =
        workspace.with("sight: {directory: main}\n" + SHAPE, "r,group,crew,,,,,");
    assertThat(told(readiness(asked))).isEqualTo(told);
    String state = told.isEmpty() ? "yes" : told.contains("UNDEFINED") ? "undecided" : "blocked";
    assertThat(asked.can("ann", "a:view", "")).isEqualTo(state);
  }

  @ParameterizedTest
  @CsvSource({
    "'hosts: [desk-2]', yes",
    "'hosts: [desk-2.vault.example]', yes",
    "'hosts: [desk-3]', blocked",
    "'', undecided"
  })
  void whereItMaySignInCountsInTheState(String hosts, String can) {
    SmallWorkspace.Asked asked =
        people("userWorkstations: DESK-1,DESK-2")
            .with("sight: {directory: main}\n" + hosts + "\n" + SHAPE, "r,group,crew,,,,,");
    assertThat(asked.can("ann", "a:view", "")).isEqualTo(can);
  }

  @Test
  void hostsThatAreNotThereAreToldAndAHostKnowsWhoMaySignIn() {
    SmallWorkspace.Asked asked =
        people("host: desk-1", "host: dsek-2")
            .entry("cn=desk-1,dc=x", "device", "cn: desk-1")
            .with("sight: {directory: main}\n" + EMERGENCY + SHAPE, "r,group,crew,,,,,");
    assertThat(check(asked))
        .anyMatch(line -> line.contains("may sign in from dsek-2, which is no host"))
        .noneMatch(line -> line.contains("from desk-1, which"));
    HostCheck.At at = new HostCheck(asked.model()).at("desk-1.vault.example");
    assertThat(at.named()).containsExactly(asked.account("ann"));
    assertThat(at.exists()).isTrue();
    assertThat(at.free()).isEqualTo(asked.model().facts().accounts() - 1);
    assertThat(new HostCheck(asked.model()).at("desk-9").exists()).isFalse();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "2026-07-01 | blocked | SIGN_IN FALSE",
        "2026-06-01 | yes     | ''",
        "2026-05-01 | yes     | ''"
      })
  void beforeTheSwitchNobodySignsInFromTheDirectory(String day, String can, String told) {
    SmallWorkspace.Asked asked =
        people()
            .with(
                "sight: {directory: main, switch: " + day + "}\nadministrators: r\n" + SHAPE,
                "r,group,crew,,,,,");
    assertThat(asked.can("ann", "a:view", "")).isEqualTo(can);
    assertThat(told(readiness(asked))).isEqualTo(told);
    List<String> check = check(asked);
    if (told.isEmpty()) {
      assertThat(check).singleElement().asString().contains("nobody gets in without main");
    } else {
      assertThat(check)
          .anyMatch(line -> line.contains("app has no administrator until 2026-07-01"))
          .anyMatch(line -> line.contains("from 2026-07-01 on nobody gets in without main"));
    }
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "', login-attribute: badge' | app: app relies on badge, which is no attribute in main",
        "', login-attribute: mobile' | app: app relies on mobile, which none of the",
        "', members: memberUid, primary-groups: no' | app: app counts no membership that main has"
      })
  void aSightGoesByAttributesThatAreFilled(String sight, String says) {
    List<String> told =
        check(
            people()
                .with(
                    "sight: {directory: main" + sight + "}\n" + EMERGENCY + SHAPE,
                    "r,group,crew,,,,,"));
    assertThat(told).anyMatch(line -> line.startsWith(says));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {"'' | false", "'sign-in-case: exact' | true", "'sign-in-case: alike' | false"})
  void theNameToTypeSaysWhetherCaseCounts(String line, boolean counts) {
    SmallWorkspace.Asked asked =
        people().with("sight: {directory: main}\n" + line + "\n" + SHAPE, "r,group,crew,,,,,");
    assertThat(readiness(asked).caseCounts()).contains(counts);
  }

  @ParameterizedTest
  @CsvSource({"desk-2, TRUE", "DESK-1, TRUE", "desk-3, FALSE"})
  void theHostItSignsInFromMustBeAllowed(String from, Truth ready) {
    SmallWorkspace.Asked asked =
        people("userWorkstations: DESK-1,DESK-2")
            .with("sight: {directory: main}\n" + SHAPE, "r,group,crew,,,,,");
    assertThat(readiness(asked, "ann", Optional.of(from)).ready()).isEqualTo(ready);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "'account,bo,directory,yes,,'            | ENROLLED FALSE",
        "'group,crew,directory,yes,yes,here'     | ''",
        "'account,ann,directory,no,yes,here'     | ACTIVE FALSE",
        "'account,ann,paper,yes,yes,here'        | SIGN_IN FALSE",
        "'account,ann,directory,yes,no,here'     | SECOND_FACTOR FALSE",
        "'account,ann,directory,yes,yes,there'   | 'SECOND_FACTOR FALSE, PLACE FALSE'"
      })
  void theRegisterCountsLineByLine(String line, String told) {
    SmallWorkspace workspace = people();
    workspace.write(
        "register.csv", "kind,subject,provider,active,second factor,place\n" + line + "\n");
    SmallWorkspace.Asked asked =
        workspace.with(
            "sight: {directory: main}\nsign-in: [directory]\nregister: register.csv\n"
                + "second-factor: required\nplace: here\n"
                + SHAPE,
            "r,group,crew,,,,,");
    assertThat(told(readiness(asked))).isEqualTo(told);
    assertThat(readiness(asked).steps().stream().map(Readiness.Step::condition)).isSorted();
    String can = asked.can("ann", "a:view", "");
    assertThat(can).isEqualTo(told.isEmpty() ? "yes" : "blocked");
  }

  @Test
  void anAccountOutOfSightFailsFirstAndSaysWhy() {
    SmallWorkspace.Asked asked =
        people()
            .with(
                "sight: {directory: main, account-bases: [\"ou=guests,dc=x\"]}\n" + SHAPE,
                "r,group,crew,,,,,");
    Readiness.Step first = readiness(asked).firstFailure().orElseThrow();
    assertThat(first.detail()).isEqualTo("outside the bases ou=guests,dc=x");
    assertThat(first.condition().ordinal()).isZero();
  }

  @Test
  void noRoleAndARoleThatGivesNothingAreTwoThings() {
    String sight = "sight: {directory: main}\n";
    assertThat(told(readiness(people().with(sight + SHAPE, "r,group,nobody,,,,,"))))
        .isEqualTo("ROLE FALSE");
    assertThat(told(readiness(people().with(sight + SHAPE, "none,group,crew,,,,,"))))
        .isEqualTo("RIGHTS FALSE");
  }

  @Test
  void whatOthersInTheRoleCanDoIsToldWithWhatStopsIt() {
    SmallWorkspace.Asked asked =
        people()
            .with(
                "sight: {directory: main}\ncombining: deny-overrides\n"
                    + SHAPE.replace("none: {}", "stop: {denies: {a: edit}}"),
                "r,group,crew,,,,,",
                "stop,account,ann,,,,,");
    SystemView app = asked.model().system("app").orElseThrow();
    List<Shortfall.Item> items = Shortfall.of(asked.model().asker(), app, asked.account("ann"));
    assertThat(items).hasSize(1);
    assertThat(app.rights().text(items.get(0).right())).isEqualTo("a:edit");
    assertThat(items.get(0).stopped().orElseThrow().reason().words()).isEqualTo("denied");
  }

  private List<String> check(SmallWorkspace.Asked asked) {
    return new MappingCheck(asked.model())
        .run().stream().map(problem -> problem.place() + ": " + problem.what()).toList();
  }

  @Test
  void aSoundMappingNeedsNoLook() {
    assertThat(
            check(
                people()
                    .with("sight: {directory: main}\n" + EMERGENCY + SHAPE, "r,group,crew,,,,,")))
        .isEmpty();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "', on: no'            | 'r,group,crew,,,,,'   | app: app sees nobody: its connection is"
            + " switched off",
        "', account-filter: \"(uid=zed)\"' | 'r,group,crew,,,,,' | app: app sees no account of"
            + " main",
        "', group-bases: [\"ou=teams,dc=x\"]' | 'r,group,crew,,,,,' | a.csv:2: the group crew is"
            + " mapped, but app does not see it: outside the bases ou=teams,dc=x",
        "', nesting: none'     | 'r,group,outer,,,,,'  | a.csv:2: the group outer is mapped, but"
            + " none of its 1 accounts count in app",
        "''                    | 'r,group,nobody,,,,,' | a.csv:2: the group nobody is mapped, but"
            + " nobody is in it",
        "', account-filter: \"(!(uid=bo))\"' | 'r,account,bo,,,,,' | a.csv:2: the account bo is"
            + " mapped, but app does not see it: the filter leaves it out"
      })
  void aMappingThatCannotWorkIsToldWithItsPlace(String sight, String row, String says) {
    List<String> told =
        check(people().with("sight: {directory: main" + sight + "}\n" + EMERGENCY + SHAPE, row));
    assertThat(told).anyMatch(line -> line.startsWith(says));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "''                                              | app has no emergency account",
        "'emergency: [{account: spare}]'                 | the emergency account spare was never"
            + " tried",
        "'emergency: [{account: spare, tried: 2025-06-01}]' | the emergency account spare was last"
            + " tried 365 days ago"
      })
  void emergencyAccountsAreAskedFor(String emergency, String says) {
    List<String> told =
        check(
            people()
                .with(
                    "sight: {directory: main}\n" + emergency + "\n" + SHAPE, "r,group,crew,,,,,"));
    assertThat(told).singleElement().asString().contains(says);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "', waiting-for-restart: yes' | app: app waits for a restart",
        "', copied: 2026-05-29'       | app: app works on a copy of main that is 3 days older",
        "', copied: 2026-05-31'       | app: app works on a copy of main that is a day older",
        "', copied: 2026-06-01'       | ''"
      })
  void whatTheApplicationDoesNowMayBeAnotherThing(String sight, String says) {
    List<String> told =
        check(
            people()
                .with(
                    "sight: {directory: main" + sight + "}\n" + EMERGENCY + SHAPE,
                    "r,group,crew,,,,,"));
    assertThat(told).hasSize(says.isEmpty() ? 0 : 1).allMatch(line -> line.startsWith(says));
  }

  @Test
  void administratorsWhoAllDependOnTheDirectoryAreCounted() {
    SmallWorkspace.Asked asked =
        people()
            .with(
                "sight: {directory: main}\nadministrators: r\n" + SHAPE,
                "r,group,crew,,,,,",
                "none,account,bo,,,,,");
    assertThat(check(asked))
        .singleElement()
        .asString()
        .endsWith("nobody gets in without main; its only administrator signs in from there");
  }

  @Test
  void aReadinessSummaryCountsThoseWhoAreMeantToHaveSomething() {
    SmallWorkspace.Asked asked =
        people("nsAccountLock: TRUE")
            .with("sight: {directory: main}\n" + SHAPE, "r,group,crew,,,,,", "r,account,bo,,,,,");
    MappingCheck.Summary summary = new MappingCheck(asked.model()).readiness().get("app");
    assertThat(summary.given()).isEqualTo(2);
    assertThat(summary.ready()).isEqualTo(1);
    assertThat(summary.failures().toString()).isEqualTo("{ENABLED=1}");
  }
}
