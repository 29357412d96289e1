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
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.Supplier;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Batch;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Limits;
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
    if (args.length > 2) {
      new Yardstick(Path.of(args[0]), tries).only(args[2]);
      return;
    }
    new Yardstick(Path.of(args[0]), tries).run();
  }

  /** One part only: reading, findings, or else the sweep. */
  private void only(String part) throws IOException {
    if (part.equals("reading")) {
      for (int i = 0; i < tries; i++) {
        reading();
      }
    } else if (part.equals("findings")) {
      findings(Workspace.open(root));
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
    questions(model);
    timed("holdings of 2,000 accounts written as JSON lines", 3, () -> write(model));
    Asker asker = model.asker();
    long rows = 0;
    for (int account = 0; account < WRITTEN; account++) {
      rows += asker.holdings(account).size();
    }
    System.out.println("  " + rows + " rows");
    findings(workspace);
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
    Bulk bulk = model.bulk().on(threads);
    LongAdder total = new LongAdder();
    bulk.inOrder(
        (asker, range) -> {
          Counter counter = new Counter();
          Bulk.cells(asker, range, counter);
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

  private void findings(Workspace workspace) {
    Assessment assessment = workspace.assessment(workspace.model());
    separation(assessment);
    timed("all findings with their evidence", tries, () -> Findings.of(assessment));
  }

  /** The rules of the workspace near and far, per account and per person, beside a sweep. */
  private static void separation(Assessment assessment) {
    for (SeparationRule.Where where : SeparationRule.Where.values()) {
      for (boolean perPerson : new boolean[] {false, true}) {
        List<SeparationRule> rules =
            assessment.rules().separation().stream().map(r -> r.held(where, perPerson)).toList();
        Assessment asked =
            new Assessment(
                assessment.model(),
                FindingRules.of(rules),
                assessment.persons(),
                assessment.powers(),
                assessment.owned(),
                assessment.readers(),
                assessment.accepted());
        timed(
            "(beside it) swept and counted by the deciders", 3, () -> sweep(assessment.model(), 2));
        Map<String, Integer> counts =
            timed(
                "separation of duties "
                    + where.word()
                    + (perPerson ? ", per person" : ", per account"),
                3,
                () -> Findings.conflicts(asked));
        int sum = counts.values().stream().mapToInt(Integer::intValue).sum();
        System.out.println("  " + sum + " conflicts with " + counts.size() + " rules");
      }
    }
  }

  private static void sampled(AccessModel model) {
    Random random = new Random(5);
    Asker asker = model.asker();
    Asker other = model.asker();
    int agreed = 0;
    for (int i = 0; i < 10_000; i++) {
      int account = random.nextInt(model.facts().accounts());
      SystemView view = model.systems().get(random.nextInt(model.systems().size()));
      int right = random.nextInt(view.rights().size());
      int node = random.nextInt(view.resources().size());
      boolean swept =
          other.holdings(view, account).stream()
              .anyMatch(
                  h ->
                      h.right() == right
                          && view.resources().covers(h.resource(), node)
                          && (h.reach() != org.sobercompass.core.access.Holding.Reach.RESOURCE
                              || h.resource() == node)
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

  private void questions(AccessModel model) {
    Random random = new Random(6);
    Asker asker = model.asker();
    int[] some = random.ints(2000, 0, model.facts().accounts()).toArray();
    each("one account's holdings", some, a -> asker.holdings(a).size());
    RouteFinder finder = new RouteFinder(asker, Limits.USUAL);
    each(
        "one decision with its routes",
        some,
        a -> {
          SystemView view = model.systems().get(a % model.systems().size());
          return finder
              .find(view, a, a % view.rights().size(), a % view.resources().size())
              .open()
              .size();
        });
    for (SystemView view : model.systems().subList(0, Math.min(3, model.systems().size()))) {
      each(
          "one permission's holders (" + view.system().combining() + ")",
          random.ints(40, 0, view.rights().size()).toArray(),
          r -> new Holders(asker).find(view, r, 0, false).size());
    }
    List<Batch.Item> items = new ArrayList<>();
    for (int i = 0; i < 300_000; i++) {
      SystemView view = model.systems().get(random.nextInt(model.systems().size()));
      items.add(
          new Batch.Item(
              random.nextInt(model.facts().accounts()),
              view,
              random.nextInt(view.rights().size()),
              random.nextInt(view.resources().size())));
    }
    timed(
        "300,000 questions in a batch",
        tries,
        () -> {
          List<Can> all = new Batch(model.asker()).answer(items);
          return all.size();
        });
  }

  private void each(String what, int[] items, java.util.function.IntUnaryOperator work) {
    long[] times = new long[items.length];
    long sum = 0;
    for (int round = 0; round < 2; round++) {
      for (int i = 0; i < items.length; i++) {
        long begin = System.nanoTime();
        sum += work.applyAsInt(items[i]);
        times[i] = System.nanoTime() - begin;
      }
    }
    java.util.Arrays.sort(times);
    System.out.printf(
        Locale.ROOT,
        "%-58s median %8.3f ms  99%% %8.3f ms  (mean answer %d)%n",
        what,
        times[times.length / 2] / 1e6,
        times[times.length * 99 / 100] / 1e6,
        sum / items.length / 2);
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

  private static <T> T timed(String what, int tries, Supplier<T> work) {
    double[] seconds = new double[tries];
    T result = null;
    for (int i = 0; i < tries; i++) {
      long begin = System.nanoTime();
      result = work.get();
      seconds[i] = (System.nanoTime() - begin) / 1e9;
    }
    java.util.Arrays.sort(seconds);
    System.out.printf(
        Locale.ROOT, "%-58s best %7.3f s  median %7.3f s%n", what, seconds[0], seconds[tries / 2]);
    if (result == null) {
      throw new IllegalStateException(what + " gave nothing");
    }
    return result;
  }
}
