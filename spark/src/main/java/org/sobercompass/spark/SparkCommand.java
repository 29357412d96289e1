package org.sobercompass.spark;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Collection;
import java.util.Locale;
import java.util.Set;
import java.util.function.Function;
import org.apache.spark.SparkConf;
import org.apache.spark.SparkException;
import org.apache.spark.api.java.function.MapFunction;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Encoders;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.RowFactory;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.types.DataTypes;
import org.apache.spark.sql.types.StructType;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.report.data.RowWriter;
import org.sobercompass.sources.workspace.Workspace;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/**
 * The command. On this machine with all its cores, unless it was given to spark-submit or told
 * where a cluster is.
 */
@Command(
    name = "sober-spark",
    mixinStandardHelpOptions = true,
    description = "The questions of sober over more accounts than one machine should take.",
    footer = {
      "",
      "Exit codes: 0 done, 2 mistyped, 3 wrong input, 4 cannot be reached or written, 5 fault of"
          + " the program."
    })
public final class SparkCommand {
  private static final int USAGE = 2;
  private static final int INPUT = 3;
  private static final int OUTSIDE = 4;
  private static final int FAULT = 5;

  @Option(
      names = "--cluster",
      paramLabel = "ADDRESS",
      scope = CommandLine.ScopeType.INHERIT,
      description =
          "Where the cluster is, as Spark writes it; else this machine with all its cores.")
  private String cluster = "";

  private final PrintWriter out;

  private SparkCommand(PrintWriter out) {
    this.out = out;
  }

  /** Runs and ends the process with the exit code. */
  public static void main(String[] args) {
    System.exit(run(args));
  }

  static int run(String... args) {
    PrintWriter out = new PrintWriter(System.out, true, StandardCharsets.UTF_8);
    PrintWriter err = new PrintWriter(System.err, true, StandardCharsets.UTF_8);
    return new CommandLine(new SparkCommand(out))
        .setOut(out)
        .setErr(err)
        .setExecutionExceptionHandler((e, line, result) -> told(e, err))
        .execute(args);
  }

  private static int told(Exception e, PrintWriter err) {
    if (e instanceof UnknownNameException) {
      err.println("sober-spark: " + e.getMessage());
      return USAGE;
    }
    if (e instanceof OutsideException) {
      err.println("sober-spark: " + e.getMessage());
      return OUTSIDE;
    }
    if (e instanceof BadInputException bad) {
      bad.problems().forEach(problem -> err.println("sober-spark: " + problem));
      return INPUT;
    }
    if (e instanceof IOException || e instanceof IllegalArgumentException) {
      err.println("sober-spark: " + e.getMessage());
      return INPUT;
    }
    err.println("sober-spark: " + (e instanceof SparkException ? e.getMessage() : e));
    return FAULT;
  }

  private SparkSession session() {
    SparkConf conf = new SparkConf();
    if (!cluster.isEmpty()) {
      conf.setMaster(cluster);
    } else if (!conf.contains("spark.master")) {
      conf.setMaster("local[*]");
    }
    if (conf.get("spark.master").startsWith("local")) {
      conf.setIfMissing("spark.driver.bindAddress", "127.0.0.1");
      conf.setIfMissing("spark.driver.host", "127.0.0.1");
    }
    conf.setIfMissing("spark.ui.enabled", "false");
    conf.setIfMissing("spark.ui.showConsoleProgress", String.valueOf(System.console() != null));
    conf.setIfMissing("spark.hadoop.fs.permissions.umask-mode", "077");
    SparkSession spark = SparkSession.builder().appName("sober-spark").config(conf).getOrCreate();
    spark.sparkContext().setLogLevel("ERROR");
    return spark;
  }

  @Command(
      name = "lay-out",
      mixinStandardHelpOptions = true,
      description = "Lays a workspace or a survey out for parts: once, on a machine that it fits.")
  int layOut(
      @Parameters(paramLabel = "FROM", description = "A workspace, or the file of a survey.")
          Path from,
      @Parameters(paramLabel = "FOLDER", description = "A new folder.") Path folder,
      @Option(
              names = "--table",
              paramLabel = "ADDRESS",
              description = "Where the table of accounts goes, if not into the folder.",
              defaultValue = "")
          String table)
      throws IOException {
    free(folder);
    Workspace workspace =
        Files.isRegularFile(from) ? Workspace.ofSurvey(from, Set.of()) : Workspace.open(from);
    try (SparkSession spark = session()) {
      Layout layout = Layout.write(spark, workspace, folder, table);
      out.printf(
          Locale.ROOT,
          "%,d accounts are laid out in %s; %,.1f MB go to every worker.%n",
          layout.accounts(),
          folder,
          layout.sharedBytes() / 1e6);
      if (!layout.rulesOverActions().isEmpty()) {
        out.println(
            "Separation rules over admin actions are left out, since the lists of directories are"
                + " not laid out: "
                + String.join(", ", layout.rulesOverActions()));
      }
      return 0;
    }
  }

  /** What all questions ask for. */
  static final class Common {
    @Parameters(index = "0", paramLabel = "FOLDER", description = "Where lay-out put it.")
    private Path folder = Path.of("");

