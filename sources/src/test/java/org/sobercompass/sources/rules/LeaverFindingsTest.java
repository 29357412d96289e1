package org.sobercompass.sources.rules;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.sources.workspace.Workspace;

/** Accounts and duties that outlive their person: yes, no, and the border between. */
class LeaverFindingsTest {
  private static final String NOW = "2026-06-01T12:00:00Z";

  @TempDir private Path root;
  private String own = "bo,,yes,person\n";
  private String link = "ann,bo,yes,\n";
  private String app = "";
  private String rules = "";

  @BeforeEach
  void oneDirectory() throws IOException {
    put(
        "d.ldif",
        "dn: uid=ann,dc=x\nobjectClass: inetOrgPerson\nuid: ann\n\n"
            + "dn: uid=eve,dc=x\nobjectClass: inetOrgPerson\nuid: eve\n");
    put("first.csv", "login,until,active\nann,2026-06-01,yes\n");
    put("rows.csv", "role,kind,subject,node\nreader,account,bo,top\n");
  }

  private void put(String name, String text) throws IOException {
    Files.writeString(root.resolve(name), text);
  }

  private List<Finding> findings(String kind) throws IOException {
    put("own.csv", "login,until,active,kind\n" + own);
    put("p.csv", "account,other,same,reason\n" + link);
    put(
        "compass.yaml",
        "directories:\n  main: {file: d.ldif, taken: 2026-06-01T12:00:00Z}\n"
            + "  own: {kind: accounts, file: own.csv, taken: 2026-06-01T12:00:00Z}\n"
            + "persons: {file: p.csv}\napplications: [app.yaml]\n"
            + rules);
    put(
        "app.yaml",
        "id: app\nsight: {directory: own, also: [main]}\nareas: [a]\nlevels: [view]\n"
            + app
            + "nodes: {top: {}}\nroles:\n  reader: {allows: {a: view}}\ncombining: union\n"
            + "assignments: {actual: rows.csv}\n");
    Workspace workspace = Workspace.open(root);
    return Findings.of(workspace.assessment(workspace.model(Instant.parse(NOW), Optional.empty())))
        .stream()
        .filter(finding -> finding.kind().id().equals(kind))
        .toList();
  }

  @Test
  void aLocalAccountThatIsLinkedToNobodyIsToldAndOneThatIsLinkedIsNot() throws IOException {
    assertThat(findings("unlinked-local-account")).isEmpty();
    link = "";
    assertThat(findings("unlinked-local-account"))
        .singleElement()
        .satisfies(f -> assertThat(FindingWords.sentence(f)).contains("account bo of own"));
  }

  @Test
  void serviceEmergencyAndDisabledAccountsBelongToNobodyOnPurpose() throws IOException {
    link = "";
    own = "bo,,yes,service\nkey,,yes,person\nold,,no,person\n";
    app = "emergency: [{account: key, tried: 2026-05-02}]\n";
    assertThat(findings("unlinked-local-account")).isEmpty();
    app = "";
    assertThat(findings("unlinked-local-account")).hasSize(1);
  }

  @Test
  void theOtherAccountOfOneWhoIsSwitchedOffIsTold() throws IOException {
    assertThat(findings("other-account-active")).isEmpty();
    own = "bo,,yes,person\nann2,,no,person\n";
    link = "bo,ann2,yes,\n";
    assertThat(findings("other-account-active"))
        .singleElement()
        .satisfies(f -> assertThat(FindingWords.sentence(f)).startsWith("ann2 is disabled, and"));
    own = "bo,,yes,person\nann2,2026-05-31,yes,person\n";
    assertThat(findings("other-account-active"))
        .singleElement()
        .satisfies(f -> assertThat(FindingWords.sentence(f)).startsWith("ann2 is expired, and"));
    own = "bo,,yes,person\nann2,2026-06-01,yes,person\n";
    assertThat(findings("other-account-active")).as("the last day counts").isEmpty();
  }

  @Test
  void anotherAccountThatHoldsNothingOrIsOverTooIsNotTold() throws IOException {
    own = "bo,,yes,person\nann2,,no,person\n";
    link = "bo,ann2,yes,\n";
    put("rows.csv", "role,kind,subject,node\nreader,account,eve,top\n");
    assertThat(findings("other-account-active")).isEmpty();
    put("rows.csv", "role,kind,subject,node\nreader,account,bo,top\n");
    own = "bo,,no,person\nann2,,no,person\n";
    assertThat(findings("other-account-active")).isEmpty();
  }

  @Test
  void anOwnerWhoIsDisabledOrExpiredIsTold() throws IOException {
    rules = "findings: {owners: [applications]}\n";
    app = "owner: bo\n";
    assertThat(findings("owner-gone")).isEmpty();
    own = "bo,,no,person\n";
    assertThat(findings("owner-gone"))
        .singleElement()
        .satisfies(
            f ->
                assertThat(FindingWords.sentence(f))
                    .startsWith("bo is the owner of")
                    .contains("disa"));
    own = "bo,2026-05-31,yes,person\n";
    assertThat(findings("owner-gone"))
        .singleElement()
        .satisfies(f -> assertThat(FindingWords.sentence(f)).endsWith("is expired"));
    rules = "";
    assertThat(findings("owner-gone")).isEmpty();
  }
}
