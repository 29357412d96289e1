package org.sobercompass.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.WebElement;

/** Sheets of a review that are filled in by hand, in the page and in a spreadsheet, take effect. */
class SheetsComeBackTest {
  @TempDir Path folder;
  private Path demo;
  private Path review;

  @BeforeEach
  void sheets() throws IOException, InterruptedException {
    demo = folder.resolve("demo");
    assertThat(ExamplesTest.sober("demo", demo.toString()).code()).isZero();
    review = folder.resolve("review");
    assertThat(sober("review", "sheets", review.toString()).code()).isZero();
  }

  private ExamplesTest.Ended sober(String... words) throws IOException, InterruptedException {
    String[] all = java.util.Arrays.copyOf(words, words.length + 2);
    all[words.length] = "-w";
    all[words.length + 1] = demo.toString();
    return ExamplesTest.sober(all);
  }

  @Test
  void fromThePageToTheProposalAndTheWaiver() throws IOException, InterruptedException {
    try (Browser window = Browser.open(folder)) {
      window.show(review.resolve("sheets/maren.holt.html"));
      WebElement standins = row(window, "Stand-in buyer of Orders: ");
      Browser.choose(standins.findElement(By.tagName("select")), "take away");
      WebElement payer = row(window, "the role Payer of Orders");
      Browser.choose(payer.findElement(By.tagName("select")), "keep until");
      window.driver().findElement(By.id("save")).click();
      assertThat(window.driver().findElement(By.id("count")).getText())
          .isEqualTo("Not saved: 1 line is kept until a day, and the day is missing.");
      window
          .driver()
          .executeScript(
              "arguments[0].value = '2027-01-31'",
              payer.findElement(By.cssSelector("input[type=date]")));
      payer
          .findElement(By.cssSelector("[data-a=comment]"))
          .sendKeys("=until, \"the\" new buyer starts");
      window.driver().findElement(By.id("rest")).click();
      window.driver().findElement(By.id("save")).click();
      Path saved = window.saved(".csv");
      window.show(review.resolve("sheets/maren.holt.html"));
      window.driver().findElement(By.id("load")).sendKeys(saved.toString());
      assertThat(
              row(window, "the role Payer of Orders")
                  .findElement(By.tagName("select"))
                  .getAttribute("value"))
          .as("a half-finished sheet goes on")
          .isEqualTo("keep until");
      Files.copy(saved, review.resolve("answers/maren.csv"));
    }
    ExamplesTest.Ended gathered = sober("review", "gather", review.toString(), "--waive");
    assertThat(gathered.out())
        .contains("1 kept until a day, 1 taken away")
        .contains("Accepted until 2027-01-31");
    assertThat(Files.readString(demo.resolve("waivers.yaml")))
        .contains("reason: \"=until, \\\"the\\\" new buyer starts\"");
    assertThat(sober("preview", review.resolve("decided.yaml").toString(), "--write").out())
        .contains("2 accounts lose 12 permissions in Orders");
    assertThat(Files.readString(demo.resolve("assignments/orders.actual.csv")))
        .doesNotContain("standin-buyer")
        .contains("payer,group,orders-approvers,trust,2027-01-31");
  }

  private static WebElement row(Browser window, String text) {
    return window.driver().findElements(By.cssSelector("tr[data-row]")).stream()
        .filter(row -> row.getText().contains(text))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void fromTheSpreadsheetToTheProposal() throws IOException, InterruptedException {
    boolean there = Files.isExecutable(Path.of("/usr/bin/soffice"));
    if (!there) {
      System.out.println("SKIPPED: no soffice here, so no sheet is filled in by a spreadsheet.");
    }
    Assumptions.assumeTrue(there, "no soffice here");
    Path filled = review.resolve("answers/tova.xlsx");
    Process process =
        new ProcessBuilder(
                "/usr/bin/python3",
                Path.of("src/test/resources/fill_sheet.py").toAbsolutePath().toString(),
                review.resolve("sheets/tova.quill.xlsx").toString(),
                filled.toString(),
                folder.resolve("office").toString())
            .redirectErrorStream(true)
            .start();
    String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(process.waitFor(120, TimeUnit.SECONDS)).isTrue();
    assertThat(process.exitValue()).as(said).isZero();
    ExamplesTest.Ended gathered = sober("review", "gather", review.toString());
    assertThat(gathered.out())
        .contains("3 of 267 items are answered: 1 kept, 1 kept until a day, 1 taken away");
    assertThat(Files.readString(review.resolve("decided.yaml"))).contains("  - ");
  }
}
