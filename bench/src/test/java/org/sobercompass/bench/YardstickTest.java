package org.sobercompass.bench;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.sources.workspace.Workspace;

/** What is measured is right: the deciders, plain arrays and the script count the same. */
class YardstickTest {
  @Test
  void allWaysCountTheSame(@TempDir Path root) throws IOException {
    new Generator(root, 1000, Shape.FLAT, 3).write();
    AccessModel model = Workspace.open(root).model();
    PlainArrays.Counts counts = PlainArrays.count(model);
    assertThat(counts.permissions()).isPositive();
    assertThat(NaiveScript.count(model, 1000)).isEqualTo(counts);
    assertThat(Yardstick.sweep(model, 1)).isEqualTo(counts.permissions());
    assertThat(Yardstick.sweep(model, 2)).isEqualTo(counts.permissions());
  }

  @ParameterizedTest
  @EnumSource(Shape.class)
  void onEveryShapeTheSweepIsThatOfEachProjection(Shape shape, @TempDir Path root)
      throws IOException {
    new Generator(root, 1500, shape, 4).write();
    AccessModel model = Workspace.open(root).model();
    long expected = 0;
    Asker asker = model.asker();
    for (int account = 0; account < model.facts().accounts(); account++) {
      for (SystemView view : model.systems()) {
        long[] count = {0};
        view.decider()
            .sweep(
                asker.projected(view, account),
                (node, below, nodes, yes, perhaps) ->
                    count[0] += (long) nodes * Arrays.stream(yes).map(Long::bitCount).sum());
        expected += count[0];
      }
    }
    assertThat(expected).isPositive();
    assertThat(Yardstick.sweep(model, 2)).isEqualTo(expected);
    if (PlainArrays.canCount(model)) {
      assertThat(PlainArrays.count(model).permissions()).isEqualTo(expected);
    } else {
      assertThat(shape.weighs()).isTrue();
    }
  }

  @Test
  void theSameSeedWritesTheSameBytesAndTheCacheGivesTheSameFacts(@TempDir Path root)
      throws IOException {
    new Generator(root.resolve("a"), 12_000, Shape.FULL, 3).write();
    new Generator(root.resolve("b"), 12_000, Shape.FULL, 3).write();
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
