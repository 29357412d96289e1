package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.sources.disk.OwnFiles;

/**
 * Whatever stands in a file, the program says what is wrong and never faults: every file of a
 * workspace that uses every reader is spoiled at random, and commands are run on it. Half a minute
 * with a fixed seed; as long as wished with {@code -Dsober.fuzz.seconds}, from {@code
 * -Dsober.fuzz.seed}.
 */
class HostileInputTest {
  private static final long SECONDS = Long.getLong("sober.fuzz.seconds", 30);
  private static final long SEED = Long.getLong("sober.fuzz.seed", 20261129);
  private static final long PATIENCE_SECONDS = 60;

  /** Done, no, wrong input, source, undecided; 2 when a name that was asked for is gone. */
  private static final Set<Integer> FINE = Set.of(0, 1, 2, 3, 4, 6);

  private static final List<List<String>> COMMANDS =
      List.of(
          List.of("findings"),
          List.of("findings", "--detail", "1"),
          List.of("report", "page.html"),
          List.of("list", "holdings"),
          List.of("list", "memberships", "--format", "csv"),
          List.of("show", "account", "ilse.brandt"),
          List.of("holders", "orders:payments:sign", "--below"),
          List.of("routes", "ilse.brandt", "orders:payments:sign"),
          List.of("trial", "joss.merrin", "orders"),
          List.of("delegations", "--tree"),
          List.of("reach", "desks"),
          List.of("expect"),
          List.of("fit"),
          List.of("roles"),
          List.of("drift"),
          List.of("can", "--questions", "questions.csv"),
          List.of("can", "--questions", "questions.jsonl"),
          List.of("survey"));

  @TempDir Path folder;

  @Test
  void noInputMakesTheProgramFault() throws Exception {
    Path whole = folder.resolve("whole");
    FullWorkspace.write(whole);
    long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(SECONDS);
    List<String> faults = new ArrayList<>();
    Map<Integer, Integer> codes = new TreeMap<>();
    var worker = Executors.newSingleThreadExecutor(task -> daemon(task));
    long seed = SEED;
    for (; System.nanoTime() < end && faults.size() < 20; seed++) {
      Path root = folder.resolve("w");
      OwnFiles.discard(root);
      copy(whole, root);
      Mutator mutator = new Mutator(seed);
      List<Path> files = files(root);
      Path file = files.get(mutator.next(files.size()));
      String done = mutator.spoil(file, files);
      List<String> command =
          mutator.chance(3) ? List.of("check") : COMMANDS.get(mutator.next(COMMANDS.size()));
      String what = "seed " + seed + ": " + root.relativize(file) + " " + done + ", " + command;
      StringWriter said = new StringWriter();
      Future<Integer> run = worker.submit(() -> run(root, command, said));
      try {
        int code = run.get(PATIENCE_SECONDS, TimeUnit.SECONDS);
        codes.merge(code, 1, Integer::sum);
        if (!FINE.contains(code)) {
          faults.add(what + "\n" + said);
        }
      } catch (TimeoutException e) {
        faults.add(what + " does not end");
        worker.shutdownNow();
        worker = Executors.newSingleThreadExecutor(task -> daemon(task));
      }
    }
    worker.shutdownNow();
    System.out.println("Hostile input: " + (seed - SEED) + " inputs, exit codes " + codes);
    assertThat(faults).isEmpty();
    assertThat(codes.keySet()).contains(0, 3);
  }

  private static Thread daemon(Runnable task) {
    Thread thread = new Thread(task);
    thread.setDaemon(true);
    return thread;
  }

  private static int run(Path root, List<String> command, StringWriter said) {
    List<String> typed = new ArrayList<>(command);
    for (int i = 1; i < typed.size(); i++) {
      if (typed.get(i).matches(".*[.](html|csv|jsonl)")) {
        typed.set(i, root.resolve(typed.get(i)).toString());
      }
    }
    typed.addAll(List.of("--workspace", root.toString()));
    PrintWriter err = new PrintWriter(said);
    return Sober.run(
        new PrintWriter(java.io.Writer.nullWriter()), err, typed.toArray(String[]::new));
  }

  private static List<Path> files(Path root) throws IOException {
    try (var all = Files.walk(root)) {
      return all.filter(Files::isRegularFile).sorted().toList();
    }
  }

  private static void copy(Path from, Path to) throws IOException {
    for (Path file : files(from)) {
      Path target = to.resolve(from.relativize(file).toString());
      Files.createDirectories(target.getParent());
      Files.copy(file, target);
    }
  }
}
