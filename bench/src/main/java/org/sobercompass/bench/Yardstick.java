package org.sobercompass.bench;

import com.unboundid.ldif.LDIFReader;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Locale;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.Supplier;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.report.answers.Dumps;
import org.sobercompass.sources.directory.DirectoryKind;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.directory.LdifSource;
import org.sobercompass.sources.workspace.Workspace;

/**
 * Measures one generated workspace in one run: reading against the library's bare parsing, sweeping
 * against plain arrays and a naive script, single questions, batches, findings, writing. Each
 * figure is the best and the median of several tries. Ten thousand sampled answers of the sweep are
 * held against {@code can}.
 */
public final class Yardstick {
  private static final int WRITTEN = 2_000;
  private static final long WARM_UP = 3_000_000_000L;

  private final Path root;
  private final int tries;

  private Yardstick(Path root, int tries) {
    this.root = root;
    this.tries = tries;
  }

  /** {@code Yardstick DIR [TRIES]}. */
  public static void main(String[] args) throws IOException {
    int tries = args.length > 1 ? Integer.parseInt(args[1]) : 5;
    Yardstick yardstick = new Yardstick(Path.of(args[0]), tries);
    if (args.length > 2) {
      yardstick.only(args[2]);
    } else {
      yardstick.run();
    }
  }

  /** One part only: reading, or else the sweep. */
  private void only(String part) throws IOException {
    if (part.equals("reading")) {
      for (int i = 0; i < tries; i++) {
        reading();
      }
    } else {
      AccessModel model = Workspace.open(root).model();
      rivals(model);
      warm("memberships alone, one thread", tries, () -> memberships(model));
      warm("swept and counted by the deciders, 1 thread", tries, () -> sweep(model, 1));
      warm("swept and counted by the deciders, 2 threads", tries, () -> sweep(model, 2));
    }
  }

  private void run() throws IOException {
    reading();
    Workspace workspace =
        timed("workspace opened (with its cache if it has one)", 2, () -> Workspace.open(root));
    AccessModel model = workspace.model();
    System.out.printf(
        Locale.ROOT,
        "%d accounts, %d groups, %d memberships, %d systems, %d assignments%n",
        model.facts().accounts(),
        model.facts().groups(),
        model.facts().arrays().up().items(),
        model.systems().size(),
        model.systems().stream().mapToInt(v -> v.grants().size()).sum());
    rivals(model);
    boolean flat = model.systems().stream().allMatch(v -> v.resources().size() == 1);
    if (flat) {
      int part = Math.max(1, model.facts().accounts() / 50);
      timed("naive script, 1 account of 50", 1, () -> NaiveScript.count(model, part));
      SqlEngine.count(
          workspace.assessment(model),
          timed(
              "(for comparison with the SQL engine) plain arrays again",
              1,
              () -> PlainArrays.count(model)));
    }
    for (int threads : new int[] {1, 2}) {
      long count =
          timed(
              "swept and counted by the deciders, " + threads + " thread(s)",
              tries,
              () -> sweep(model, threads));
      System.out.println("  " + count + " account-system-node-permissions");
    }
    sampled(model);
    SingleQuestions.time(model, tries);
    timed("holdings of 2,000 accounts written as JSON lines", 3, () -> write(model));
    Asker asker = model.asker();
    long rows = 0;
    for (int account = 0; account < WRITTEN; account++) {
      rows += asker.holdings(account).size();
    }
    System.out.println("  " + rows + " rows");
    FindingsYardstick.separation(workspace.assessment(model), tries);
    System.gc();
    long used = Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory();
    System.out.printf(Locale.ROOT, "memory kept after all that: %d MB%n", used >> 20);
  }

  /** The same counted by plain programs, where they can. */
  private void rivals(AccessModel model) throws IOException {
    if (!PlainArrays.canCount(model)) {
      return;
    }
    PlainArrays arrays = PlainArrays.of(model);
    warm("memberships alone, plain arrays, one thread", tries, arrays::pairs);
    PlainArrays.Counts counts = warm("plain arrays, one thread", tries, arrays::count);
    System.out.println(
        "  "
            + counts.pairs()
            + " account-group pairs, "
            + counts.permissions()
            + " account-node-permissions");
    NativeArrays.count(model, tries, counts);
  }

  private void reading() throws IOException {
    Path ldif = root.resolve("directory.ldif");
    double megabytes = Files.size(ldif) / 1e6;
    System.out.printf(Locale.ROOT, "LDIF of %.0f MB%n", megabytes);
    timed("library's bare parsing, one parse thread", 3, () -> bare(ldif));
    timed("read into facts", 3, () -> facts(ldif).subjects());
  }

