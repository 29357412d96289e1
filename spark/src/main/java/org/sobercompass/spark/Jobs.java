package org.sobercompass.spark;

import java.io.Serializable;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.apache.spark.api.java.function.MapPartitionsFunction;
import org.apache.spark.broadcast.Broadcast;
import org.apache.spark.sql.Column;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Encoders;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.RowFactory;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.functions;
import org.apache.spark.sql.types.StructType;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.system.Basis;
import org.sobercompass.organization.Names;
import org.sobercompass.report.answers.Dumps;
import org.sobercompass.report.findings.FindingWords;
import scala.jdk.javaapi.CollectionConverters;

/**
 * Questions over all accounts, as jobs. Accounts are parted by what a question needs together: by
 * nothing but their number for holdings, holders and drift, by person for separation of duties, by
 * the values that make peers for peers. Each part is answered by the code for one machine.
 */
public final class Jobs {
  private static final int ACCOUNTS_AT_ONCE = 64;
  private static final int ACCOUNTS_PER_PART = 100_000;

  private final SparkSession spark;
  private final Layout layout;
  private final Broadcast<Shared> shared;
  private final int parts;

  /**
   * Jobs over an organization that was laid out.
   *
   * @param parts into how many parts; 0 for one a core, and at most 100,000 accounts in each
   */
  public Jobs(SparkSession spark, Layout layout, int parts) {
    this.spark = spark;
    this.layout = layout;
    this.parts =
        parts > 0
            ? parts
            : (int)
                Math.max(
                    spark.sparkContext().defaultParallelism(),
                    (layout.accounts() + ACCOUNTS_PER_PART - 1) / ACCOUNTS_PER_PART);
    this.shared =
        spark
            .sparkContext()
            .broadcast(layout.shared(), scala.reflect.ClassTag$.MODULE$.apply(Shared.class));
  }

  /** Into how many parts the accounts go. */
  public int parts() {
    return parts;
  }

  /** Answers for one part. */
  @FunctionalInterface
  private interface Answer extends Serializable {
    Iterator<Row> of(Part part);
  }

  private Dataset<Row> run(Dataset<Row> accounts, StructType schema, Answer answer) {
    Dataset<Row> named = layout.table(spark).filter(functions.col(AccountTable.NAMED));
    return run(accounts, everywhere(new ArrayList<>(named.collectAsList())), schema, answer);
  }

  private Dataset<Row> run(
      Dataset<Row> accounts, Broadcast<ArrayList<Row>> guests, StructType schema, Answer answer) {
    Broadcast<Shared> everywhere = shared;
    MapPartitionsFunction<Row, Row> whole =
        rows ->
            rows.hasNext()
                ? answer.of(new Part(everywhere.value(), rows, guests.value()))
                : Collections.emptyIterator();
    return accounts.mapPartitions(whole, Encoders.row(schema));
  }

  private Broadcast<ArrayList<Row>> everywhere(ArrayList<Row> rows) {
    return spark
        .sparkContext()
        .broadcast(rows, scala.reflect.ClassTag$.MODULE$.apply(ArrayList.class));
  }

  private Dataset<Row> byNumber() {
    return layout.table(spark).repartitionByRange(parts, functions.col("number"));
  }

  private Dataset<Row> by(Column key) {
    return layout.table(spark).repartition(parts, key);
  }

  /** All effective permissions: the rows of `sober list --holdings`. */
  public Dataset<Row> holdings() {
    return run(byNumber(), Tables.HOLDINGS, Jobs::holdings);
  }

  private static Iterator<Row> holdings(Part part) {
    AccessModel model = part.model(Optional.empty());
    Set<String> guests = part.guests();
    Dumps dumps = new Dumps(model);
    Asker asker = model.asker();
    return inRuns(
        model.facts().accounts(),
        range ->
            dumps.chunk("holdings", asker, range).stream()
                .filter(cells -> !guests.contains(cells.get(0)))
                .map(Jobs::row)
                .toList());
  }

  /** Cells as they are, lists as sequences. */
  private static Row row(List<Object> cells) {
    Object[] out = new Object[cells.size()];
    for (int i = 0; i < out.length; i++) {
      out[i] =
          cells.get(i) instanceof List<?> list
              ? CollectionConverters.asScala(list).toSeq()
              : cells.get(i);
    }
    return RowFactory.create(out);
  }

  /**
   * Who holds permissions at a node, with what {@code sober holders} says of each.
   *
   * @param permissions {@code application:area:level}, or several joined by {@code +}
   * @param node the id of a node; empty for the top
   * @throws org.sobercompass.core.problem.UnknownNameException when there is no such thing, before
   *     any work is given to workers
   */
  public Dataset<Row> holders(String permissions, String node) {
    Part nobody = new Part(layout.shared(), Collections.emptyIterator(), List.of());
    asked(nobody.model(Optional.empty()), permissions, node);
    return run(byNumber(), Tables.HOLDERS, part -> holders(part, permissions, node));
  }

  private static Asked.Use asked(AccessModel model, String permissions, String node) {
    Names names = Names.of(model);
    return names.at(names.rights(permissions), node);
  }

