package org.sobercompass.bench;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.BitSet;
import java.util.List;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.sources.workspace.Workspace;

/** The rich organization has what it says, every question is timed of it, and both are drawn. */
class GrowthTest {
  @Test
  void everyQuestionIsTimedAndDrawn(@TempDir Path root) throws IOException {
    new RichGenerator(root.resolve("rich"), 2_000, 5).write();
    Path table = root.resolve("growth.csv");
    Growth.main(new String[] {root.resolve("rich").toString(), table.toString()});
    List<String> rows = Files.readAllLines(table);
    assertThat(rows).hasSize(15).first().isEqualTo(Growth.HEADER);
    assertThat(rows.subList(1, 15))
        .allMatch(row -> row.matches("2000,(one|all),\"[^\"]+\",[0-9.]+"));
    Path one = root.resolve("one.png");
    Path all = root.resolve("all.png");
    GrowthChart.main(new String[] {table.toString(), one.toString(), all.toString()});
    assertThat(ImageIO.read(one.toFile()).getWidth()).isEqualTo(1280);
    assertThat(ImageIO.read(all.toFile()).getWidth()).isEqualTo(1280);
  }

  @Test
  void aSweepOfSomeSystemsSaysOfThemWhatASweepOfAllSays(@TempDir Path root) throws IOException {
    new RichGenerator(root, 600, 6).write();
    Workspace workspace = Workspace.open(root);
    assertThat(workspace.problems()).isEmpty();
    AccessModel model = workspace.model();
    long sum = 0;
    for (SystemView view : model.systems()) {
      BitSet one = new BitSet();
      one.set(view.number());
      sum += Yardstick.sweep(model, 2, one);
      Bulk.cells(
          model.asker(),
          new Bulk.Range(0, model.facts().accounts()),
          one,
          new Bulk.Cells() {
            @Override
            public void at(int account, SystemView of) {
              assertThat(of).isEqualTo(view);
            }

            @Override
            public void cell(int resource, boolean below, int nodes, long[] yes, long[] perhaps) {
              assertThat(resource).isLessThan(view.resources().size());
            }
          });
    }
    assertThat(sum).isPositive().isEqualTo(Yardstick.sweep(model, 2));
  }
}
