package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.StringReader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import java.util.regex.Pattern;
import javax.xml.parsers.DocumentBuilderFactory;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.xml.sax.InputSource;

/** Pages and pictures of the demo: what they say first, and which findings concern what. */
class ReportTest {
  @TempDir static Path folder;
  private static Path demo;

  @BeforeAll
  static void demo() {
    demo = folder.resolve("demo");
    DemoFiles.write(demo);
  }

  private static SoberTest.Said sober(String command, Path file, String about) {
    List<String> words = new ArrayList<>(List.of(command, file.toString()));
    var parts = Pattern.compile("'([^']*)'|(\\S+)").matcher(about);
    while (parts.find()) {
      words.add(parts.group(1) != null ? parts.group(1) : parts.group(2));
    }
    words.addAll(List.of("-w", demo.toString()));
    return SoberTest.sober(words.toArray(String[]::new));
  }

  private static String page(String about) throws IOException {
    Path file = folder.resolve("page.html");
    SoberTest.Said said = sober("report", file, about);
    assertThat(said.code()).as(said.err()).isZero();
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
        .isEqualTo("rw-------");
    return Files.readString(file);
  }

  /** The ids of the findings in a page, sorted. */
  private static List<String> findings(String page) {
    TreeSet<String> ids = new TreeSet<>();
    var items = Pattern.compile("<details class=\"row\" id=\"f-([a-z0-9]+)\"").matcher(page);
    while (items.find()) {
      ids.add(items.group(1));
    }
    return List.copyOf(ids);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "account ilse.brandt | holds 28 permissions in 7 of 11 applications | m8za0f",
        "application orders | 8 accounts are given roles of Orders, none of them by name"
            + " | 03fdgf 7cuta2 8t7jkx dxwa0u m8za0f yjhnzb",
        "role orders standin-buyer | The role Stand-in buyer of Orders gives 6 permissions. 2"
            + " accounts have it. | 8t7jkx yjhnzb",
        "permission orders:payments:sign | 2 accounts hold orders:payments:sign"
            + " | 8t7jkx dxwa0u m8za0f yjhnzb",
        "node fieldshare /vault | 3 accounts have access to /vault of Field-notes share: 1 full, 2"
            + " read | 0mgmhj b3bv4r qxx3wt",
        "node fieldshare /office/drop | office/drop of Field-notes share | 2q8j4a jsphku",
        "scope joiners | The scope Who works with money holds 1 object | hug93w utb9va v5mz3z",
        "group vault-leads | The group vault-leads has 2 accounts | e38g3k fupfs3",
        "proposal proposals/standins.csv | 2 accounts gain 9 permissions in Orders | ''",
        "timeline | 1 reading: 85 findings, 18 of high weight | ''"
      })
  void aPageSaysTheAnswerFirstAndTheFindingsThatConcernIt(String about, String lead, String ids)
      throws IOException {
    String page = page(about);
    String head = page.substring(page.indexOf("<h1>"), page.indexOf("<nav"));
    assertThat(head).contains(lead);
    List<String> expected = ids.isEmpty() ? List.of() : List.of(ids.split(" "));
    assertThat(findings(page)).containsExactlyElementsOf(expected);
  }

  @Test
  void severalThingsMakeOnePageWithAnAnswerEach() throws IOException {
    String page = page("node fieldshare /vault node doors vault group staff-vault");
    assertThat(page)
        .contains("<h1>Field-notes share, /vault, Doors, Seed vault, the group staff-vault</h1>")
        .contains("<li>9 accounts have access to Seed vault of Doors.</li>")
        .contains("<li>3 findings need a decision: 1 of medium weight, 2 of low weight.</li>");
  }

  @Test
  void theOrganizationBeginsWithFindingsByApplicationAndOwner() throws IOException {
    String page = page("");
    int overview = page.indexOf("Findings by application");
    assertThat(overview).isPositive().isLessThan(page.indexOf("id=\"f-m8za0f\""));
    assertThat(findings(page)).hasSize(84);
    String orders = page.substring(page.indexOf("id=\"a-orders\""));
    assertThat(orders.substring(0, orders.indexOf("</tr>")).replaceAll("<[^>]*>|\\s+", " "))
        .matches(".* Orders +Maren Holt \\(maren.holt\\) +3 +2 +1 *");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "acount ilse.brandt | did you mean account?",
        "role orders | role takes an application and a name",
        "account | account takes a name",
        "account ilse.brant | did you mean"
      })
  void whatIsMistypedIsToldAndNothingIsWritten(String about, String said) {
    Path file = folder.resolve("not.html");
    SoberTest.Said answer = sober("report", file, about);
    assertThat(answer.code()).isEqualTo(2);
    assertThat(answer.err()).contains(said);
    assertThat(file).doesNotExist();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "routes joss.merrin orders:orders:raise",
        "routes ilse.brandt",
        "layers fieldshare:change /vault/germination bostler tquill",
        "matrix orders",
        "matrix seedbook areas",
        "matrix seedbook groups",
        "tree fieldshare /vault",
        "tree Trust",
        "reach desks",
        "peers sven.hollis rounds",
        "timeline"
      })
  void aPictureIsAFileOfItsOwn(String about) throws Exception {
    Path file = folder.resolve("picture.svg");
    SoberTest.Said said = sober("draw", file, about);
    assertThat(said.code()).as(said.err()).isZero();
    String svg = Files.readString(file);
    var parsed =
        DocumentBuilderFactory.newInstance()
            .newDocumentBuilder()
            .parse(new InputSource(new StringReader(svg)));
    assertThat(parsed.getElementsByTagName("text").getLength()).isGreaterThan(3);
    assertThat(parsed.getElementsByTagName("title").getLength()).isPositive();
    assertThat(svg).doesNotContain("<script").doesNotContain("href");
  }

  @Test
  void aStoppedRouteEndsInWhatStopsIt() throws IOException {
    Path file = folder.resolve("stopped.svg");
    sober("draw", file, "routes joss.merrin orders:orders:raise");
    assertThat(Files.readString(file))
        .contains("stopped: denied")
        .contains("✕ Frozen, everywhere")
        .contains("class=\"stopped\"");
  }

  @Test
  void nothingToDrawIsANo() {
    Path file = folder.resolve("none.svg");
    SoberTest.Said said = sober("draw", file, "reach rounds");
    assertThat(said.code()).isEqualTo(1);
    assertThat(said.out()).contains("There is nothing to draw");
    assertThat(file).doesNotExist();
    assertThat(sober("draw", file, "matrix orders sizes").code()).isEqualTo(2);
  }
}
