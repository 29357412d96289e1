package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.removal.Removal;

/** Removals for accounts that are given very much are found, and proved least. */
class ManyRemovalsTest {
  private static final String LOCKED = "pwdAccountLockedTime: 000001010000Z";

  @TempDir Path root;

  private static Advice advice(SmallWorkspace.Asked asked) {
    Assessment assessment = asked.workspace().assessment(asked.model());
    Finding finding =
        Findings.of(assessment).stream()
            .filter(f -> f.kind() == FindingKind.DISABLED_ACCOUNT)
            .findFirst()
            .orElseThrow();
    return Advice.of(assessment, finding);
  }

  @Test
  void threeHundredAndTenDirectAssignmentsCanBeWithdrawn() {
    StringBuilder nodes = new StringBuilder("nodes:\n  top:\n    .name: Top\n");
    List<String> assignments = new ArrayList<>();
    for (int i = 0; i < 310; i++) {
      nodes.append("    n").append(i).append(": N").append(i).append('\n');
      assignments.add("editor,account,ann,n" + i + ",,,,");
    }
    Advice advice =
        advice(
            new SmallWorkspace(root)
                .unit("a")
                .account("ann", "a", LOCKED)
                .with(
                    "levels: [read, edit]\nareas: [p]\n"
                        + nodes
                        + "roles: {editor: {allows: {p: edit}}}\n",
                    assignments.toArray(String[]::new)));
    assertThat(advice.result()).contains(Removal.Result.PROVED_LEAST);
    assertThat(advice.changes()).hasSize(310);
  }

  @Test
  void anAccountInFortyFiveGroupsIsTakenOutOfEach() {
    SmallWorkspace world = new SmallWorkspace(root).unit("a").account("ann", "a", LOCKED);
    List<String> assignments = new ArrayList<>();
    for (int i = 0; i < 45; i++) {
      world.account("u" + i, "a").group("g" + i, "uid=ann,ou=a", "uid=u" + i + ",ou=a");
      assignments.add("editor,group,g" + i + ",,,,,");
      assignments.add("reader,group,g" + i + ",,,,,");
    }
    Advice advice =
        advice(
            world.with(
                "levels: [read, edit]\nareas: [p]\n"
                    + "roles: {editor: {allows: {p: edit}}, reader: {allows: {p: read}}}\n",
                assignments.toArray(String[]::new)));
    assertThat(advice.result()).contains(Removal.Result.PROVED_LEAST);
    assertThat(advice.changes()).hasSize(45);
  }
}
