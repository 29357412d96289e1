package org.sobercompass.cli;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.sobercompass.report.answers.Dumps;
import org.sobercompass.report.data.Format;
import org.sobercompass.report.data.RowWriter;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code sober list}. */
@Command(
    name = "list",
    mixinStandardHelpOptions = true,
    description = "Writes all holdings or all memberships, as JSON lines (default) or CSV.",
    footer = {
      "",
      "Examples, on the demo:",
      "  sober list holdings",
      "  sober list memberships --format csv"
    })
final class ListCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "WHAT", description = "holdings or memberships")
  private String what = "";

  @Override
  public Integer call() {
    if (inputs.format == Format.json) {
      throw new UsageException("a list is streamed: expected --format jsonl or csv");
    }
    List<String> columns =
        switch (what) {
          case "holdings" -> Dumps.HOLDINGS;
          case "memberships" -> Dumps.MEMBERSHIPS;
          default ->
              throw new UsageException(
                  "cannot list " + what + "; expected holdings or memberships");
        };
    inputs.noWorkbook();
    PrintWriter out = inputs.out();
    if (inputs.format == Format.csv) {
      try (RowWriter writer = RowWriter.csv(out, new ArrayList<>(columns))) {
        dump(row -> writer.row(row.toArray()));
      }
    } else {
      new Dumps(inputs.model()).jsonl(what, out);
    }
    out.flush();
    return Exit.OK;
  }

  private void dump(java.util.function.Consumer<List<Object>> rows) {
    new Dumps(inputs.model()).rows(what, rows);
  }
}
