package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** The command as it is typed: what is printed, where, and the exit code. */
class SoberTest {
  @TempDir static Path demo;

  record Said(int code, String out, String err) {}

  static Said sober(String... args) {
    StringWriter out = new StringWriter();
    StringWriter err = new StringWriter();
    int code = Sober.run(new PrintWriter(out), new PrintWriter(err, true), args);
    return new Said(code, out.toString(), err.toString());
  }

  private static Said onDemo(String... args) {
    List<String> all = new ArrayList<>(List.of(args));
    all.addAll(List.of("--workspace", demo.toString()));
    return sober(all.toArray(String[]::new));
  }

  @BeforeAll
  static void write() {
    DemoFiles.write(demo);
  }

  @Test
  void theFirstLineIsTheAnswer() {
    assertThat(onDemo("show", "account", "ilse.brandt").out())
        .startsWith(
            "Ilse Brandt (ilse.brandt) holds 18 permissions in 5 of 7 applications: all usable.");
    assertThat(onDemo("holders", "orders:payments:sign").out())
        .startsWith("2 accounts hold orders:payments:sign at The whole trust.");
    assertThat(onDemo("findings").out()).startsWith("17 findings: 5 high, 5 medium, 7 low.");
  }

  @Test
  void checkTellsExactlyWhatWasPlanted() {
    Said said = onDemo("check");
    assertThat(said.code()).isEqualTo(1);
    assertThat(said.out())
        .startsWith("The workspace can be read; 3 things need a look.")
        .contains(
            "doors: 70 of 71 accounts that are given something can use it (1 disabled); it sees ")
        .contains(
            "climate: 101 of 101 accounts that are given something can use it; it asks for no")
        .contains("permits: 11 of 14 accounts that are given something can use it (1 expired, 2");
    assertThat(
            onDemo("check", "--format", "jsonl").out().lines().filter(l -> l.contains("warning")))
        .hasSize(3)
        .anyMatch(line -> line.contains("tomas.reed"))
        .anyMatch(line -> line.contains("Doors has no emergency account"))
        .anyMatch(line -> line.contains("ledger-keyring was last tried 382 days ago"));
  }

  @Test
  void thePersonBehindTwoAccountsIsNamedWithTheReason() {
    assertThat(onDemo("show", "account", "ilse.brandt").out())
        .contains("The same person has ibrandt in fernhollow (confirmed by the head office");
    assertThat(onDemo("show", "account", "joss.merrin").out()).doesNotContain("The same person");
  }

  @ParameterizedTest
  @CsvSource({
    "0, tova.quill, permits:permits:issue, vault",
    "1, joss.merrin, orders:orders:raise, trust",
    "1, oskar.lund, doors:door:open, vault",
    "1, lio.harrow, permits:permits:issue, trust"
  })
  void canAnswersWithItsExitCode(int code, String account, String permission, String node) {
    assertThat(onDemo("can", account, permission, "--at", node).code()).isEqualTo(code);
  }

  @Test
  void aNoSaysWhatStopsIt() {
    assertThat(onDemo("can", "joss.merrin", "orders:orders:raise").out())
        .contains("No: Joss Merrin")
        .contains("denied: Frozen to orders-frozen");
    assertThat(onDemo("routes", "lio.harrow", "permits:permits:issue").out())
        .contains("the application does not");
    assertThat(onDemo("routes", "maren.holt", "doors:door:open", "--at", "vault").out())
        .contains("a nearer assignment decides");
  }

  @Test
  void aMistypedNameGetsTheNearestAndExitCodeTwo() {
    Said said = onDemo("show", "account", "ilse.brant");
    assertThat(said.code()).isEqualTo(2);
    assertThat(said.err()).contains("did you mean ilse.brandt?");
    assertThat(onDemo("holders", "orders:payments:sing").err())
        .contains("did you mean payments:sign?");
    assertThat(onDemo("holders", "order:payments:sign").err()).contains("did you mean orders?");
    assertThat(onDemo("can", "ilse.brandt", "doors:door:open", "--at", "vualt").err())
        .contains("did you mean vault?");
  }

