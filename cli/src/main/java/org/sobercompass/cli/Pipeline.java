package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.sobercompass.report.pipeline.Check;
import org.sobercompass.report.pipeline.JUnitXml;
import org.sobercompass.report.pipeline.Sarif;
import org.sobercompass.sources.disk.OwnFiles;
import picocli.CommandLine.Option;

/** Files for other people's pipelines, written besides the answer. */
final class Pipeline {
  @Option(
      names = "--junit",
      paramLabel = "FILE",
      description = "also write the result as JUnit XML")
  private @Nullable Path junit;

  @Option(
      names = "--sarif",
      paramLabel = "FILE",
      description = "also write the result as SARIF 2.1.0")
  private @Nullable Path sarif;

  /** Writes what is asked for; the checks are worked out only where something is. */
  void write(String suite, Supplier<List<Check>> checks, Inputs inputs) {
    if (!isAsked()) {
      return;
    }
    List<Check> all = checks.get();
    if (junit != null) {
      write(junit, JUnitXml.text(suite, all), inputs);
    }
    if (sarif != null) {
      write(sarif, Sarif.text(all), inputs);
    }
  }

  /** Whether a file is to be written. */
  boolean isAsked() {
    return junit != null || sarif != null;
  }

  private static void write(Path file, String text, Inputs inputs) {
    OwnFiles.write(file, text);
    inputs.err().println("Wrote " + file + ".");
  }
}
