package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import javax.xml.parsers.DocumentBuilderFactory;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.report.answers.AdviceWords;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.sources.workspace.Workspace;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The pipeline example of the docs as a process, and the pages of the kinds against the demo. */
class PipelineTest {
  private static final Path DOCS = Path.of("../docs");
  @TempDir static Path demo;
  private static Assessment assessment;
  private static List<Finding> findings;

  @BeforeAll
  static void write() {
    DemoFiles.write(demo);
    Workspace workspace = Workspace.open(demo);
    assessment = workspace.assessment(workspace.model());
    findings = Findings.of(assessment);
  }

  private static int run(Path workspace, Path out) throws Exception {
    ProcessBuilder builder =
        new ProcessBuilder(
            List.of(
                "bash", DOCS.resolve("pipeline.sh").toString(), workspace.toString(), out + ""));
    builder
        .environment()
        .put(
            "SOBER",
            "java -cp " + System.getProperty("java.class.path") + " org.sobercompass.cli.Sober");
    Process process =
        builder
            .redirectErrorStream(true)
            .redirectOutput(out.resolveSibling(out.getFileName() + ".log").toFile())
            .start();
    assertThat(process.waitFor(2, TimeUnit.MINUTES)).isTrue();
    return process.exitValue();
  }

  @Test
  void thePipelineStopsAndLeavesReportsThatOthersRead(@TempDir Path folder) throws Exception {
    Path out = folder.resolve("out");
    assertThat(run(demo, out)).isEqualTo(1);
    JsonNode sarif = JsonMapper.shared().readTree(Files.readString(out.resolve("findings.sarif")));
    JsonNode results = sarif.path("runs").path(0).path("results");
    assertThat(results.size()).isEqualTo(18);
    assertThat(results.path(0).path("level").stringValue()).isEqualTo("error");
    assertThat(results.path(0).path("partialFingerprints").path("stableKey/v1").stringValue())
        .startsWith("finding:separation-of-duties/order-and-pay/");
    JsonNode expected =
        JsonMapper.shared().readTree(Files.readString(out.resolve("expectations.sarif")));
    assertThat(
            expected
                .at("/runs/0/results/0/locations/0/physicalLocation/artifactLocation/uri")
                .stringValue())
        .isEqualTo("expectations.yaml");
    var xml =
        DocumentBuilderFactory.newInstance()
            .newDocumentBuilder()
            .parse(out.resolve("expectations.xml").toFile());
    assertThat(xml.getElementsByTagName("testcase").getLength()).isEqualTo(6);
    assertThat(xml.getElementsByTagName("failure").getLength()).isEqualTo(2);
  }

  @Test
  void wrongInputStopsItWithItsOwnCode(@TempDir Path folder) throws Exception {
    Path broken = folder.resolve("broken");
    DemoFiles.write(broken);
    Files.writeString(
        broken.resolve("expectations.yaml"),
        "expectations:\n"
            + "  - {id: a, these: [ilse.brandt], can: 'orders:orders:raise'}\n"
            + "  - {id: b, these: [group orders-raisers], cannot: 'orders:orders:raise'}\n");
    assertThat(run(broken, folder.resolve("out"))).isEqualTo(3);
    assertThat(Files.readString(folder.resolve("out.log")))
        .contains("expectations.yaml:3")
        .contains("a and b contradict each other for Ilse Brandt");
  }

  @ParameterizedTest
  @EnumSource(FindingKind.class)
  void eachKindHasAPageWhoseExampleIsWhatTheDemoSays(FindingKind kind) throws IOException {
    String page = Files.readString(DOCS.resolve("findings/" + kind.id() + ".md"));
    assertThat(page)
        .contains(
            "## What it means", "## How to end it", "## When to waive it", kind.mend().words());
    String example =
        page.lines().filter(l -> l.startsWith("> ")).findFirst().orElseThrow().substring(2);
    Finding finding =
        findings.stream()
            .filter(
                f -> f.kind() == kind && (FindingWords.sentence(f) + ".").equalsIgnoreCase(example))
            .findFirst()
            .orElseThrow(() -> new AssertionError(kind + ": the demo does not say " + example));
    assertThat(page)
        .contains(
            "Weight "
                + finding.weight().word()
                + ": "
                + String.join("; ", FindingWords.of(finding).why())
                + ".");
    if (!finding.evidence().isEmpty()) {
      assertThat(page).contains("    " + FindingWords.evidence(finding).get(0));
    }
    Advice advice = Advice.of(assessment, finding);
    AdviceWords words = new AdviceWords(assessment);
    if (advice.changes().isEmpty()) {
      assertThat(page).doesNotContain("In the demo (");
    } else {
      assertThat(page)
          .contains(
              "In the demo ("
                  + words.proof(advice)
                  + "): "
                  + String.join("; ", words.changes(advice.changes()))
                  + ".");
    }
    assertThat(Files.readString(DOCS.resolve("findings.md"))).contains("findings/" + kind.id());
  }
}
