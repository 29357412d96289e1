package org.sobercompass.bench;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.sources.workspace.Workspace;

/** What is measured is right: the deciders, plain arrays and the script count the same. */
class YardstickTest {
  @Test
  void allWaysCountTheSame(@TempDir Path root) throws IOException {
    new Generator(root, 1000, false, 3).write();
    AccessModel model = Workspace.open(root).model();
    PlainArrays.Counts counts = PlainArrays.count(model);
    assertThat(counts.permissions()).isPositive();
    assertThat(NaiveScript.count(model, 1000)).isEqualTo(counts);
    assertThat(Yardstick.sweep(model, 1)).isEqualTo(counts.permissions());
    assertThat(Yardstick.sweep(model, 2)).isEqualTo(counts.permissions());
  }

  @Test
  void theSameSeedWritesTheSameBytesAndTheCacheGivesTheSameFacts(@TempDir Path root)
      throws IOException {
    new Generator(root.resolve("a"), 12_000, true, 3).write();
    new Generator(root.resolve("b"), 12_000, true, 3).write();
    for (String file :
        new String[] {"directory.ldif", "applications/app1.yaml", "assignments/app1.csv"}) {
      assertThat(root.resolve("a").resolve(file))
          .hasSameBinaryContentAs(root.resolve("b").resolve(file));
    }
    AccessModel read = Workspace.open(root.resolve("a")).model();
    Path cache = root.resolve("a/.compass/facts.bin");
    assertThat(cache).exists();
    AccessModel cached = Workspace.open(root.resolve("a")).model();
    assertThat(Yardstick.sweep(cached, 2)).isEqualTo(Yardstick.sweep(read, 2));
    byte[] bytes = Files.readAllBytes(cache);
    bytes[bytes.length / 2] ^= 1;
    Files.write(cache, bytes);
    assertThat(Yardstick.sweep(Workspace.open(root.resolve("a")).model(), 2))
        .isEqualTo(Yardstick.sweep(read, 2));
    assertThat(Files.readAllBytes(cache)).as("a damaged cache is made anew").isNotEqualTo(bytes);
  }
}
