package org.sobercompass.spark;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.apache.spark.sql.SparkSession;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.sobercompass.bench.Shape;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.system.Basis;
import org.sobercompass.report.answers.Dumps;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.sources.workspace.Workspace;

/** What parts say together is what one machine says, row for row. */
class PartsTest {
  private static SparkSession spark;

  @BeforeAll
  static void start() {
    spark =
        SparkSession.builder()
            .master("local[2]")
            .config("spark.ui.enabled", false)
            .config("spark.driver.bindAddress", "127.0.0.1")
            .config("spark.driver.host", "127.0.0.1")
            .getOrCreate();
  }

  @AfterAll
  static void stop() {
    spark.stop();
  }

  @ParameterizedTest
  @EnumSource(
      value = Shape.class,
      names = {"FULL", "HIDDEN"})
  void allAnswersAreThoseOfOneMachine(Shape shape, @TempDir Path root) throws IOException {
    Workspace workspace = Organizations.random(root.resolve("w"), shape, 900, 7);
    Layout layout = Layout.write(spark, workspace, root.resolve("laid-out"), "");
    Jobs jobs = new Jobs(spark, layout, 3);
    List<String> holdings = Organizations.holdings(workspace);
    assertThat(holdings).hasSizeGreaterThan(900);
    assertThat(Organizations.texts(jobs.holdings())).isEqualTo(holdings);
    List<String> broken = Organizations.broken(workspace);
    assertThat(broken).isNotEmpty();
    assertThat(Organizations.texts(jobs.separation())).isEqualTo(broken);
    assertThat(broken)
        .as("persons with both their accounts, whatever part each would be in")
        .anyMatch(row -> row.indexOf("account:") != row.lastIndexOf("account:"));
    assertThat(Organizations.texts(jobs.peers())).isEqualTo(peers(workspace)).isNotEmpty();
    assertThat(Organizations.texts(jobs.drift())).isEqualTo(drift(workspace)).isNotEmpty();
    holders(workspace, jobs);
  }

  private static void holders(Workspace workspace, Jobs jobs) {
    AccessModel model = workspace.model();
    SystemView view = model.systems().get(3);
    for (int right = 0; right < view.rights().size(); right += 41) {
      List<String> rows = new ArrayList<>();
      for (Holders.Holder holder : new Holders(model.asker()).find(view, right, 0, false)) {
        rows.add(
            List.of(
                    model.facts().key(holder.account()).text(),
                    model.facts().login(holder.account()),
                    holder.state().word(),
                    holder.reasons())
                .toString());
      }
      rows.sort(null);
      String node = view.resources().id(0);
      assertThat(
              Organizations.texts(jobs.holders(view.id() + ":" + view.rights().text(right), node)))
          .isEqualTo(rows);
    }
  }

  private static List<String> peers(Workspace workspace) {
    Set<FindingKind> others = EnumSet.allOf(FindingKind.class);
    others.remove(FindingKind.PEER_OUTLIER);
    List<String> rows = new ArrayList<>();
    Findings.of(workspace.assessment(workspace.model()).by(workspace.rules().notLookingFor(others)))
        .forEach(
            f ->
                rows.add(
                    List.of(
                            f.weight().word(),
                            f.system(),
                            FindingWords.sentence(f),
                            f.subjects().stream().map(key -> key.text()).toList())
                        .toString()));
    rows.sort(null);
    return rows;
  }

  /** As rows of one basis that the other does not have. */
  private static List<String> drift(Workspace workspace) {
    List<List<Object>> agreed = new ArrayList<>();
    List<List<Object>> read = new ArrayList<>();
    AccessModel model = workspace.model(workspace.usualTime(), Optional.of(Basis.INTENDED));
    new Dumps(model).rows("holdings", agreed::add);
    new Dumps(workspace.model(workspace.usualTime(), Optional.of(Basis.ACTUAL)))
        .rows("holdings", read::add);
    List<String> rows = new ArrayList<>();
    only("actual", read, new HashSet<>(agreed), model, rows);
    only("intended", agreed, new HashSet<>(read), model, rows);
    rows.sort(null);
    return rows;
  }

  private static void only(
      String basis,
      List<List<Object>> all,
      Set<List<Object>> others,
      AccessModel model,
      List<String> rows) {
    for (List<Object> cells : all) {
      boolean both = model.system((String) cells.get(2)).orElseThrow().system().hasBothBases();
      if (both && !others.contains(cells)) {
        List<Object> row = new ArrayList<>(List.of(basis));
        row.addAll(cells);
        rows.add(row.toString());
      }
    }
  }

  @Test
  void whatIsLaidOutIsItsOwnersAloneAndHoldsNoExport(@TempDir Path root) throws IOException {
    Workspace workspace = Organizations.random(root.resolve("w"), Shape.FLAT, 300, 2);
    Path folder = root.resolve("laid-out");
    Layout layout = Layout.write(spark, workspace, folder, "");
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(folder)))
        .isEqualTo("rwx------");
    assertThat(folder.resolve("mapping/directory.ldif")).doesNotExist();
    assertThat(folder.resolve("mapping/compass.yaml")).exists();
    assertThat(layout.accounts()).isEqualTo(300);
    assertThat(layout.table(spark).count()).isEqualTo(300);
  }
}
