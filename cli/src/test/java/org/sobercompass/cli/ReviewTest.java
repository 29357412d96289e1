package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A review of the demo: sheets out, answers in, and what follows. */
class ReviewTest {
  @TempDir Path folder;
  private Path demo;
  private Path review;

  @BeforeEach
  void sheets() {
    demo = folder.resolve("demo");
    DemoFiles.write(demo);
    review = folder.resolve("review");
    SoberTest.Said said = sober(demo, "review", "sheets", review.toString());
    assertThat(said.code()).as(said.err()).isZero();
  }

  private static SoberTest.Said sober(Path root, String... words) {
    List<String> all = new ArrayList<>(List.of(words));
    all.addAll(List.of("-w", root.toString()));
    return SoberTest.sober(all.toArray(String[]::new));
  }

  private SoberTest.Said gather(String... more) {
    List<String> words = new ArrayList<>(List.of("review", "gather", review.toString()));
    words.addAll(List.of(more));
    return sober(demo, words.toArray(String[]::new));
  }

  private String sheet(String login) throws IOException {
    return Files.readString(review.resolve("sheets/" + login + ".csv"));
  }

  /** Puts an answer behind each row that has a text in it; the five last columns are empty. */
  private static UnaryOperator<String> answer(String row, String answer) {
    return text ->
        text.lines()
            .map(l -> l.contains(row) && l.endsWith(",,,,,") ? cut(l) + "," + answer : l)
            .reduce("", (all, line) -> all + line + "\n");
  }

  @Test
  void aRoleThatOnlyTakesAwayIsToldWithWhatItTakes() throws IOException {
    try (Stream<Path> sheets = Files.list(review.resolve("sheets"))) {
      StringBuilder all = new StringBuilder();
      for (Path sheet : sheets.filter(file -> file.toString().endsWith(".csv")).toList()) {
        all.append(Files.readString(sheet));
      }
      assertThat(all)
          .contains("which takes away orders:raise, payments:view, with all that contains it");
    }
  }

  private static String cut(String line) {
    return line.substring(0, line.length() - ",,,,,".length());
  }

  private void answers(String name, String text) throws IOException {
    Files.writeString(review.resolve("answers").resolve(name), text);
  }

  @Test
  void everyoneWhoAnswersForSomethingGetsASheetInThreeForms() throws IOException {
    SoberTest.Said who = sober(demo, "review", "who");
    assertThat(who.out())
        .startsWith("8 persons answer for 267 of 344 items; for 77 nobody does.")
        .contains("Tova Quill (tova.quill)        tova.quill     37")
        .contains("owner of Field notes (4)");
    try (Stream<Path> files = Files.list(review.resolve("sheets"))) {
      List<Path> all = files.toList();
      assertThat(all).hasSize(24);
      for (Path file : all) {
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
            .isEqualTo("rw-------");
      }
    }
    assertThat(sheet("tova.quill"))
        .contains("\"owner of /vault of Field-notes share\"")
        .contains("\"manager of Oskar Lund (oskar.lund)\"")
        .contains("\"owner of the group vault-leads\"")
        .contains("your own: somebody else should confirm it");
    assertThat(sheet("wren.calloway")).doesNotContain("/vault,");
  }

  @Test
  void aFolderThatHoldsAReviewIsNotWrittenOver() {
    SoberTest.Said again = sober(demo, "review", "sheets", review.toString());
    assertThat(again.code()).isEqualTo(2);
    assertThat(again.err()).contains("holds a review already");
  }

  @Test
  void whatIsTakenAwayBecomesAProposalThatEndsAFinding() throws IOException {
    answers(
        "maren.csv",
        answer("Stand-in buyer of Orders", "take away,,,,").apply(sheet("maren.holt")));
    SoberTest.Said said = gather();
    assertThat(said.code()).as("the rest is open").isEqualTo(1);
    assertThat(said.out())
        .startsWith("3 of 267 items are answered: 0 kept")
        .contains("3 taken away");
    SoberTest.Said preview = sober(demo, "preview", review.resolve("decided.yaml").toString());
    assertThat(preview.out())
        .startsWith("Nobody gains anything; 2 accounts lose 12 permissions in Orders;")
        .contains("2 findings end;")
        .contains("edda.voss");
  }

  @Test
  void aDelegationThatIsTakenAwayEndsItsFinding() throws IOException {
    answers(
        "edda.csv",
        answer("delegated: set a new password, edit the members\",Glasshouses", "take away,,,,")
            .andThen(answer("everyone signed in\",\"delegated: edit the members", "take away,,,,"))
            .apply(sheet("edda.voss")));
    SoberTest.Said said = gather();
    assertThat(said.out()).contains("2 taken away");
    SoberTest.Said preview = sober(demo, "preview", review.resolve("decided.yaml").toString());
    assertThat(preview.code()).as(preview.err()).isZero();
    assertThat(preview.out()).contains("assigned-to-everyone").contains("set a new password");
    assertThat(preview.out().split("- loses", -1)).hasSizeGreaterThan(3);
  }

  @Test
  void columnsInAnotherOrderAndSemicolonsAreRead() throws IOException {
    List<String> lines = new ArrayList<>();
    for (String line : sheet("lio.harrow").lines().toList()) {
      List<String> cells = new ArrayList<>();
      var parts = java.util.regex.Pattern.compile("(\"(?:[^\"]|\"\")*\"|[^,]*)(,|$)").matcher(line);
      while (parts.find() && parts.start() < line.length()) {
        cells.add(parts.group(1));
      }
      while (cells.size() < 14) {
        cells.add("");
      }
      if (!lines.isEmpty()) {
        cells.set(9, "keep");
      }
      java.util.Collections.reverse(cells);
      lines.add(String.join(";", cells));
    }
    answers("lio.csv", String.join("\n", lines) + "\n");
    SoberTest.Said said = gather();
    assertThat(said.err()).doesNotContain("expected");
    assertThat(said.out()).startsWith("4 of 267 items are answered: 4 kept");
  }

