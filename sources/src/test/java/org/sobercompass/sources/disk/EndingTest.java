package org.sobercompass.sources.disk;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.sources.JavaProcess;

/** A process that ends while it writes leaves nothing half made behind. */
class EndingTest {
  @TempDir private Path folder;

  /** Writes files on several threads, and ends in the middle of it. */
  static final class Writer {
    private Writer() {}

    public static void main(String[] args) throws InterruptedException {
      Path target = Path.of(args[0]);
      for (int writer = 0; writer < 4; writer++) {
        int number = writer;
        Thread thread =
            new Thread(
                () -> {
                  for (int file = 0; ; file++) {
                    Path name = target.resolve("w" + number + "-" + file + ".txt");
                    OwnFiles.writeNew(name, ".txt", out -> out.write(new byte[100_000]));
                  }
                });
        thread.setDaemon(true);
        thread.start();
      }
      Thread.sleep(Long.parseLong(args[1]));
      System.exit(3);
    }
  }

  @Test
  void itTakesAwayWhatItHasNotFinishedAndBeginsNothingMore() throws Exception {
    for (int run = 0; run < 4; run++) {
      assertThat(ended(150 + 40 * run)).isEqualTo(3);
      assertThat(parts()).as("run " + run).isEmpty();
    }
    try (Stream<Path> files = Files.list(folder)) {
      assertThat(files).as("it was writing").hasSizeGreaterThan(10);
    }
  }

  private List<Path> parts() throws IOException {
    try (Stream<Path> files = Files.list(folder)) {
      return files.filter(file -> file.toString().contains(".part.")).toList();
    }
  }

  private int ended(int millis) throws IOException, InterruptedException {
    Process process =
        JavaProcess.of(Writer.class, folder.toString(), "" + millis)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start();
    assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
    return process.exitValue();
  }
}
