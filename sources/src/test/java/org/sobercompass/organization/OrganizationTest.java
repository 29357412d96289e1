package org.sobercompass.organization;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.SmallWorkspace;

/** The door for programs: names as people use them, answers, findings, what a change would do. */
class OrganizationTest {
  @TempDir Path root;
  private Organization organization;

  @BeforeEach
  void open() {
    SmallWorkspace workspace =
        new SmallWorkspace(root)
            .unit("glass")
            .unit("groups")
            .account("ann", "glass")
            .account("bo", "glass")
            .account("cy", "glass")
            .group("crew", "uid=ann,ou=glass", "uid=bo,ou=glass")
            .main("admin: admin.yaml\n");
    workspace.write(
        "admin.yaml",
        "scopes: {s: {include: [{account: bo}]}}\n"
            + "roles: {desk: {actions: [set-password]}}\n"
            + "assignments: admin.csv\n");
    workspace.write("admin.csv", "role,kind,subject,scope,from,until,on\ndesk,account,cy,s,,,\n");
    organization =
        Organization.of(
            workspace
                .with(
                    "sight: {directory: main}\n"
                        + "areas: [orders]\n"
                        + "levels: [view, sign]\n"
                        + "roles: {payer: {allows: {orders: sign}}}\n",
                    "payer,group,crew")
                .workspace());
  }

  @Test
  void aPermissionAndAnAdminActionAreAskedAlike() {
    Can sign = organization.can("ann", "app:orders:sign", "");
    assertThat(sign.verdict()).isEqualTo(Verdict.YES);
    assertThat(organization.can("cy", "app:orders:sign", "").verdict()).isEqualTo(Verdict.NO);
    assertThat(organization.can("cy", "set-password", "bo").verdict()).isEqualTo(Verdict.YES);
    assertThat(organization.can("cy", "set-password", "ann").verdict())
        .isEqualTo(Verdict.UNDECIDED);
  }

  @Test
  void whoCanIsTheSameAsEachBeingAsked() {
    for (List<String> asked :
        List.of(List.of("app:orders:sign", ""), List.of("set-password", "bo"))) {
      List<Account.Holder> holders = organization.holders(asked.get(0), asked.get(1));
      for (String login : List.of("ann", "bo", "cy")) {
        Verdict held = organization.can(login, asked.get(0), asked.get(1)).held();
        assertThat(holders.stream().filter(h -> h.account().login().equals(login)).toList())
            .as(login + " " + asked)
            .hasSize(held == Verdict.NO ? 0 : 1)
            .allMatch(h -> h.isSure() == (held == Verdict.YES));
      }
    }
  }

  @Test
  void theWaysAreTold() {
    assertThat(organization.ways("ann", "app:orders:sign", ""))
        .containsExactly("ann → crew → role payer → orders: sign");
    assertThat(organization.ways("cy", "set-password", "bo"))
        .containsExactly("cy → admin role desk over s");
    assertThat(organization.ways("cy", "app:orders:sign", "")).isEmpty();
    assertThat(organization.ways("cy", "set-password", "ann")).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({
    "anm, app:orders:sign, '', did you mean ann",
    "ann, app:orders:sing, '', did you mean orders:sign",
    "ann, ap:orders:sign, '', did you mean app",
    "ann, app:orders:sign, roof, there is no node",
    "ann, set-pasword, bo, did you mean set-password",
    "ann, set-password, boo, did you mean bo"
  })
  void aWrongNameIsToldWithTheNearest(String account, String what, String where, String told) {
    assertThatThrownBy(() -> organization.can(account, what, where))
        .isInstanceOf(UnknownNameException.class)
        .hasMessageContaining(told);
  }

  @Test
  void leavingAGroupEndsWhatItGave() {
    Preview preview = organization.preview(List.of(organization.names().leaving("ann", "crew")));
    assertThat(preview.changesNothing()).isFalse();
    assertThat(preview.effects().gives()).isEmpty();
    assertThat(preview.effects().ends())
        .extracting(Effects.Effect::account)
        .containsOnly(organization.names().account("ann"));
    assertThatThrownBy(() -> organization.names().leaving("cy", "crew"))
        .isInstanceOf(UnknownNameException.class)
        .hasMessageContaining("no direct member");
  }

  @Test
  void findingsAreThoseAskedFor() {
    List<Finding> all = organization.findings();
    assertThat(all).isNotEmpty();
    assertThat(organization.findings(FindingQuery.ALL)).isEqualTo(all);
    FindingKind kind = all.get(0).kind();
    FindingQuery query =
        new FindingQuery(
            Weight.LOW, List.of(kind), Optional.empty(), Optional.empty(), Optional.empty());
    assertThat(organization.findings(query))
        .isNotEmpty()
        .allMatch(finding -> finding.kind() == kind);
    assertThatThrownBy(() -> FindingQuery.kind("redundant-asignment"))
        .isInstanceOf(UnknownNameException.class)
        .hasMessageContaining("did you mean redundant-assignment?");
  }

  @Test
  void readinessIsAskedByName() {
    assertThat(organization.readiness("ann", "app").ready().name()).isEqualTo("TRUE");
    assertThat(organization.account("ann").login()).isEqualTo("ann");
  }
}
