package org.sobercompass.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.organization.Organization;

/** The examples run, and the command runs as a process of its own. */
class ExamplesTest {
  @TempDir static Path folder;
  private static Path demo;

  record Ended(int code, String out) {}

  static Ended sober(String... args) throws IOException, InterruptedException {
    String java = Path.of(System.getProperty("java.home"), "bin", "java").toString();
    java.util.ArrayList<String> command =
        new java.util.ArrayList<>(
            List.of(
                java,
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-cp",
                System.getProperty("java.class.path"),
                "org.sobercompass.cli.Sober"));
    command.addAll(List.of(args));
    Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
    String out = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
    return new Ended(process.exitValue(), out);
  }

  @BeforeAll
  static void demo() throws IOException, InterruptedException {
    demo = folder.resolve("demo");
    Ended ended = sober("demo", demo.toString());
    assertThat(ended.code()).as(ended.out()).isZero();
  }

  private interface Program {
    void run() throws IOException;
  }

  private static String printed(Program program) throws IOException {
    PrintStream before = System.out;
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    System.setOut(new PrintStream(bytes, true, StandardCharsets.UTF_8));
    try {
      program.run();
    } finally {
      System.setOut(before);
    }
    return bytes.toString(StandardCharsets.UTF_8);
  }

  @Test
  void whoCanAndWhyPrintsARouteForEachHolder() throws IOException {
    String out =
        printed(() -> WhoCanAndWhy.main(new String[] {demo.toString(), "orders", "payments:sign"}));
    assertThat(out.lines()).hasSize(2);
    assertThat(out)
        .contains("Ilse Brandt (ilse.brandt) → orders-approvers → role Payer everywhere");
  }

  @Test
  void whoIsWhoThereTellsWhatEachLosesAndGains() throws IOException {
    String out =
        printed(() -> WhoIsWhoThere.main(new String[] {demo.toString(), "fernhollow", "alderfen"}));
    assertThat(out)
        .contains("Bea Garnet (bea.garnet): 0 less, 0 more")
        .endsWith("nobody else" + System.lineSeparator());
  }

  @Test
  void leavingAGroupLosesAndUnderDenyAlsoGains() throws IOException {
    assertThat(
            printed(
                () ->
                    WhatIfSheLeftTheGroup.main(
                        new String[] {demo.toString(), "ilse.brandt", "orders-approvers"})))
        .contains("loses orders:payments:sign The whole trust")
        .contains("no longer: Ilse Brandt (ilse.brandt) holds rights that must be kept apart")
        .doesNotContain("gains");
    assertThat(
            printed(
                () ->
                    WhatIfSheLeftTheGroup.main(
                        new String[] {demo.toString(), "joss.merrin", "orders-frozen"})))
        .contains("gains orders:orders:raise The whole trust")
        .doesNotContain("loses");
  }

  @Test
  void aRoleIsGivenUnlessAConflictBeginsAndCanBeTakenBack() throws IOException {
    Path copy = folder.resolve("copy");
    try {
      assertThat(sober("demo", copy.toString()).code()).isZero();
    } catch (InterruptedException e) {
      throw new IOException(e);
    }
    String home = copy.toString();
    assertThat(
            printed(
                () ->
                    GiveARoleSafely.main(
                        new String[] {home, "orders", "payer", "moss.yarrow", "office"})))
        .contains("must be kept apart")
        .endsWith("not given\n");
    String table = Files.readString(copy.resolve("assignments/permits.actual.csv"));
    assertThat(
            printed(
                () ->
                    GiveARoleSafely.main(
                        new String[] {home, "permits", "clerk", "nell.dunmore", "vault"})))
        .contains("3 permissions more")
        .endsWith("assignments/permits.actual.csv\n");
    assertThat(Files.readString(copy.resolve("assignments/permits.actual.csv")))
        .startsWith(table)
        .contains("clerk,account,nell.dunmore,vault");
    Organization after = Organization.open(copy);
    after.write(after.proposal(copy.resolve("proposals/take-back.yaml"), "take-back.yaml"), "", "");
    assertThat(Files.readString(copy.resolve("assignments/permits.actual.csv"))).isEqualTo(table);
  }

  @Test
  void thePageIsWritten() throws IOException {
    Path page = folder.resolve("example.html");
    assertThat(printed(() -> PageOfFindings.main(new String[] {demo.toString(), page.toString()})))
        .contains("84 findings: 18 high")
        .contains("1 accepted");
    assertThat(page).exists();
  }

  @Test
  void theProcessEndsWithTheCodeOfItsAnswer() throws IOException, InterruptedException {
    assertThat(sober("can", "ilse.brandt", "orders:payments:sign", "-w", demo.toString()).code())
        .isZero();
    assertThat(sober("can", "joss.merrin", "orders:orders:raise", "-w", demo.toString()).code())
        .isEqualTo(1);
    assertThat(sober("cn").code()).isEqualTo(2);
    assertThat(sober("check", "-w", folder.resolve("nowhere").toString()).code()).isEqualTo(3);
  }
}
