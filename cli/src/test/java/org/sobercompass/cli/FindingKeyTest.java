package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.removal.Effects.Effect;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.sources.workspace.Workspace;

/**
 * The findings of the demo against its answer key, and what is advised against what happens when it
 * is done.
 */
class FindingKeyTest {
  @TempDir static Path demo;
  private static Workspace workspace;
  private static Assessment assessment;
  private static List<Finding> findings;

  @BeforeAll
  static void write() {
    DemoFiles.write(demo);
    workspace = Workspace.open(demo);
    assessment = workspace.assessment(workspace.model());
    findings = Findings.of(assessment);
  }

  /** Each row of the key's table of findings: kind and a word of its sentence or evidence. */
  private static List<String[]> key() throws IOException {
    List<String[]> rows = new ArrayList<>();
    boolean inside = false;
    for (String line : Files.readAllLines(demo.resolve("ANSWERS.md"))) {
      inside |= line.startsWith("## Findings planted");
      inside &= !line.startsWith("Files and the database, worked out");
      String[] cells = line.split("\\|");
      if (inside && cells.length == 4 && !cells[1].isBlank() && !cells[1].contains("--")) {
        rows.add(new String[] {cells[1].strip(), cells[2].strip(), cells[3].strip()});
      }
    }
    rows.remove(0);
    return rows;
  }

  private static boolean fits(Finding finding, String[] row) {
    boolean kind = row[0].equals(finding.kind().id());
    String all =
        FindingWords.sentence(finding)
            + finding.rule()
            + finding.cause().text()
            + String.join(" ", FindingWords.evidence(finding));
    return kind && Stream.of(row[1].split(" \\+ ")).allMatch(all::contains);
  }

  @Test
  void eachPlantedFindingIsFoundOnceAndNothingElseIs() throws IOException {
    Set<Finding> met = new HashSet<>();
    for (String[] row : key()) {
      List<Finding> fitting = findings.stream().filter(f -> fits(f, row)).toList();
      assertThat(fitting).as(row[0] + ": " + row[1]).hasSize(1);
      assertThat(met.add(fitting.get(0))).as(row[0] + ": " + row[1]).isTrue();
    }
    assertThat(findings).allMatch(met::contains);
  }

  @Test
  void everyKindOccurs() {
    Set<FindingKind> met = EnumSet.noneOf(FindingKind.class);
    findings.forEach(finding -> met.add(finding.kind()));
    assertThat(met).isEqualTo(EnumSet.allOf(FindingKind.class));
  }

  @Test
  void whatIsAdvisedEndsTheFindingAndEndsAndGivesWhatItSays() {
    int done = 0;
    for (Finding finding : findings) {
      Advice advice = Advice.of(assessment, finding);
      if (!advice.changes().isEmpty()) {
        done++;
        AccessModel after = assessment.model().with(advice.changes());
        List<String> left =
            Findings.of(assessment.with(advice.changes())).stream()
                .map(f -> f.key().text())
                .toList();
        assertThat(left).as(FindingWords.sentence(finding)).doesNotContain(finding.key().text());
        assertThat(differences(assessment.model(), after))
            .as(FindingWords.sentence(finding))
            .isEqualTo(differences(advice));
      }
    }
    assertThat(done).isGreaterThan(25);
  }

  /** Which accounts and rights differ anywhere in an application with roles, asked one by one. */
  private static Set<String> differences(AccessModel before, AccessModel after) {
    Set<String> found = new TreeSet<>();
    Asker then = before.asker();
    Asker now = after.asker();
    for (int account = 0; account < before.facts().accounts(); account++) {
      for (SystemView view : before.systems()) {
        if (!view.system().isOfLists()) {
          SystemView viewNow = after.systems().get(view.number());
          for (int right = 0; right < view.rights().size(); right++) {
            for (int node = 0; node < view.resources().size(); node++) {
              if (!then.can(view, account, right, node)
                  .equals(now.can(viewNow, account, right, node))) {
                found.add(account + " " + view.id() + " " + right);
              }
            }
          }
        }
      }
    }
    return found;
  }

  private static Set<String> differences(Advice advice) {
    Set<String> told = new TreeSet<>();
    List<Effect> all = new ArrayList<>(advice.effects().ends());
    all.addAll(advice.effects().gives());
    for (Effect effect : all) {
      SystemView view = assessment.model().systems().get(effect.system());
      if (!view.system().isOfLists()) {
        told.add(effect.account() + " " + view.id() + " " + effect.right());
      }
    }
    return told;
  }

  @Test
  void waiversOfTheDemoCoverWhatTheyName() {
    Triage sorted =
        Triage.of(findings, workspace.waivers(), assessment.model().asOf().getEpochSecond());
    assertThat(sorted.waived())
        .singleElement()
        .satisfies(w -> assertThat(w.finding().kind()).isEqualTo(FindingKind.NO_EMERGENCY_ACCOUNT));
    assertThat(sorted.open()).hasSize(findings.size() - 1);
    assertThat(sorted.told())
        .hasSize(3)
        .anyMatch(line -> line.contains("ended on 2026-10-31"))
        .anyMatch(line -> line.contains("does not name 1 subject"))
        .anyMatch(line -> line.contains("matches no finding"));
  }
}
