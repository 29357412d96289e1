package org.sobercompass.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.WebElement;
import org.openqa.selenium.chrome.ChromeDriver;

/** The page in a real browser: it loads nothing, searches, draws, and hostile names stay text. */
class PageInBrowserTest {
  @TempDir static Path folder;
  private static Browser window;
  private static ChromeDriver browser;

  @BeforeAll
  static void open() throws IOException, InterruptedException {
    window = Browser.open(folder);
    browser = window.driver();
    Path demo = folder.resolve("demo");
    assertThat(ExamplesTest.sober("demo", demo.toString()).code()).isZero();
    Path ldif = demo.resolve("directory/alderfen.ldif");
    Files.writeString(
        ldif,
        Files.readString(ldif)
            .replace(
                "displayName: Tova Quill",
                "displayName: <script>document.title='broken'</script><img src=x"
                    + " onerror=document.title=1>"));
    PageOfFindings.main(new String[] {demo.toString(), folder.resolve("page.html").toString()});
    window.show(folder.resolve("page.html"));
  }

  @AfterAll
  static void close() {
    if (window != null) {
      window.close();
    }
  }

  @Test
  void theAnswerStandsFirstAndEveryFindingIsThere() {
    assertThat(browser.findElement(By.tagName("h1")).getText())
        .contains("84 things were found")
        .contains("18 of them of high weight; 1 more accepted.");
    assertThat(browser.findElements(By.cssSelector("details.row:not(.waived)"))).hasSize(84);
  }

  @Test
  void whatIsAcceptedStandsApartWithWhoAcceptedIt() {
    List<WebElement> accepted = browser.findElements(By.cssSelector("details.waived"));
    assertThat(accepted).hasSize(1);
    assertThat(accepted.get(0).getAttribute("textContent"))
        .contains("no-emergency-account")
        .contains("Accepted by Edda Voss until 2027-06-30")
        .contains("the keys hang in the head office");
    assertThat(browser.findElement(By.tagName("body")).getText())
        .contains("the waiver of Wren Calloway ended on 2026-10-31; the finding is open again");
  }

  @Test
  void theLeastRemovalsStandWithTheAdvice() {
    WebElement finding =
        browser.findElements(By.cssSelector("details.row")).stream()
            .filter(d -> d.getAttribute("textContent").contains("Ilse Brandt (ilse.brandt) holds"))
            .findFirst()
            .orElseThrow();
    assertThat(finding.findElement(By.cssSelector(".advice")).getAttribute("textContent"))
        .contains("It is a change that can be undone.")
        .contains("Least removals (proved least):")
        .contains("take Ilse Brandt (ilse.brandt) out of orders-approvers")
        .contains("Ilse Brandt (ilse.brandt) in Orders: payments:sign");
  }

  @Test
  void hostileNamesStayText() {
    assertThat(browser.getTitle()).isEqualTo("Who can do what, and what is wrong with it");
    assertThat(browser.findElements(By.tagName("img"))).isEmpty();
    assertThat(browser.findElement(By.tagName("body")).getAttribute("textContent"))
        .contains("<script>document.title='broken'</script>");
  }

  @Test
  void searchingHidesWhatDoesNotFit() {
    WebElement field = browser.findElement(By.id("find"));
    field.sendKeys("ilse brandt");
    List<WebElement> shown = browser.findElements(By.cssSelector(".row:not([hidden])"));
    assertThat(shown)
        .isNotEmpty()
        .allSatisfy(
            row -> assertThat(row.getAttribute("textContent")).containsIgnoringCase("Ilse"));
    assertThat(browser.findElement(By.id("found")).getText()).startsWith(shown.size() + " of ");
    field.clear();
    field.sendKeys(" ");
    assertThat(browser.findElements(By.cssSelector(".row[hidden]"))).isEmpty();
  }

  @Test
  void aRouteIsDrawnInsideItsFinding() {
    WebElement finding =
        browser.findElements(By.tagName("details")).stream()
            .filter(d -> d.getAttribute("textContent").contains("this account has both by itself"))
            .findFirst()
            .orElseThrow();
    finding.findElement(By.tagName("summary")).click();
    WebElement drawing = finding.findElement(By.cssSelector("svg.drawing"));
    assertThat(drawing.isDisplayed()).isTrue();
    assertThat(drawing.findElements(By.tagName("rect")).size()).isGreaterThanOrEqualTo(7);
    assertThat(drawing.getText())
        .contains("Ilse Brandt")
        .contains("orders-approvers")
        .contains("payments:sign");
  }
}
