package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What an application does not see does not count, and what is not known is not guessed. */
class SightTest {
  private static final String SHAPE =
      "areas: [a]\nlevels: [view]\nroles: {r: {allows: {a: view}}}\n";

  @TempDir Path root;

  private SmallWorkspace people() {
    return new SmallWorkspace(root)
        .unit("vault")
        .unit("glass")
        .account("ann", "vault", "employeeType: staff", "employeeNumber: 12")
        .account("bo", "glass", "employeeType: visitor", "employeeNumber: many")
        .account("cy", "glass")
        .group("inner", "uid=ann,ou=vault", "uid=bo,ou=glass", "uid=cy,ou=glass")
        .group("middle", "cn=inner,ou=groups")
        .group("outer", "cn=middle,ou=groups")
        .entry(
            "cn=far,ou=elsewhere,dc=x", "groupOfNames", "cn: far", "member: uid=ann,ou=vault,dc=x");
  }

  private String can(String sight, String assignment, String who) {
    return people()
        .with("sight: {directory: main" + sight + "}\n" + SHAPE, assignment)
        .can(who, "a:view", "");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "''                                            | ann | yes",
        "', account-bases: [\"ou=vault,dc=x\"]'        | ann | yes",
        "', account-bases: [\"ou=vault,dc=x\"]'        | bo  | no",
        "', account-bases: [\"OU=Vault, DC=X\"]'       | ann | yes",
        "', account-bases: [\"u=vault,dc=x\"]'         | ann | no",
        "', account-filter: \"(employeeType=staff)\"'  | ann | yes",
        "', account-filter: \"(employeeType=staff)\"'  | bo  | no",
        "', account-filter: \"(employeeType=staff)\"'  | cy  | no",
        "', account-filter: \"(!(employeeType=visitor))\"' | cy | yes",
        "', login-attribute: employeeNumber'           | ann | yes",
        "', login-attribute: employeeNumber'           | cy  | no",
        "', on: no'                                    | ann | no",
        "', nesting: 2'                                | ann | yes",
        "', nesting: 1'                                | ann | no",
        "', nesting: none'                             | ann | no",
        "', group-filter: \"(!(cn=middle))\"'          | ann | no",
        "', members: [uniqueMember]'                   | ann | no"
      })
  void basesFiltersAndDepthDecideWhoCounts(String sight, String who, String answer) {
    assertThat(can(sight, "r,group,outer,,,,,", who)).isEqualTo(answer);
  }

  @Test
  void aGroupOutsideTheBasesGivesNothing() {
    assertThat(can("", "r,group,far,,,,,", "ann")).isEqualTo("yes");
    assertThat(can(", group-bases: [\"ou=groups,dc=x\"]", "r,group,far,,,,,", "ann"))
        .isEqualTo("no");
  }

  @Test
  void aFilterThatIsUndefinedLeavesTheAnswerUndecided() {
    assertThat(can(", account-filter: \"(nobodyKnows=1)\"", "r,group,outer,,,,,", "ann"))
        .isEqualTo("undecided");
    assertThat(can(", account-filter: \"(!(nobodyKnows=1))\"", "r,group,outer,,,,,", "ann"))
        .isEqualTo("undecided");
  }

  @Test
  void allBelowAnOrganizationalUnitCountWhereUnitsDo() {
    assertThat(can("", "r,unit,\"ou=glass,dc=x\",,,,,", "cy")).isEqualTo("yes");
    assertThat(can("", "r,unit,\"ou=glass,dc=x\",,,,,", "ann")).isEqualTo("no");
    assertThat(can(", units: no", "r,unit,\"ou=glass,dc=x\",,,,,", "cy")).isEqualTo("no");
  }

  @ParameterizedTest
  @CsvSource({
    "'account,ann,directory,yes', yes",
    "'group,inner,directory,yes', yes",
    "'account,bo,directory,yes', blocked",
    "'account,ann,directory,no', blocked",
    "'account,ann,certificate,yes', blocked"
  })
  void whatIsHeldIsBlockedUntilEnrolledActiveAndWithTheRightSignIn(String line, String answer) {
    SmallWorkspace workspace = people();
    workspace.write("register.csv", "kind,subject,provider,active\n" + line + "\n");
    String head = "sight: {directory: main}\nsign-in: [directory]\nregister: register.csv\n";
    assertThat(workspace.with(head + SHAPE, "r,group,inner,,,,,").can("ann", "a:view", ""))
        .isEqualTo(answer);
  }

  @Test
  void membersAreThoseOnTheRegister() {
    SmallWorkspace workspace = people();
    workspace.write("register.csv", "kind,subject,provider,active\naccount,ann,,yes\n");
    SmallWorkspace.Asked asked =
        workspace.with(
            "sight: {directory: main}\nregister: register.csv\n" + SHAPE,
            "r,implicit,members,,,,,");
    assertThat(asked.can("ann", "a:view", "")).isEqualTo("yes");
    assertThat(asked.can("bo", "a:view", "")).isEqualTo("no");
  }

  @Test
  void anApplicationWithoutSignInGivesEveryoneItsRole() {
    SmallWorkspace.Asked asked =
        people()
            .with(
                "sight: {directory: main}\nsign-in: none\neveryone: r\n" + SHAPE,
                List.of("r,group,inner,,,,,").get(0));
    assertThat(asked.can("cy", "a:view", "")).isEqualTo("yes");
  }
}
