package org.sobercompass.sources.delegation;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.expect.Expectations;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.sources.workspace.Workspace;

/** Acts by the lists of a directory, in findings and expectations: yes, no, and not known. */
class ActFindingsTest extends SmallDirectory {
  private static final String ACTS = "[[act set-password on di], [act set-password on ed]]";

  /** Ann may set the password of Di and, by the list of Ed, perhaps his. */
  private void people(String edList) {
    domain("D:(A;;LC;;;AU)");
    unit("a", "D:(A;;LC;;;AU)");
    user("ann", 1001, "a", "D:");
    user("bo", 1002, "a", "D:");
    user("di", 1004, "a", "D:(OA;;CR;" + RESET + ";;" + sid(1001) + ")");
    user("ed", 1005, "a", edList);
  }

  private Workspace open(String more) throws IOException {
    Files.writeString(root.resolve("d.ldif"), ldif.toString());
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {main: {kind: ad, file: d.ldif, taken: 2026-06-01T12:00:00Z}}\n" + more);
    return Workspace.open(root);
  }

  private List<Finding> conflicts() throws IOException {
    Workspace workspace = open("separation: [{id: r, weight: high, sides: " + ACTS + "}]\n");
    return Findings.of(workspace.assessment(workspace.model())).stream()
        .filter(finding -> finding.rule().equals("r"))
        .toList();
  }

  @Test
  void twoActsThatOneAccountCanDoAreAConflict() throws IOException {
    people("D:(OA;;CR;" + RESET + ";;" + sid(1001) + ")");
    assertThat(conflicts())
        .singleElement()
        .satisfies(
            f -> {
              assertThat(f.kind().id()).isEqualTo("separation-of-duties");
              assertThat(f.cause().text()).contains("00001001");
              assertThat(FindingWords.evidence(f))
                  .containsExactly(
                      "set a new password: di, through ann → the list of di",
                      "set a new password: ed, through ann → the list of ed");
            });
  }

  @Test
  void oneActOnlyIsNone() throws IOException {
    people("D:");
    assertThat(conflicts()).isEmpty();
  }

  @Test
  void anActOfWhichItIsNotKnownIsNotCalledAConflictNorLeftOut() throws IOException {
    people("");
    assertThat(conflicts())
        .filteredOn(f -> f.cause().text().contains("00001001"))
        .singleElement()
        .satisfies(
            f -> {
              assertThat(f.kind().id()).isEqualTo("potential-conflict");
              assertThat(f.weight().word()).isEqualTo("medium");
              assertThat(FindingWords.sentence(f))
                  .contains("it is not known whether it can set-password");
              assertThat(FindingWords.evidence(f)).contains("ann perhaps can set-password");
            });
    assertThat(conflicts()).noneMatch(f -> f.kind().id().equals("separation-of-duties"));
  }

  private List<String> verdicts() throws IOException {
    Files.writeString(
        root.resolve("e.yaml"),
        "expectations:\n"
            + "  - {id: di, only: [ann], can: 'act set-password on di'}\n"
            + "  - {id: ed, these: [bo], cannot: 'act set-password on ed'}\n"
            + "  - {id: nobody, nobody-outside: [ann], can: 'act set-password on ed'}\n");
    Workspace workspace = open("expectations: e.yaml\n");
    Assessment assessment = workspace.assessment(workspace.model());
    Expectations checker = new Expectations(assessment);
    return workspace.expectations().stream()
        .map(checker::check)
        .map(outcome -> outcome.expectation().id() + " " + outcome.verdict())
        .toList();
  }

  @Test
  void expectationsAboutActsHoldOrFail() throws IOException {
    people("D:(OA;;CR;" + RESET + ";;" + sid(1002) + ")");
    assertThat(verdicts()).containsExactly("di YES", "ed NO", "nobody NO");
  }

  @Test
  void whatAListDoesNotTellIsNotKnownToTheExpectationEither() throws IOException {
    people("");
    assertThat(verdicts()).containsExactly("di YES", "ed UNDECIDED", "nobody UNDECIDED");
  }
}
