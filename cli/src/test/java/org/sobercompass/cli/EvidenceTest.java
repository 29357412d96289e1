package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The archive for an auditor: whole, checked by its digests, the same again. */
class EvidenceTest {
  @TempDir Path folder;
  private Path demo;

  @BeforeEach
  void demo() {
    demo = folder.resolve("demo");
    DemoFiles.write(demo);
  }

  private SoberTest.Said sober(String... words) {
    List<String> all = new ArrayList<>(List.of(words));
    all.addAll(List.of("-w", demo.toString()));
    return SoberTest.sober(all.toArray(String[]::new));
  }

  private static Map<String, byte[]> files(Path archive) throws IOException {
    Map<String, byte[]> files = new TreeMap<>();
    try (ZipInputStream zip = new ZipInputStream(Files.newInputStream(archive))) {
      for (ZipEntry e = zip.getNextEntry(); e != null; e = zip.getNextEntry()) {
        files.put(e.getName(), zip.readAllBytes());
      }
    }
    return files;
  }

  private static String text(Map<String, byte[]> files, String name) {
    assertThat(files).containsKey(name);
    return new String(files.getOrDefault(name, new byte[0]), StandardCharsets.UTF_8);
  }

  @Test
  void withoutASurveyThereIsNoEvidence() {
    SoberTest.Said said = sober("evidence", folder.resolve("e.zip").toString());
    assertThat(said.code()).isEqualTo(2);
    assertThat(said.err()).contains("there is no survey in").contains("sober survey");
    assertThat(folder.resolve("e.zip")).doesNotExist();
  }

  @Test
  void theSameSurveyGivesTheSameArchiveAndItsDigestsHold() throws Exception {
    assertThat(sober("survey").code()).isLessThan(2);
    Path one = folder.resolve("one.zip");
    Path two = folder.resolve("two.zip");
    SoberTest.Said said = sober("evidence", one.toString());
    assertThat(said.out())
        .contains("84 findings: 18 high, 30 medium, 36 low; 1 accepted")
        .contains("SHA-256 " + digest(Files.readAllBytes(one)));
    Path table = demo.resolve("assignments/orders.actual.csv");
    Files.writeString(table, Files.readString(table) + "auditor,account,vera.kestle,trust,,,\n");
    assertThat(sober("evidence", two.toString()).code()).isZero();
    assertThat(Files.mismatch(one, two)).as("what changed since is not in it").isEqualTo(-1);
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(one)))
        .isEqualTo("rw-------");
    Map<String, byte[]> files = files(one);
    for (String line : text(files, "SHA256SUMS").lines().toList()) {
      String name = line.substring(66);
      assertThat(digest(files.getOrDefault(name, new byte[0]))).isEqualTo(line.substring(0, 64));
    }
    assertThat(text(files, "SHA256SUMS").lines().count()).isEqualTo(files.size() - 1);
    assertThat(text(files, "findings.csv").lines().count()).isGreaterThan(85);
    assertThat(text(files, "rules/compass.yaml")).contains("separation:");
    assertThat(text(files, "thresholds.csv")).contains("dormant");
    assertThat(text(files, "not-read.csv")).contains("tomas.reed");
    assertThat(text(files, "README.txt"))
        .contains("1 accepted")
        .contains("the waiver of Wren Calloway ended on 2026-10-31");
  }

  @Test
  void decisionsAmendmentsAndChangesGoIn() throws IOException {
    Path before = folder.resolve("before.survey.zip");
    assertThat(sober("survey", "--out", before.toString()).code()).isLessThan(2);
    Path review = folder.resolve("review");
    SoberTest.Said sheets = sober("review", "sheets", review.toString());
    assertThat(sheets.code()).as(sheets.err()).isZero();
    String sheet = Files.readString(review.resolve("sheets/lio.harrow.csv"));
    Files.writeString(
        review.resolve("answers/lio.csv"), sheet.replaceAll(",,,,,\\R", ",keep,,,still needed,\n"));
    Path end = folder.resolve("end");
    assertThat(sober("amend", "proposals/leave-approvers.ldif", "--out", end.toString()).code())
        .isZero();
    Path table = demo.resolve("assignments/orders.actual.csv");
    Files.writeString(table, Files.readString(table) + "auditor,account,vera.kestle,trust,,,\n");
    assertThat(sober("survey").code()).isLessThan(2);
    Path file = folder.resolve("e.zip");
    SoberTest.Said said =
        sober(
            "evidence",
            file.toString(),
            "--review",
            review.toString(),
            "--amendment",
            end.toString(),
            "--since",
            before.toString());
    assertThat(said.code()).as(said.err()).isZero();
    Map<String, byte[]> files = files(file);
    assertThat(text(files, "review-review-decisions.csv"))
        .contains("\"Lio Harrow (lio.harrow)\",\"still needed\"");
    assertThat(text(files, "amendment-end.csv")).contains("orders-approvers");
    assertThat(text(files, "changes-1.csv")).contains("Vera Kestle");
  }

  private static String digest(byte[] bytes) throws Exception {
    return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
  }
}
