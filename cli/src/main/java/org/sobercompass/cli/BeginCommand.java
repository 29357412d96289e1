package org.sobercompass.cli;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import org.sobercompass.sources.disk.OwnFiles;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code sober begin}: a new, commented workspace. */
@Command(
    name = "begin",
    mixinStandardHelpOptions = true,
    description = "Writes a new workspace with comments, to fill in.",
    footer = {"", "Example:", "  sober begin ~/access"})
final class BeginCommand implements Callable<Integer> {
  private static final List<String> FILES =
      List.of("compass.yaml", "applications/app.yaml", "assignments/app.csv");

  @Spec private CommandSpec spec = CommandSpec.create();

  @Parameters(
      index = "0",
      paramLabel = "DIR",
      description = "the folder to write into; it must not hold a workspace")
  private Path root = Path.of("");

  @Override
  public Integer call() {
    for (String name : FILES) {
      if (Files.exists(root.resolve(name))) {
        throw new UsageException(root.resolve(name) + " is there already; nothing was written");
      }
    }
    try {
      for (String name : FILES) {
        Path target = root.resolve(name);
        try (InputStream in = BeginCommand.class.getResourceAsStream("begin/" + name)) {
          if (in == null) {
            throw new IllegalStateException("the program lacks its file " + name);
          }
          OwnFiles.write(target, in::transferTo);
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    spec.commandLine()
        .getOut()
        .println(
            "A workspace to fill in is in "
                + root
                + ": put an export beside compass.yaml, say what the"
                + " application sees and gives, then run sober check there.");
    return Exit.OK;
  }
}
