package org.sobercompass.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/** Every kind of page in a real browser, with names that try to be something else. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class PagesInBrowserTest {
  private static final String SCRIPT = "<script>document.title='broken'</script>";
  private static final String FORMULA = "=HYPERLINK(\"x\")";

  @TempDir static Path folder;
  private Browser window;
  private final Map<String, Path> pages = new LinkedHashMap<>();

  @BeforeAll
  void write() throws IOException, InterruptedException {
    window = Browser.open(folder);
    Path demo = folder.resolve("demo");
    assertThat(ExamplesTest.sober("demo", demo.toString()).code()).isZero();
    Path ldif = demo.resolve("directory/alderfen.ldif");
    Files.writeString(
        ldif,
        Files.readString(ldif)
            .replace("displayName: Tova Quill\n", "displayName: " + SCRIPT + "\n")
            .replace("displayName: Bram Ostler\n", "displayName: " + FORMULA + "\n")
            .replace("displayName: Hale Oakes\n", "displayName: Oakes \u202eelaH\n")
            .replace("displayName: Tess Pell\n", "displayName: " + "Tess".repeat(75) + "\n"));
    page(demo, "all");
    page(demo, "account", "account", "tova.quill");
    page(demo, "group", "group", "staff-vault");
    page(demo, "unit", "unit", "ou=Seed Vault,ou=Trust,dc=desks,dc=alderfen,dc=example");
    page(demo, "application", "application", "seedbook");
    page(demo, "share", "application", "fieldshare");
    page(demo, "role", "role", "orders", "payer");
    page(demo, "permission", "permission", "seedbook:exports:approve");
    page(demo, "node", "node", "fieldshare", "/vault", "node", "doors", "vault");
    page(demo, "scope", "scope", "glasshouses");
    page(demo, "proposal", "proposal", "proposals/standins.csv");
    page(demo, "timeline", "timeline");
    for (String which : List.of("certain", "likely")) {
      List<String> words = List.of("match", "--accept", which, "--as", SCRIPT, "-w", demo + "");
      assertThat(ExamplesTest.sober(words.toArray(String[]::new)).code()).isZero();
    }
    page(demo, "carry", "carry", "fernhollow", "alderfen");
    String then = folder.resolve("then.survey.zip").toString();
    assertThat(ExamplesTest.sober("survey", "--out", then, "-w", demo.toString()).code())
        .isLessThan(2);
    Path orders = demo.resolve("assignments/orders.actual.csv");
    Files.writeString(orders, Files.readString(orders) + "payer,account,tova.quill,trust,,,\n");
    page(demo, "changes", "changes", then);
    String review = folder.resolve("review").toString();
    assertThat(ExamplesTest.sober("review", "sheets", review, "-w", demo.toString()).code())
        .isZero();
    pages.put("sheet", folder.resolve("review/sheets/tova.quill.html"));
  }

  private void page(Path demo, String name, String... about)
      throws IOException, InterruptedException {
    Path file = folder.resolve(name + ".html");
    List<String> words = new ArrayList<>(List.of("report", file.toString()));
    words.addAll(List.of(about));
    words.addAll(List.of("-w", demo.toString()));
    var said = ExamplesTest.sober(words.toArray(String[]::new));
    assertThat(said.code()).as(said.out()).isZero();
    pages.put(name, file);
  }

  @AfterAll
  void close() {
    if (window != null) {
      window.close();
    }
  }

  private List<String> names() {
    return List.of(
        "all",
        "account",
        "group",
        "unit",
        "application",
        "share",
        "role",
        "permission",
        "node",
        "scope",
        "proposal",
        "timeline",
        "carry",
        "changes",
        "sheet");
  }

  private void show(String name) {
    window.emulate("screen", "light");
    window.show(pages.getOrDefault(name, Path.of("missing")));
  }

  @ParameterizedTest
  @MethodSource("names")
  void noScriptFailsNothingIsLoadedAndHostileNamesStayText(String name) {
    show(name);
    assertThat(window.complaints()).isEmpty();
    assertThat(window.loaded()).isZero();
    assertThat(window.driver().getTitle()).isNotEqualTo("broken");
    assertThat(window.driver().findElements(By.cssSelector("script"))).hasSize(1);
    assertThat(window.driver().findElement(By.tagName("h1")).getText()).isNotBlank();
    assertThat(window.driver().getPageSource().indexOf(0x202e)).as("right to left").isNegative();
  }

  @ParameterizedTest
  @MethodSource("names")
  void noRuleOfAccessibilityIsBrokenInLightAndInDark(String name) {
    show(name);
    assertThat(window.broken()).as("light").isEmpty();
    window.emulate("screen", "dark");
    assertThat(window.broken()).as("dark").isEmpty();
  }

  @ParameterizedTest
  @MethodSource("names")
  void nothingSticksOutToTheSide(String name) {
    show(name);
    Object wider =
        window
            .driver()
            .executeScript(
                "return document.documentElement.scrollWidth"
                    + " - document.documentElement.clientWidth");
    assertThat(((Number) wider).intValue()).isZero();
  }

  @ParameterizedTest
  @MethodSource("names")
  void everyLinkLeadsToSomethingInThePage(String name) {
    show(name);
    Object dead =
        window
            .driver()
            .executeScript(
                "return Array.from(document.querySelectorAll('a[href]')).filter(a =>"
                    + " !a.getAttribute('href').startsWith('#') ||"
                    + " !document.getElementById(a.getAttribute('href').slice(1)))"
                    + ".map(a => a.outerHTML)");
    assertThat((List<?>) dead).isEmpty();
    Object ids =
        window
            .driver()
            .executeScript(
                "var seen = {}; return Array.from(document.querySelectorAll('[id]')).map(e =>"
                    + " e.id).filter(id => seen[id] || !(seen[id] = true))");
    assertThat((List<?>) ids).as("ids that are there twice").isEmpty();
  }

  @Test
  void aTableIsSortedByItsHeads() {
    show("group");
    WebElement table = window.driver().findElement(By.cssSelector("table[data-name=accounts]"));
    WebElement head = table.findElement(By.xpath(".//th/button[text()='usable']"));
    head.sendKeys(Keys.ENTER);
    List<Integer> up = numbers(table);
    assertThat(up).isSorted();
    head.sendKeys(Keys.ENTER);
    assertThat(numbers(table)).isSortedAccordingTo((a, b) -> b - a);
    assertThat(head.findElement(By.xpath("..")).getAttribute("aria-sort")).isEqualTo("descending");
  }

  private static List<Integer> numbers(WebElement table) {
    return table.findElements(By.cssSelector("tbody tr td:nth-child(3)")).stream()
        .map(cell -> Integer.valueOf(cell.getText()))
        .toList();
  }

  @Test
  void findingsAreFilteredByWeightAndApplication() {
    show("all");
    Browser.choose(filter("weight"), "high");
    assertThat(shown("details.row:not(.waived)")).isEqualTo(18);
    Browser.choose(filter("application"), "orders");
    assertThat(shown("details.row:not(.waived)")).isEqualTo(3);
    Browser.choose(filter("weight"), "all");
    assertThat(shown("details.row:not(.waived)")).isEqualTo(6);
  }

  private WebElement filter(String name) {
    return window
        .driver()
        .findElement(
            By.xpath("//div[@class='filters']//label[starts-with(text(),'" + name + "')]/select"));
  }

  private int shown(String selector) {
    return window.driver().findElements(By.cssSelector(selector + ":not([hidden])")).size();
  }

  @Test
  void aTableIsSavedWithoutFormulas() throws IOException, InterruptedException {
    show("group");
    window
        .driver()
        .findElement(
            By.xpath("//table[@data-name='accounts']/../preceding-sibling::div[1]//button"))
        .click();
    String csv = Files.readString(window.saved("accounts.csv"));
    assertThat(csv)
        .startsWith("\ufefflogin,name,usable,")
        .contains("'=HYPERLINK")
        .contains(SCRIPT)
        .doesNotContain(",=");
    assertThat(csv.lines()).hasSize(10);
  }

  @Test
  void theKeyboardIsEnough() {
    show("all");
    WebElement body = window.driver().findElement(By.tagName("body"));
    body.sendKeys(Keys.TAB);
    assertThat(window.driver().switchTo().activeElement().getText()).isEqualTo("To the answer");
    body.sendKeys("/");
    assertThat(window.driver().switchTo().activeElement().getAttribute("id")).isEqualTo("find");
    window.driver().switchTo().activeElement().sendKeys("superuser");
    assertThat(shown("details.row")).isBetween(1, 5);
    WebElement summary =
        window.driver().findElement(By.cssSelector("details.row:not([hidden]) summary"));
    summary.sendKeys(Keys.ENTER);
    assertThat(summary.findElement(By.xpath("..")).getAttribute("open")).isNotNull();
  }

  @Test
  void aNameLeadsToItsLineAndFromThereToItsFindings() {
    show("all");
    window.driver().findElement(By.linkText("Maren Holt (maren.holt)")).click();
    WebElement line = window.driver().findElement(By.cssSelector("tr:target"));
    assertThat(line.getText()).contains("maren.holt");
    line.findElement(By.cssSelector("a[href^='#f-']")).click();
    assertThat(window.driver().findElement(By.cssSelector("details:target")).getAttribute("open"))
        .isNotNull();
  }

  @Test
  void printShowsNoControlsAndDarkIsDark() {
    show("node");
    window.emulate("print", "light");
    assertThat(window.driver().findElement(By.className("search")).isDisplayed()).isFalse();
    assertThat(window.driver().findElement(By.tagName("nav")).isDisplayed()).isFalse();
    window.emulate("screen", "dark");
    String paper = window.driver().findElement(By.tagName("body")).getCssValue("background-color");
    assertThat(paper).matches("rgba?\\((1|2|3)\\d, .*");
  }
}
