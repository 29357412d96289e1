package org.sobercompass.examples;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.logging.Level;
import java.util.stream.Stream;
import org.junit.jupiter.api.Assumptions;
import org.openqa.selenium.By;
import org.openqa.selenium.WebElement;
import org.openqa.selenium.chrome.ChromeDriver;
import org.openqa.selenium.chrome.ChromeDriverService;
import org.openqa.selenium.chrome.ChromeOptions;
import org.openqa.selenium.logging.LogType;
import org.openqa.selenium.logging.LoggingPreferences;

/**
 * A headless browser for tests of pages, 1280 by 800, with a fresh profile and a download folder.
 */
final class Browser implements AutoCloseable {
  private static final Path BINARY = Path.of("/usr/bin/chromium");
  private static final Path DRIVER = Path.of("/usr/bin/chromedriver");

  private final ChromeDriver driver;
  private final Path downloads;

  private Browser(ChromeDriver driver, Path downloads) {
    this.driver = driver;
    this.downloads = downloads;
  }

  /** Starts one; skips the test, loudly, where there is none. */
  static Browser open(Path folder) throws IOException {
    boolean there = Files.isExecutable(BINARY) && Files.isExecutable(DRIVER);
    if (!there) {
      System.out.println(
          "SKIPPED: no chromium or chromedriver here, so the page is not tried in a browser.");
    }
    Assumptions.assumeTrue(there, "no chromium or chromedriver here");
    Path downloads = Files.createDirectories(folder.resolve("downloads"));
    ChromeOptions options = new ChromeOptions();
    options.setBinary(BINARY.toFile());
    options.addArguments(
        "--headless=new",
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--user-data-dir=" + folder.resolve("profile"));
    LoggingPreferences logs = new LoggingPreferences();
    logs.enable(LogType.BROWSER, Level.ALL);
    options.setCapability("goog:loggingPrefs", logs);
    ChromeDriverService service =
        new ChromeDriverService.Builder().usingDriverExecutable(DRIVER.toFile()).build();
    ChromeDriver driver = new ChromeDriver(service, options);
    driver.executeCdpCommand(
        "Emulation.setDeviceMetricsOverride",
        Map.of("width", 1280, "height", 800, "deviceScaleFactor", 1, "mobile", false));
    driver.executeCdpCommand(
        "Browser.setDownloadBehavior",
        Map.of("behavior", "allow", "downloadPath", downloads.toString()));
    return new Browser(driver, downloads);
  }

  ChromeDriver driver() {
    return driver;
  }

  /** Opens a file. */
  void show(Path page) {
    driver.get(page.toUri().toString());
  }

  /** Sets the window to light or dark, the medium to screen or print. */
  void emulate(String medium, String scheme) {
    driver.executeCdpCommand(
        "Emulation.setEmulatedMedia",
        Map.of(
            "media",
            medium,
            "features",
            List.of(Map.of("name", "prefers-color-scheme", "value", scheme))));
  }

  /** Chooses one of the options of a field, by what it says up to a count in brackets. */
  static void choose(WebElement select, String text) {
    select.findElements(By.tagName("option")).stream()
        .filter(option -> option.getText().replaceFirst(" \\([0-9]+\\)$", "").equals(text))
        .findFirst()
        .orElseThrow()
        .click();
  }

  /** What went wrong in the page so far: script errors, refused requests. */
  List<String> complaints() {
    return driver.manage().logs().get(LogType.BROWSER).getAll().stream()
        .filter(entry -> entry.getLevel().intValue() >= Level.WARNING.intValue())
        .map(Object::toString)
        .toList();
  }

  /** How many things the page loaded besides itself. */
  long loaded() {
    return ((Number) driver.executeScript("return performance.getEntriesByType('resource').length"))
        .longValue();
  }

  /** The accessibility rules that a page breaks, each with an example. */
  @SuppressWarnings("unchecked")
  List<String> broken() {
    driver.executeScript(rules());
    return (List<String>)
        driver.executeAsyncScript(
            "var done = arguments[0];"
                + "axe.run(document, {resultTypes: ['violations']}).then(function (r) {"
                + "done(r.violations.map(function (v) {"
                + "return v.id + ': ' + v.nodes.length + ' x ' + v.nodes[0].html; })); })");
  }

  private static String rules() {
    try (var in = Browser.class.getResourceAsStream("/axe.min.js")) {
      if (in == null) {
        throw new IllegalStateException("the accessibility rules are not on the class path");
      }
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** The file that a button saved; waits for it. */
  Path saved(String end) throws IOException, InterruptedException {
    for (int i = 0; i < 100; i++) {
      try (Stream<Path> files = Files.list(downloads)) {
        var found = files.filter(file -> file.toString().endsWith(end)).findFirst();
        if (found.isPresent() && Files.size(found.get()) > 0) {
          return found.get();
        }
      }
      Thread.sleep(50);
    }
    throw new IllegalStateException("nothing that ends with " + end + " was saved");
  }

  @Override
  public void close() {
    driver.quit();
  }
}
