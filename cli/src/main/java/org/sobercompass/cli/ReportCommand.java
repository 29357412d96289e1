package org.sobercompass.cli;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.sobercompass.report.page.PageContent;
import org.sobercompass.report.page.Pages;
import org.sobercompass.report.page.Thing;
import org.sobercompass.sources.disk.OwnFiles;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code sober report}. */
@Command(
    name = "report",
    mixinStandardHelpOptions = true,
    description = {
      "Writes one self-contained HTML page to hand over: of the whole organization, or of one or"
          + " more things in it.",
      "A page says first who can do what and what is wrong, then draws it, then lists it.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober report page.html",
      "  sober report ilse.html account ilse.brandt",
      "  sober report vault.html node fieldshare /vault node doors vault group staff-vault",
      "  sober report orders.html application orders",
      "  sober report sign.html permission orders:payments:sign",
      "  sober report plan.html proposal proposals/standins.csv",
      "  sober report time.html timeline",
      "Changes are those since a survey, or since the latest one of the workspace:",
      "  sober report since.html changes FILE"
    })
final class ReportCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "FILE", description = "the page to write")
  private Path file = Path.of("page.html");

  @Parameters(
      index = "1..*",
      arity = "0..*",
      paramLabel = "KIND NAME",
      description =
          "what it is about, any number of: account A, group G, unit U, application A, role A"
              + " ROLE, permission P, node A NODE (or A PATH), scope S, changes [SURVEY], proposal"
              + " FILE, timeline")
  private List<String> about = new ArrayList<>();

  @Override
  public Integer call() {
    List<Thing> things = new Things(inputs).of(about);
    Pages pages =
        new Pages(
            inputs.judgedAsk(),
            inputs.assessment(),
            inputs.organization().owners(),
            inputs.organization().triage());
    PageContent page = things.isEmpty() ? pages.organization() : pages.of(things);
    String html = Pages.html(page);
    OwnFiles.write(file, html);
    page.answers().forEach(inputs.out()::println);
    inputs
        .err()
        .println(
            "Written: "
                + file
                + ", "
                + (html.getBytes(StandardCharsets.UTF_8).length + 512) / 1024
                + " KiB; it opens in any browser.");
    return Exit.OK;
  }
}