  @Test
  void whatIsWrongIsToldWithItsPlaceAndNothingIsTakenOver() throws IOException {
    String text = sheet("lio.harrow");
    String altered = text.replaceFirst("owner of", "Owner of");
    List<String> lines = new ArrayList<>(altered.lines().toList());
    lines.set(1, cut(lines.get(1)) + ",keep,,,,");
    lines.set(2, cut(lines.get(2)) + ",takeaway,,,,");
    lines.set(3, cut(lines.get(3)) + ",keep until,,,,");
    lines.set(4, cut(lines.get(4)) + ",keep,2027-13-01,,,");
    answers("lio.csv", String.join("\n", lines) + "\n");
    SoberTest.Said said = gather();
    assertThat(said.code()).isEqualTo(3);
    assertThat(said.err())
        .contains("lio.csv:2")
        .contains("was changed")
        .contains("\"takeaway\" is no decision")
        .contains("did you mean take away?")
        .contains("keep until without a day")
        .contains("\"2027-13-01\" is no day");
    assertThat(review.resolve("decided.yaml")).doesNotExist();
  }

  @Test
  void twoWhoDecideDifferentlyAreToldAndNothingFollows() throws IOException {
    String row = "membership in staff-vault";
    answers("a.csv", answer("Hale Oakes", "keep,,,,").apply(sheet("tova.quill")));
    answers("b.csv", answer("Hale Oakes", "take away,,,,Edda Voss").apply(sheet("tova.quill")));
    SoberTest.Said said = gather();
    assertThat(said.out().replaceAll("\\s+", " "))
        .contains("2 contradicted")
        .contains("Hale Oakes (hale.oakes), " + row)
        .contains("Tova Quill (tova.quill) says keep, Edda Voss says take away");
    assertThat(review.resolve("decided.yaml")).doesNotExist();
  }

  @Test
  void whatIsKeptUntilADayWithAReasonCanBeWaived() throws IOException {
    answers(
        "maren.csv",
        answer("the role Payer of Orders", "keep until,2027-01-31,,until the new buyer starts,")
            .apply(sheet("maren.holt")));
    assertThat(gather().err()).contains("--waive accepts them until then");
    SoberTest.Said said = gather("--waive");
    assertThat(said.err()).contains("Accepted until 2027-01-31, in waivers.yaml");
    assertThat(Files.readString(demo.resolve("waivers.yaml")))
        .contains("reason: \"until the new buyer starts\"")
        .contains("accepted-by: \"Maren Holt (maren.holt)\"");
    assertThat(sober(demo, "findings").out()).startsWith("82 findings");
    assertThat(Files.readString(review.resolve("decided.yaml")))
        .contains("until: 2027-02-01T00:00:00Z");
  }

  @Test
  void whatIsSomebodyElsesIsAskedThere() throws IOException {
    answers(
        "maren.csv",
        answer("the role Payer of Orders", "not mine,,Edda Voss,,").apply(sheet("maren.holt")));
    Path again = folder.resolve("again");
    SoberTest.Said said =
        sober(demo, "review", "sheets", again.toString(), "--left-of", review.toString());
    assertThat(said.code()).as(said.err()).isZero();
    assertThat(Files.readString(again.resolve("sheets/edda.voss.csv")))
        .contains("\"owner of Orders\",\"orders-approvers (2 accounts)\"");
    assertThat(Files.readString(again.resolve("sheets/maren.holt.csv")))
        .doesNotContain("\"owner of Orders\",\"orders-approvers (2 accounts)\"");
    SoberTest.Said gathered = sober(demo, "review", "gather", again.toString());
    assertThat(gathered.out()).as("only what was asked").startsWith("0 of 267 items are answered");
  }

  @Test
  void aReviewOfOnePersonIsWholeWhenThatPersonAnswered() throws IOException {
    Path one = folder.resolve("one");
    assertThat(sober(demo, "review", "sheets", one.toString(), "--only", "lio.harrow").code())
        .isZero();
    Files.writeString(
        one.resolve("answers/lio.csv"),
        Files.readString(one.resolve("sheets/lio.harrow.csv"))
            .replaceAll(",,,,,\\R", ",keep,,,,\n"));
    SoberTest.Said said = sober(demo, "review", "gather", one.toString());
    assertThat(said.out()).startsWith("4 of 4 items are answered: 4 kept");
    assertThat(said.code()).isZero();
  }

  @Test
  void whatIsNewSinceASurveyIsMarked() throws IOException {
    Path survey = folder.resolve("then.survey.zip");
    assertThat(sober(demo, "survey", "--out", survey.toString()).code()).isLessThan(2);
    Path table = demo.resolve("assignments/orders.actual.csv");
    Files.writeString(
        table, Files.readString(table) + "auditor,account,vera.kestle,trust,,Maren Holt,stock\n");
    Path later = folder.resolve("later");
    SoberTest.Said said =
        sober(demo, "review", "sheets", later.toString(), "--since", survey.toString());
    assertThat(said.code()).as(said.err()).isZero();
    List<String> fresh =
        Files.readString(later.resolve("sheets/maren.holt.csv"))
            .lines()
            .filter(line -> line.contains("new since"))
            .toList();
    assertThat(fresh).hasSize(1);
    assertThat(fresh.get(0)).contains("Vera Kestle").contains("the role Auditor of Orders");
  }
}