  @Test
  void aNameThatFitsTwoListsBothAndStops() {
    Said said = onDemo("show", "account", "Ilse Brandt");
    assertThat(said.code()).isEqualTo(2);
    assertThat(said.err())
        .contains("fits 2 accounts")
        .contains("dc=alderfen")
        .contains("dc=fernhollow");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "demo",
        "begin",
        "probe",
        "check",
        "survey",
        "trial",
        "roles",
        "drift",
        "show",
        "holders",
        "routes",
        "can",
        "list",
        "compare",
        "findings",
        "report"
      })
  void everyCommandHasHelpWithAnExample(String command) {
    Said said = sober(command, "--help");
    assertThat(said.code()).isZero();
    assertThat(said.out()).contains("Example");
  }

  @Test
  void anUnknownCommandOrOptionIsMistyped() {
    assertThat(sober("shwo").code()).isEqualTo(2);
    assertThat(onDemo("show", "--nonsense").code()).isEqualTo(2);
  }

  @Test
  void batchAnswersComeInTheOrderAsked(@TempDir Path folder) throws IOException {
    Path csv = folder.resolve("questions.csv");
    Files.writeString(
        csv,
        "account,permission,node\nwren.calloway,doors:door:open,vault\n"
            + "ilse.brandt,orders:payments:sign,\nwren.calloway,seedbook:labels:print,herbarium\n");
    Said said = onDemo("can", "--questions", csv.toString(), "--why");
    assertThat(said.code()).isZero();
    assertThat(said.out().lines().skip(1).map(line -> line.split(",")[3]))
        .containsExactly("no", "yes", "yes");
    Path json = folder.resolve("questions.jsonl");
    Files.writeString(
        json,
        "{\"account\":\"ilse.brandt\",\"permission\":\"orders:payments:sign\"}\n"
            + "{\"account\":\"nobody\",\"permission\":\"orders:payments:sign\"}\n");
    Said other = onDemo("can", "--questions", json.toString(), "--format", "jsonl");
    assertThat(other.code()).isEqualTo(3);
    assertThat(other.out().lines()).hasSize(2).last().asString().contains("\"error\"");
    assertThat(other.err()).contains("questions.jsonl:2").contains("nobody");
  }

  @Test
  void aWindowThatIsOverEndsARightAndAsOfMovesIt() {
    assertThat(
            onDemo("can", "tova.quill", "seedbook:exports:approve", "--as-of", "2027-03-31").code())
        .isZero();
    assertThat(
            onDemo("can", "tova.quill", "seedbook:exports:approve", "--as-of", "2027-04-01").code())
        .isEqualTo(1);
    assertThat(onDemo("can", "ruth.marsh", "seedbook:labels:print", "--at", "glasshouses").code())
        .isEqualTo(1);
    assertThat(
            onDemo(
                    "can",
                    "ruth.marsh",
                    "seedbook:labels:print",
                    "--at",
                    "glasshouses",
                    "--as-of",
                    "2027-01-01")
                .code())
        .isZero();
  }

  @Test
  void intendedAndActualAreKeptApart() {
    assertThat(onDemo("can", "edda.voss", "orders:payments:sign", "--at", "office").code())
        .isZero();
    assertThat(
            onDemo(
                    "can",
                    "edda.voss",
                    "orders:payments:sign",
                    "--at",
                    "office",
                    "--use",
                    "intended")
                .code())
        .isEqualTo(1);
    assertThat(onDemo("drift").out()).startsWith("4 assignments differ");
  }

  @Test
  void accountsArePickedByAttribute() {
    Said said =
        onDemo("show", "accounts", "--where", "(departmentNumber=Herbarium)", "--format", "csv");
    assertThat(said.out().lines()).hasSize(1 + 9);
    assertThat(onDemo("show", "accounts", "--where", "(departmentNumbr=Herbarium)").err())
        .contains("misspelt");
  }

  @Test
  void listsStreamEveryHoldingAndMembership() {
    long rows = onDemo("list", "holdings").out().lines().count();
    long csv = onDemo("list", "holdings", "--format", "csv").out().lines().count();
    assertThat(rows).isGreaterThan(1000).isEqualTo(csv - 1);
    assertThat(onDemo("list", "holdings").out().lines())
        .allMatch(line -> line.startsWith("{") && line.endsWith("}"));
    assertThat(onDemo("list", "memberships").out().lines().findFirst().orElse(""))
        .contains("\"direct\"");
  }

  @Test
  void sameInputSameOutputByteForByte() {
    for (String format : List.of("json", "jsonl", "csv", "table")) {
      assertThat(onDemo("findings", "--format", format).out())
          .isEqualTo(onDemo("findings", "--format", format).out());
    }
  }

  @Test
  void aNewWorkspaceIsCommentedAndNothingIsOverwritten(@TempDir Path folder) throws IOException {
    assertThat(sober("begin", folder.toString()).code()).isZero();
    Files.writeString(
        folder.resolve("directory.ldif"),
        "dn: uid=a,dc=example\nobjectClass: inetOrgPerson\nuid: a\n");
    assertThat(sober("check", "--workspace", folder.toString()).code()).isZero();
    assertThat(sober("begin", folder.toString()).code()).isEqualTo(2);
  }

  @Test
  void badInputIsToldWithItsPlaceAndNothingIsWritten(@TempDir Path folder) throws IOException {
    DemoFiles.write(folder);
    Path csv = folder.resolve("assignments/orders.actual.csv");
    Files.writeString(
        csv, Files.readString(csv) + "payr,group,finance,trust,,\nclerk,group,finance,vualt,,\n");
    Said said =
        sober("report", folder.resolve("out.html").toString(), "--workspace", folder.toString());
    assertThat(said.code()).isEqualTo(3);
    assertThat(said.err())
        .contains("2 problems")
        .contains("orders.actual.csv:7")
        .contains("did you mean payer?")
        .contains("orders.actual.csv:8")
        .contains("did you mean vault?");
    assertThat(folder.resolve("out.html")).doesNotExist();
  }

  @Test
  void theDemoRunsWholeIntoAFreshFolder(@TempDir Path folder) {
    Said said = sober("demo", folder.resolve("new").toString());
    assertThat(said.code()).as(said.err()).isZero();
    assertThat(said.out())
        .contains("17 findings")
        .contains("Yes: Tova Quill")
        .contains("No: Joss Merrin");
    assertThat(folder.resolve("new/page.html")).exists();
  }
}
