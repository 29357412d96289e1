package org.sobercompass.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.Limits;
import org.sobercompass.sources.workspace.Workspace;

/** Single questions over a generated organization of 10,000 accounts, by JMH. */
@State(Scope.Thread)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MICROSECONDS)
@Warmup(iterations = 2, time = 1)
@Measurement(iterations = 3, time = 1)
@Fork(1)
public class QuestionsBenchmark {
  @Param({"flat", "full"})
  String shape = "flat";

  private AccessModel model = placeholder();
  private Asker asker = placeholder();
  private int next;

  @SuppressWarnings({"NullAway", "TypeParameterUnusedInFormals"})
  private static <T> T placeholder() {
    return null;
  }

  @Setup
  public void generate() throws IOException {
    Path root = Files.createTempDirectory("sober-bench");
    new Generator(root, 10_000, Shape.of(shape), 1).write();
    model = Workspace.open(root).model();
    model.systems().forEach(view -> view.memberships().prepare());
    asker = model.asker();
  }

  @Benchmark
  public Can oneDecision() {
    next++;
    SystemView view = model.systems().get(next % model.systems().size());
    return asker.can(
        view,
        next % model.facts().accounts(),
        next % view.rights().size(),
        next % view.resources().size());
  }

  @Benchmark
  public int oneAccountsHoldings() {
    return asker.holdings(++next % model.facts().accounts()).size();
  }

  @Benchmark
  public int oneDecisionWithItsRoutes() {
    next++;
    SystemView view = model.systems().get(next % model.systems().size());
    return new RouteFinder(asker, Limits.USUAL)
        .find(view, next % model.facts().accounts(), next % view.rights().size(), 0)
        .open()
        .size();
  }
}
