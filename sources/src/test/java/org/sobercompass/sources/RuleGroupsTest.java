package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.problem.BadInputException;

/** Groups whose members are made by a rule, in the directory and in the workspace. */
class RuleGroupsTest {
  private static final String SHAPE =
      "sight: {directory: main}\nareas: [a]\nlevels: [view]\nroles: {r: {allows: {a: view}}}\n";

  @TempDir Path root;

  private SmallWorkspace people() {
    return new SmallWorkspace(root)
        .account("ann", "vault", "title: Keeper")
        .account("bo", "glass", "title: keeper")
        .account("cy", "glass", "title: Buyer")
        .account("di", "glass");
  }

  private SmallWorkspace urls(String url) {
    return people()
        .entry("cn=dyn,ou=groups,dc=x", "groupOfURLs", "cn: dyn", "memberURL: ldap:///" + url)
        .group("outer", "cn=dyn,ou=groups");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "dc=x??sub?(title=keeper)          | ann | yes",
        "dc=x??sub?(title=keeper)          | bo  | yes",
        "dc=x??sub?(title=keeper)          | cy  | no",
        "dc=x??sub?(title=keeper)          | di  | no",
        "dc=x??sub?(!(title=keeper))       | di  | yes",
        "ou=vault,dc=x??sub?(title=*)      | ann | yes",
        "ou=vault,dc=x??sub?(title=*)      | bo  | no",
        "ou=glass,dc=x??one?(title=*)      | bo  | yes",
        "dc=x??one?(title=*)               | bo  | no",
        "uid=cy,ou=glass,dc=x??base?(uid=*) | cy | yes",
        "uid=cy,ou=glass,dc=x??base?(uid=*) | bo | no",
        "dc=x??sub?(nobodyKnows=1)         | ann | undecided",
        "dc=x??sub?(!(nobodyKnows=1))      | ann | undecided"
      })
  void aRuleOfTheDirectoryMakesMembersAlsoOfGroupsAbove(String url, String who, String answer) {
    assertThat(urls(url).with(SHAPE, "r,group,outer,,,,,").can(who, "a:view", ""))
        .isEqualTo(answer);
  }

  @Test
  void aRuleThatIsUndefinedOrHasNobodyOrCannotBeReadIsTold() {
    assertThat(urls("dc=x??sub?(nobodyKnows=1)").with(SHAPE).workspace().problems())
        .anyMatch(p -> p.what().startsWith("the rule is undefined for 5 entries"));
    assertThat(urls("dc=y??sub?(title=*)").with(SHAPE).workspace().problems())
        .anyMatch(p -> p.what().startsWith("the rule has no member"));
    assertThat(urls("dc=x??sub?(title=").with(SHAPE).workspace().problems())
        .anyMatch(p -> p.what().startsWith("the rule cannot be read"));
  }

  @Test
  void aRuleOfTheWorkspaceIsAGroupLikeOthers() {
    SmallWorkspace.Asked asked =
        people()
            .main(
                "groups: {keepers: {name: All keepers, base: \"ou=glass,dc=x\", members:"
                    + " (title=keeper)}}\n")
            .with(SHAPE, "r,group,keepers,,,,,");
    assertThat(asked.can("bo", "a:view", "")).isEqualTo("yes");
    assertThat(asked.can("ann", "a:view", "")).isEqualTo("no");
    assertThat(asked.model().facts().key(asked.model().facts().firstGroup()).text())
        .isEqualTo("group:main/rule/keepers");
  }

  @Test
  void aSightThatCountsListedMembersOnlyLeavesRulesOut() {
    String sight = SHAPE.replace("{directory: main}", "{directory: main, members: [member]}");
    assertThat(
            urls("dc=x??sub?(title=keeper)")
                .with(sight, "r,group,dyn,,,,,")
                .can("ann", "a:view", ""))
        .isEqualTo("no");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "'{k: {members: \"(title=\"}}'              | is wrong at its column",
        "'{k: {members: (a=b), base: nowhere}}'     | is no DN",
        "'{k: {members: (a=b), directory: mian}}'   | did you mean main?",
        "'{k: {}}'                                  | members: is missing"
      })
  void aRuleThatCannotBeUsedIsRefused(String groups, String says) {
    assertThatThrownBy(() -> people().main("groups: " + groups + "\n").with(SHAPE))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining(says);
  }
}
