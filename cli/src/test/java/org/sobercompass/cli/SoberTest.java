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
            "Ilse Brandt (ilse.brandt) holds 28 permissions in 7 of 11 applications: all usable.");
    assertThat(onDemo("holders", "orders:payments:sign").out())
        .startsWith("2 accounts hold orders:payments:sign at The whole trust.");
    assertThat(onDemo("findings").out())
        .startsWith("84 findings: 18 high, 30 medium, 36 low; 1 accepted.");
  }

  @Test
  void anAdminActionIsAskedOfAnObjectAndItsWaysAreTold() {
    Said routes = onDemo("routes", "nlarkin", "set-password", "--on", "wmarsh");
    assertThat(routes.code()).isZero();
    assertThat(routes.out()).startsWith("Yes: Nora Larkin").contains("admin role");
    assertThat(onDemo("holders", "set-password").code()).isEqualTo(2);
  }

  @Test
  void checkTellsExactlyWhatWasPlanted() {
    Said said = onDemo("check");
    assertThat(said.code()).isEqualTo(1);
    assertThat(said.out())
        .startsWith("The workspace can be read; 9 things need a look.")
        .contains(
            "doors: 69 of 71 accounts with assignments can use it (1 disabled, 1 locked);" + " it")
        .contains("climate: 114 of 114 accounts with assignments can use it; it asks for no")
        .contains("permits: 11 of 14 accounts with assignments can use it (1 expired, 2");
    assertThat(
            onDemo("check", "--format", "jsonl").out().lines().filter(l -> l.contains("warning")))
        .hasSize(9)
        .anyMatch(line -> line.contains("tomas.reed"))
        .anyMatch(line -> line.contains("Doors has no emergency account"))
        .anyMatch(line -> line.contains("ledger-keyring was last tried 382 days ago"));
  }

  /** As the demo's README lists them, no more and no fewer. */
  @Test
  void delegationsFindsExactlyWhatWasPlanted() {
    assertThat(rows("delegations"))
        .containsExactlyInAnyOrder(
            "glass-coordinators on Glasshouses: added here",
            "desk-helpers on Edda Voss (director): added here",
            "everyone signed in on finance-desks: added here",
            "everyone signed in on Joss Merrin (desk): added here",
            "Ase Lindqvist (desk) (alindqvist) on Joss Merrin (desk): added here",
            "desk-helpers on Herbarium: added here",
            "Ivo Beck (desk) (ibeck) on Herbarium: added here",
            "S-1-5-21-1871-2902-3733-9317 (nobody) on Hosts: added here",
            "Desk joining service (svc-desk-join) on Hosts: added here",
            "glass-coordinators on Seed Vault: added here",
            "desk-helpers on Services: says it is inherited, and is not");
    assertThat(onDemo("delegations").out())
        .contains("Seed Vault blocks inheritance.")
        .contains("Joss Merrin (desk) has a list out of order.")
        .contains("Herbarium (Ivo Beck (desk) (ibeck)) is owned by a person.");
    assertThat(rows("delegations", "--by", "holder").stream().map(r -> r.split(" on ")[0]))
        .isSortedAccordingTo(String::compareTo);
    assertThat(onDemo("delegations", "--to", "nobody", "--proof").out())
        .startsWith("1 delegation: 1 to unresolved trustees.")
        .contains("(OA;;CC;")
        .doesNotContain("blocks inheritance");
    assertThat(rows("delegations", "--to", "person")).hasSize(3);
    assertThat(rows("delegations", "--to", "nobody")).hasSize(1);
    assertThat(rows("delegations", "--at", "Herbarium")).hasSize(2);
    assertThat(rows("delegations", "--holder", "desk-helpers")).hasSize(3);
    assertThat(rows("delegations", "--action", "set-password")).hasSize(4);
    assertThat(rows("delegations", "--at", "Herbarium", "--origin", "inherited"))
        .contains("desk-helpers on Ase Lindqvist (desk): from above");
  }

  /** Holder, object and origin of each delegation told. */
  private List<String> rows(String... asked) {
    List<String> all = new ArrayList<>(List.of(asked));
    all.addAll(List.of("--format", "jsonl"));
    List<String> rows = new ArrayList<>();
    for (String line : onDemo(all.toArray(String[]::new)).out().lines().toList()) {
      rows.add(value(line, "holder") + " on " + value(line, "on") + ": " + value(line, "origin"));
    }
    return rows;
  }

  private static String value(String line, String name) {
    var found = java.util.regex.Pattern.compile("\"" + name + "\":\"([^\"]*)\"").matcher(line);
    return found.find() ? found.group(1) : "";
  }

  @Test
  void theWalkThroughDelegationAnswersItsThreeQuestions() {
    assertThat(onDemo("holders", "set-password", "--on", "evoss").out())
        .startsWith("4 accounts can do this to Edda Voss (director) (evoss): set a new password.")
        .contains("Bram Ostler (desk) (bostler) → ")
        .contains("Maren Holt")
        .contains("Gil Wick");
    assertThat(onDemo("show", "powers", "nlarkin", "--beside", "glasshouses").out())
        .contains("Bram Ostler (desk) (bostler), Tova Quill")
        .contains("finance-desks");
    assertThat(onDemo("can", "bostler", "set-password", "--on", "evoss").code()).isZero();
    Said no = onDemo("can", "nlarkin", "set-password", "--on", "tquill");
    assertThat(no.code()).isEqualTo(1);
    assertThat(no.out()).contains("Site desk over Glasshouses has the action, but Tova Quill");
    assertThat(onDemo("can", "nlarkin", "set-pasword", "--on", "tquill").err())
        .contains("did you mean set-password?");
    assertThat(onDemo("trial", "nlarkin", "--act", "set-password", "--on", "wmarsh").code())
        .isZero();
  }

  @Test
  void adminActionsAndSingleRightsGoInBatchesToo(@TempDir Path folder) throws IOException {
    Path questions = folder.resolve("q.csv");
    Files.writeString(
        questions,
        "account,permission,node\nbostler,set-password,evoss\n"
            + "nlarkin,write=telephoneNumber,tquill\nnlarkin,write=mail,tquill\n"
            + "tova.quill,permits:permits:issue,vault\nnlarkin,fly,tquill\n");
    Said said = onDemo("can", "--questions", questions.toString(), "--why");
    assertThat(said.code()).isEqualTo(3);
    assertThat(said.err()).contains("q.csv:6: there is no admin action \"fly\"");
    assertThat(said.out().lines().skip(1).map(line -> line.split(",")[3]))
        .containsExactly("yes", "yes", "no", "yes", "error");
    assertThat(said.out()).contains("desk-helpers (Edda Voss (director))");
  }

  @Test
  void whatIsWithinReachIsToldByAShortestChain() {
    assertThat(onDemo("reach").out())
        .startsWith("4 powers; at least 6 accounts could give one of them");
    assertThat(onDemo("reach", "desks", "--format", "jsonl").out().lines())
        .hasSize(3)
        .anyMatch(
            line ->
                line.contains(
                    "set a new password: Gil Wick (desk) (gwick) → set a new password: Edda Voss"
                        + " (director) (evoss) → is in desk-owners"));
    assertThat(onDemo("reach", "--sides").out()).contains("< applications only");
    assertThat(onDemo("reach", "nothing").err())
        .contains("there are: desks, rounds, seedbook, fieldbook");
    assertThat(onDemo("show", "scope", "helped").out()).contains("scope herbarium");
    assertThat(onDemo("show", "scopes").out()).startsWith("4 admin scopes;");
    assertThat(onDemo("delegations", "--tree").out()).contains("! desk-helpers: change its perm");
  }

  /** Also where its name stands in the evidence only, or nowhere: a dormant account, a circle. */
  @Test
  void findingsOfAnApplicationAreAllThatConcernIt() {
    assertThat(onDemo("findings", "--app", "seedbook", "--format", "csv").out())
        .contains("power-only-in-application")
        .doesNotContain("administers Rounds");
    assertThat(onDemo("findings", "--app", "doors", "--format", "csv").out())
        .contains("circular-nesting")
        .contains("dangling-member")
        .doesNotContain("administers Rounds")
        .doesNotContain("administer Seedbook");
    assertThat(onDemo("findings", "--app", "orders", "--format", "csv").out())
        .contains("order-and-pay");
  }

  @Test
  void thePersonBehindTwoAccountsIsNamedWithTheReason() {
    assertThat(onDemo("show", "account", "ilse.brandt").out())
        .contains("The same person has ibrandt in fernhollow (confirmed by the head office");
    assertThat(onDemo("show", "account", "lio.harrow").out()).doesNotContain("The same person");
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
        "dn: uid=a,dc=example\nobjectClass: inetOrgPerson\nuid: a\n\n");
    assertThat(sober("check", "--workspace", folder.toString()).code()).isZero();
    assertThat(sober("begin", folder.toString()).code()).isEqualTo(2);
  }

  @Test
  void badInputIsToldWithItsPlaceAndNothingIsWritten(@TempDir Path folder) throws IOException {
    DemoFiles.write(folder);
    Path csv = folder.resolve("assignments/orders.actual.csv");
    Files.writeString(
        csv, Files.readString(csv) + "payr,group,finance,trust,,,\nclerk,group,finance,vualt,,,\n");
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
        .contains("84 findings")
        .contains("Yes: Tova Quill")
        .contains("No: Joss Merrin");
    assertThat(folder.resolve("new/page.html")).exists();
  }

  @Test
  void oneFindingIsToldWithItsRoutesAndTheLeastThatEndsIt() {
    Said said = onDemo("findings", "--detail", "1");
    assertThat(said.code()).isEqualTo(1);
    assertThat(said.out())
        .startsWith("Ilse Brandt (ilse.brandt) holds rights that must be kept apart")
        .contains("└─ is given the role Clerk of Orders")
        .contains("The least removals (proved least)")
        .contains("1. take Ilse Brandt (ilse.brandt) out of orders-approvers")
        .contains("Ilse Brandt (ilse.brandt) in Orders: payments:sign")
        .contains("To accept it instead");
  }

  @Test
  void findingsAreFilteredByKindApplicationSubjectAndOwner() {
    assertThat(onDemo("findings", "--kind", "no-owner").out()).startsWith("3 findings: 3 low.");
    assertThat(onDemo("findings", "--app", "rounds").out()).contains("svc-weather");
    assertThat(onDemo("findings", "--about", "zeb.sedge").out()).startsWith("1 finding: 1 medium.");
    assertThat(onDemo("findings", "--owner", "edda.voss").out()).contains("Helper");
    assertThat(onDemo("findings", "--owner", "ruth.marsh").out())
        .contains("rounds-relief")
        .doesNotContain("order-and-pay");
    assertThat(onDemo("findings", "--kind", "no-ownr").err()).contains("did you mean no-owner?");
    assertThat(onDemo("findings", "--detail", "99").code()).isEqualTo(2);
  }

  @Test
  void pipelinesGetSarifAndJunit(@TempDir Path folder) throws IOException {
    Path sarif = folder.resolve("f.sarif");
    Path junit = folder.resolve("e.xml");
    Said findings = onDemo("findings", "--weight", "high", "--sarif", sarif.toString());
    assertThat(findings.code()).isEqualTo(1);
    assertThat(Files.readString(sarif))
        .contains("\"version\" : \"2.1.0\"")
        .contains("\"ruleId\" : \"separation-of-duties\"")
        .doesNotContain("\"level\" : \"note\"");
    Said expected = onDemo("expect", "--junit", junit.toString());
    assertThat(expected.code()).isEqualTo(1);
    assertThat(expected.out()).startsWith("4 of 6 expectations hold; 2 fail.");
    assertThat(Files.readString(junit))
        .contains("tests=\"6\" failures=\"2\" errors=\"0\"")
        .contains("name=\"order-or-pay\"");
  }
}