    @Parameters(index = "1", paramLabel = "OUT", description = "A new folder for the answer.")
    private Path target = Path.of("");

    @Option(
        names = "--parts",
        paramLabel = "N",
        description = "Into how many parts; else one a core, of 100,000 accounts at most.")
    private int parts;

    @Option(
        names = {"-f", "--form"},
        paramLabel = "FORM",
        description = "parquet or csv; else parquet.")
    private String form = "parquet";
  }

  @Command(
      name = "holdings",
      mixinStandardHelpOptions = true,
      description = "All effective permissions of all accounts.")
  int holdings(@CommandLine.Mixin Common common) throws IOException {
    return answer(common, "holdings", Jobs::holdings);
  }

  @Command(
      name = "holders",
      mixinStandardHelpOptions = true,
      description = "Who holds a permission on a resource.")
  int holders(
      @CommandLine.Mixin Common common,
      @Parameters(
              index = "2",
              paramLabel = "PERMISSION",
              description = "application:area:level; several joined by +")
          String permission,
      @Option(
              names = "--at",
              paramLabel = "NODE",
              description = "the node (default: the top)",
              defaultValue = "")
          String at)
      throws IOException {
    return answer(common, "holders", jobs -> jobs.holders(permission, at));
  }

  @Command(
      name = "separation",
      mixinStandardHelpOptions = true,
      description = "Who breaks which separation rule, per account or person as the rule says.")
  int separation(@CommandLine.Mixin Common common) throws IOException {
    return answer(common, "broken rules", Jobs::separation);
  }

  @Command(
      name = "peers",
      mixinStandardHelpOptions = true,
      description = "Rights that hardly any peer of an account holds.")
  int peers(@CommandLine.Mixin Common common) throws IOException {
    return answer(common, "findings", Jobs::peers);
  }

  @Command(
      name = "drift",
      mixinStandardHelpOptions = true,
      description = "Permissions by what was read and not by what was agreed, and the reverse.")
  int drift(@CommandLine.Mixin Common common) throws IOException {
    return answer(common, "differences", Jobs::drift);
  }

  private int answer(Common common, String what, Function<Jobs, Dataset<Row>> question)
      throws IOException {
    if (!common.form.equals("parquet") && !common.form.equals("csv")) {
      throw new IllegalArgumentException(
          "--form " + common.form + ": this is no form; expected parquet or csv");
    }
    free(common.target);
    long begin = System.nanoTime();
    Layout layout = Layout.open(common.folder);
    try (SparkSession spark = session()) {
      Work work = new Work();
      spark.sparkContext().addSparkListener(work);
      Jobs jobs = new Jobs(spark, layout, common.parts);
      Dataset<Row> rows = question.apply(jobs);
      String target = common.target.toUri().toString();
      if (common.form.equals("csv")) {
        flat(rows).write().option("header", true).csv(target);
      } else {
        rows.write().parquet(target);
      }
      long count = count(spark, common.form, target);
      out.printf(
          Locale.ROOT,
          "%,d %s of %,d accounts, in %d parts, are in %s (%.1f s; %s).%n",
          count,
          what,
          layout.accounts(),
          jobs.parts(),
          common.target,
          (System.nanoTime() - begin) / 1e9,
          told(work));
      return 0;
    }
  }

  private static String told(Work work) {
    Collection<Double> seconds = work.seconds();
    double all = seconds.stream().mapToDouble(Double::doubleValue).sum();
    double most = seconds.stream().mapToDouble(Double::doubleValue).max().orElse(0);
    return seconds.size() < 2
        ? String.format(Locale.ROOT, "%.1f s of processor time", all)
        : String.format(
            Locale.ROOT,
            "%.1f s of processor time, at most %.1f s on one of %d workers",
            all,
            most,
            seconds.size());
  }

  private static long count(SparkSession spark, String form, String target) {
    return form.equals("csv")
        ? spark.read().option("header", true).csv(target).count()
        : spark.read().parquet(target).count();
  }

  /** Every cell as one text, since a table of texts has no lists. */
  private static Dataset<Row> flat(Dataset<Row> rows) {
    StructType texts = new StructType();
    for (String column : rows.columns()) {
      texts = texts.add(column, DataTypes.StringType);
    }
    MapFunction<Row, Row> flat =
        row -> {
          Object[] cells = new Object[row.size()];
          for (int i = 0; i < cells.length; i++) {
            cells[i] =
                RowWriter.csvText(
                    row.get(i) instanceof scala.collection.Iterable<?>
                        ? row.getList(i)
                        : row.get(i));
          }
          return RowFactory.create(cells);
        };
    return rows.map(flat, Encoders.row(texts));
  }

  private static void free(Path folder) throws IOException {
    if (Files.exists(folder)) {
      throw new IOException(folder + " is there already; expected a new folder");
    }
    Path parent = folder.toAbsolutePath().getParent();
    if (parent == null || !Files.isDirectory(parent)) {
      throw new IOException(folder + ": there is no folder " + parent + " to put it in");
    }
  }
}