  private static Iterator<Row> holders(Part part, String permissions, String node) {
    AccessModel model = part.model(Optional.empty());
    Asked.Use asked = asked(model, permissions, node);
    Facts facts = part.facts();
    return new Holders(model.asker())
        .together(asked.view(), asked.question()).stream()
            .filter(holder -> part.isOwn(holder.account()))
            .map(
                holder ->
                    row(
                        List.of(
                            facts.key(holder.account()).text(),
                            facts.login(holder.account()),
                            holder.state().word(),
                            holder.reasons())))
            .iterator();
  }

  /**
   * Who breaks which separation rule, by persons where the rule is: one row a rule and person, with
   * the accounts that hold something of it. Rules over admin actions are left out.
   */
  public Dataset<Row> separation() {
    Set<String> left = new HashSet<>(layout.rulesOverActions());
    return run(
        by(functions.col(AccountTable.PERSON)), Tables.SEPARATION, part -> separation(part, left));
  }

  private static Iterator<Row> separation(Part part, Set<String> left) {
    List<SeparationRule> rules =
        part.rules().separation().stream().filter(rule -> !left.contains(rule.id())).toList();
    Facts facts = part.facts();
    List<Row> rows = new ArrayList<>();
    Findings.broken(
        part.assessment(FindingRules.of(rules)),
        (rule, accounts) -> {
          if (accounts.stream().allMatch(part::isOwn)) {
            rows.add(row(List.of(rule, accounts.stream().map(a -> facts.key(a).text()).toList())));
          }
        });
    return rows.iterator();
  }

  /**
   * Rights that hardly any peer of an account holds: the findings of that kind. What comes by a
   * group with others in it is agreed, so every part knows two members of each group, who are
   * nobody's peers there.
   */
  public Dataset<Row> peers() {
    Column peers = functions.col(AccountTable.PEERS);
    Column attributes = functions.col("attributes");
    Object[] named = layout.peers().toArray();
    Dataset<Row> companions =
        layout
            .table(spark)
            .filter(functions.col(AccountTable.COMPANION).or(functions.col(AccountTable.NAMED)))
            .withColumn(
                "attributes",
                functions.map_filter(
                    attributes, (name, values) -> functions.not(name.isin(named))));
    return run(
        by(peers).filter(peers.isNotNull()),
        everywhere(new ArrayList<>(companions.collectAsList())),
        Tables.PEERS,
        part -> {
          Set<FindingKind> others = EnumSet.allOf(FindingKind.class);
          others.remove(FindingKind.PEER_OUTLIER);
          List<Row> rows = new ArrayList<>();
          Findings.of(part.assessment(part.rules().notLookingFor(others)))
              .forEach(
                  finding ->
                      rows.add(
                          row(
                              List.of(
                                  finding.weight().word(),
                                  finding.system(),
                                  FindingWords.sentence(finding),
                                  finding.subjects().stream().map(key -> key.text()).toList()))));
          return rows.iterator();
        });
  }

  /** What accounts hold by what was read and not by what was agreed, and the other way round. */
  public Dataset<Row> drift() {
    return run(byNumber(), Tables.DRIFT, part -> drift(part));
  }

  private static Iterator<Row> drift(Part part) {
    AccessModel agreed = part.model(Optional.of(Basis.INTENDED));
    AccessModel read = part.model(Optional.of(Basis.ACTUAL));
    Dumps ofAgreed = new Dumps(agreed);
    Dumps ofRead = new Dumps(read);
    Asker askAgreed = agreed.asker();
    Asker askRead = read.asker();
    Set<String> guests = part.guests();
    return inRuns(
        part.facts().accounts(),
        range -> {
          List<Row> rows = new ArrayList<>();
          List<List<Object>> left = ofAgreed.chunk("holdings", askAgreed, range);
          List<List<Object>> right = ofRead.chunk("holdings", askRead, range);
          left.removeIf(cells -> guests.contains(cells.get(0)));
          right.removeIf(cells -> guests.contains(cells.get(0)));
          only("actual", right, new HashSet<>(left), agreed, rows);
          only("intended", left, new HashSet<>(right), agreed, rows);
          return rows;
        });
  }

  private static void only(
      String basis,
      List<List<Object>> all,
      Set<List<Object>> others,
      AccessModel model,
      List<Row> rows) {
    for (List<Object> cells : all) {
      boolean both =
          model.system((String) cells.get(2)).filter(v -> v.system().hasBothBases()).isPresent();
      if (both && !others.contains(cells)) {
        List<Object> row = new ArrayList<>(List.of(basis));
        row.addAll(cells);
        rows.add(row(row));
      }
    }
  }

  private interface OfRun {
    List<Row> of(Bulk.Range range);
  }

  /** Rows run by run, so that the memory does not grow with the answer. */
  private static Iterator<Row> inRuns(int accounts, OfRun work) {
    return new Iterator<>() {
      private int next;
      private Iterator<Row> rows = Collections.emptyIterator();

      @Override
      public boolean hasNext() {
        while (!rows.hasNext() && next < accounts) {
          int to = Math.min(accounts, next + ACCOUNTS_AT_ONCE);
          rows = work.of(new Bulk.Range(next, to)).iterator();
          next = to;
        }
        return rows.hasNext();
      }

      @Override
      public Row next() {
        if (!hasNext()) {
          throw new java.util.NoSuchElementException();
        }
        return rows.next();
      }
    };
  }
}