  private static int bare(Path ldif) {
    try (InputStream in = new BufferedInputStream(Files.newInputStream(ldif), 1 << 16);
        LDIFReader reader = new LDIFReader(in, 1)) {
      int count = 0;
      while (reader.readLDIFRecord() != null) {
        count++;
      }
      return count;
    } catch (IOException | com.unboundid.ldif.LDIFException e) {
      throw new IllegalStateException(e);
    }
  }

  private static Facts facts(Path ldif) {
    Problems problems = new Problems();
    FactsBuilder builder = new FactsBuilder(Set.of(), DnForm::of, problems);
    new LdifSource("directory.ldif", DirectoryKind.STANDARD, builder.source("main"), problems)
        .read(ldif);
    problems.throwIfErrors();
    return builder.build();
  }

  /** All pairs of account and group. */
  static long memberships(AccessModel model) {
    Memberships memberships = model.systems().get(0).memberships();
    memberships.prepare();
    Memberships.Walker walker = memberships.walker();
    SubjectSet into = new SubjectSet();
    long pairs = 0;
    for (int account = 0; account < model.facts().accounts(); account++) {
      walker.subjects(account, into);
      pairs += into.sure().size() - 1;
    }
    return pairs;
  }

  /** Everything, by the same deciders that answer can. */
  static long sweep(AccessModel model, int threads) {
    BitSet all = new BitSet();
    all.set(0, model.systems().size());
    return sweep(model, threads, all);
  }

  /** The same of some systems. */
  static long sweep(AccessModel model, int threads, BitSet systems) {
    Bulk bulk = model.bulk().on(threads);
    LongAdder total = new LongAdder();
    bulk.inOrder(
        (asker, range) -> {
          Counter counter = new Counter();
          Bulk.cells(asker, range, systems, counter);
          return counter.count;
        },
        total::add);
    return total.sum();
  }

  /** Counts rights on resources. */
  private static final class Counter implements Bulk.Cells {
    private long count;

    @Override
    public void at(int account, SystemView view) {
      // It does not matter whose they are.
    }

    @Override
    public void cell(int resource, boolean below, int nodes, long[] yes, long[] perhaps) {
      int bits = 0;
      for (long word : yes) {
        bits += Long.bitCount(word);
      }
      count += (long) bits * nodes;
    }
  }

  private static void sampled(AccessModel model) {
    Random random = new Random(5);
    Asker asker = model.asker();
    int agreed = 0;
    for (int i = 0; i < 10_000; i++) {
      int account = random.nextInt(model.facts().accounts());
      SystemView view = model.systems().get(random.nextInt(model.systems().size()));
      int right = random.nextInt(view.rights().size());
      int node = random.nextInt(view.resources().size());
      boolean swept =
          asker.holdings(view, account).stream()
              .anyMatch(
                  h ->
                      h.right() == right
                          && view.resources().covers(h.resource(), node)
                          && (h.reach() != Holding.Reach.RESOURCE || h.resource() == node)
                          && h.excluded().stream()
                              .noneMatch(top -> view.resources().covers(top, node)));
      boolean asked = asker.can(view, account, right, node).verdict() == Verdict.YES;
      agreed += swept == asked ? 1 : 0;
    }
    System.out.println("sampled answers of the sweep that agree with can: " + agreed + " of 10000");
    if (agreed != 10_000) {
      throw new IllegalStateException("the sweep and can disagree");
    }
  }

  private long write(AccessModel model) {
    try (Writer nowhere =
        new OutputStreamWriter(OutputStream.nullOutputStream(), StandardCharsets.UTF_8)) {
      new Dumps(model, WRITTEN).jsonl("holdings", nowhere);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return WRITTEN;
  }

  /** The same after some seconds that do not count, in which the virtual machine compiles. */
  private static <T> T warm(String what, int tries, Supplier<T> work) {
    long begin = System.nanoTime();
    while (System.nanoTime() - begin < WARM_UP) {
      T unused = work.get();
    }
    return timed(what, tries, work);
  }

  static <T> T timed(String what, int tries, Supplier<T> work) {
    double[] seconds = new double[tries];
    T result = null;
    for (int i = 0; i < tries; i++) {
      long begin = System.nanoTime();
      result = work.get();
      seconds[i] = (System.nanoTime() - begin) / 1e9;
    }
    Arrays.sort(seconds);
    System.out.printf(
        Locale.ROOT, "%-58s best %7.3f s  median %7.3f s%n", what, seconds[0], seconds[tries / 2]);
    if (result == null) {
      throw new IllegalStateException(what + " gave nothing");
    }
    return result;
  }
}
