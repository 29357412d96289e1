package org.sobercompass.spark;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.apache.spark.scheduler.SparkListener;
import org.apache.spark.scheduler.SparkListenerTaskEnd;
import org.apache.spark.sql.SparkSession;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.bench.Shape;
import org.sobercompass.sources.workspace.Workspace;

/** The same on workers that are processes of their own. */
class LocalClusterTest {

  /** Workers look for the jars of an installation; there are none, they get our class path. */
  @BeforeAll
  static void home() throws IOException {
    Files.createDirectories(Path.of(System.getenv("SPARK_HOME")).resolve("jars"));
  }

  private static SparkSession cluster(int workers) {
    return SparkSession.builder()
        .master("local-cluster[" + workers + ",1,1024]")
        .config("spark.ui.enabled", false)
        .config("spark.driver.bindAddress", "127.0.0.1")
        .config("spark.driver.host", "127.0.0.1")
        .config("spark.executor.memory", "1g")
        .config("spark.executor.extraJavaOptions", "-XX:TieredStopAtLevel=1 -XX:+UseSerialGC")
        .config("spark.executor.extraClassPath", System.getProperty("java.class.path"))
        .getOrCreate();
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 4})
  void theRowsAreThoseOfOneMachineOnSoManyWorkers(int workers, @TempDir Path root)
      throws IOException {
    Workspace workspace = Organizations.random(root.resolve("w"), Shape.FULL, 240, workers);
    try (SparkSession spark = cluster(workers)) {
      Layout layout = Layout.write(spark, workspace, root.resolve("laid-out"), "");
      Jobs jobs = new Jobs(spark, layout, 4);
      assertThat(Organizations.texts(jobs.holdings())).isEqualTo(Organizations.holdings(workspace));
      assertThat(Organizations.texts(jobs.separation())).isEqualTo(Organizations.broken(workspace));
    }
  }

  @Test
  void aWorkerKilledInTheMiddleChangesNothing(@TempDir Path root) throws Exception {
    Workspace workspace = Organizations.random(root.resolve("w"), Shape.FULL, 900, 5);
    try (SparkSession spark = cluster(2)) {
      Layout layout = Layout.write(spark, workspace, root.resolve("laid-out"), "");
      CountDownLatch begun = new CountDownLatch(3);
      spark
          .sparkContext()
          .addSparkListener(
              new SparkListener() {
                @Override
                public void onTaskEnd(SparkListenerTaskEnd end) {
                  begun.countDown();
                }
              });
      List<ProcessHandle> before = workers();
      assertThat(before).hasSize(2);
      CompletableFuture<List<String>> rows =
          CompletableFuture.supplyAsync(
              () -> Organizations.texts(new Jobs(spark, layout, 12).holdings()));
      assertThat(begun.await(120, TimeUnit.SECONDS)).isTrue();
      assertThat(rows).as("it is in the middle").isNotDone();
      before.get(0).destroyForcibly();
      assertThat(rows.get(300, TimeUnit.SECONDS)).isEqualTo(Organizations.holdings(workspace));
      assertThat(before.get(0).isAlive()).isFalse();
    }
  }

  /** The processes of this test that do the work: nothing else here starts Java. */
  private static List<ProcessHandle> workers() {
    return ProcessHandle.current()
        .children()
        .filter(p -> p.info().command().orElse("").endsWith("java"))
        .toList();
  }
}
