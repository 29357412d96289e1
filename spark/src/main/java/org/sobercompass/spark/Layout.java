package org.sobercompass.spark;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.SaveMode;
import org.apache.spark.sql.SparkSession;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.AccountRow;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsParts;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.system.Basis;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.workspace.Mapping;
import org.sobercompass.sources.workspace.Workspace;

/**
 * An organization laid out for parts, in a folder that is its owner's alone: groups.bin (groups and
 * units, without accounts), mapping (the files of the workspace), layout.properties, and accounts,
 * a Parquet table with one row an account. The table may stand elsewhere, where all workers reach
 * it.
 */
public final class Layout {
  private static final String GROUPS = "groups.bin";
  private static final String MAPPING = "mapping";
  private static final String PROPERTIES = "layout.properties";
  private static final String ACCOUNTS = "accounts";
  private static final int ROWS_PER_FILE = 50_000;

  private final Shared shared;
  private final String accounts;
  private final Properties properties;

  private Layout(Shared shared, String accounts, Properties properties) {
    this.shared = shared;
    this.accounts = accounts;
    this.properties = properties;
  }

  /**
   * Lays a workspace out. It must fit this machine once; 1,000,000 accounts need 3 GB.
   *
   * @param folder a new folder
   * @param table where the table of accounts goes, or empty for the folder
   * @throws IOException when the folder is there already or cannot be written
   */
  public static Layout write(SparkSession spark, Workspace workspace, Path folder, String table)
      throws IOException {
    if (Files.exists(folder)) {
      throw new IOException(folder + " is there already; expected a new folder");
    }
    OwnFiles.folder(folder);
    Facts facts = workspace.facts();
    OwnFiles.write(
        folder.resolve(GROUPS), out -> out.write(Mapping.bytes(FactsParts.frame(facts))));
    Folder mapping = new Folder(folder.resolve(MAPPING), true);
    for (Map.Entry<String, Path> file : Mapping.files(workspace.root()).entrySet()) {
      Path to = mapping.resolve(file.getKey());
      OwnFiles.write(to, out -> Files.copy(file.getValue(), out));
    }
    String accounts = table.isEmpty() ? folder.resolve(ACCOUNTS).toUri().toString() : table;
    writeAccounts(spark, workspace, accounts);
    Properties properties = new Properties();
    properties.setProperty("id", UUID.randomUUID().toString());
    properties.setProperty("time", "" + workspace.usualTime().getEpochSecond());
    properties.setProperty("accounts", "" + facts.accounts());
    properties.setProperty("groups", "" + facts.groups());
    properties.setProperty("table", accounts);
    properties.setProperty("peers", String.join(" ", workspace.rules().peers()));
    properties.setProperty("over-actions", String.join(" ", overActions(workspace)));
    OwnFiles.write(
        folder.resolve(PROPERTIES),
        out -> properties.store(out, "An organization laid out for parts"));
    return open(folder);
  }

  private static void writeAccounts(SparkSession spark, Workspace workspace, String accounts) {
    Facts facts = workspace.facts();
    BitSet companions = companions(facts);
    BitSet named = named(workspace);
    for (int from = 0; from < facts.accounts(); from += ROWS_PER_FILE) {
      List<Row> rows = new ArrayList<>();
      for (int a = from; a < Math.min(facts.accounts(), from + ROWS_PER_FILE); a++) {
        rows.add(
            AccountTable.of(
                AccountRow.of(facts, a),
                workspace.persons().person(a),
                peers(workspace, a),
                companions.get(a),
                named.get(a)));
      }
      spark
          .createDataFrame(rows, AccountTable.SCHEMA)
          .coalesce(1)
          .write()
          .mode(from == 0 ? SaveMode.ErrorIfExists : SaveMode.Append)
          .parquet(accounts);
    }
  }

  /** The rules over admin actions: the lists of a directory are not laid out. */
  private static List<String> overActions(Workspace workspace) {
    return workspace.rules().separation().stream()
        .filter(
            rule ->
                rule.sides().stream()
                    .anyMatch(side -> side.stream().anyMatch(Side.Act.class::isInstance)))
        .map(SeparationRule::id)
        .toList();
  }

  /**
   * The accounts that the mapping names itself, by assignments, registers, or as exceptions of
   * rules. What a name fits depends on all accounts, so these go to every part.
   */
  private static BitSet named(Workspace workspace) {
    BitSet named = new BitSet();
    for (SystemView view : workspace.model().systems()) {
      for (Basis basis : Basis.values()) {
        view.system().grants(basis).forEach(grant -> set(named, grant.subject()));
      }
      IntList trustees = view.decider().trustees();
      for (int i = 0; i < trustees.size(); i++) {
        set(named, trustees.get(i));
      }
      view.admission()
          .register()
          .ifPresent(lines -> lines.forEach(line -> set(named, line.subject())));
    }
    workspace
        .rules()
        .separation()
        .forEach(rule -> rule.except().forEach(subject -> set(named, subject)));
    named.clear(workspace.facts().accounts(), workspace.facts().subjects() + 1);
    return named;
  }

  private static void set(BitSet named, int subject) {
    if (subject >= 0) {
      named.set(subject);
    }
  }

  /** Two accounts of those that each group lists: enough to know that there are others. */
  private static BitSet companions(Facts facts) {
    BitSet companions = new BitSet();
    IntRows members = facts.arrays().memberships().down().rows();
    for (int group = facts.firstGroup(); group < facts.firstGroup() + facts.groups(); group++) {
      int last = -1;
      int found = 0;
      for (int at = members.start(group); at < members.end(group) && found < 2; at++) {
        int member = members.at(at);
        if (member < facts.accounts() && member != last) {
          companions.set(member);
          last = member;
          found++;
        }
      }
    }
    return companions;
  }

  /** What is equal for peers: the values of the attributes that the workspace names. */
  private static String peers(Workspace workspace, int account) {
    StringBuilder all = new StringBuilder();
    for (String attribute : workspace.rules().peers()) {
      List<String> values = workspace.facts().values(account, attribute);
      if (values.isEmpty()) {
        return "";
      }
      all.append(String.join("\u0001", values)).append('\u0002');
    }
    return all.toString();
  }

  /**
   * Opens what {@link #write} wrote.
   *
   * @throws IOException when it is not there or not whole
   */
  public static Layout open(Path folder) throws IOException {
    if (!Files.isRegularFile(folder.resolve(PROPERTIES))) {
      throw new IOException(
          folder + ": no organization is laid out here; the command lay-out makes such a folder");
    }
    Properties properties = new Properties();
    try (InputStream in = Files.newInputStream(folder.resolve(PROPERTIES))) {
      properties.load(in);
    }
    TreeMap<String, byte[]> files = new TreeMap<>();
    Path mapping = folder.resolve(MAPPING);
    try (var all = Files.walk(mapping)) {
      for (Path file : all.filter(Files::isRegularFile).toList()) {
        files.put(mapping.relativize(file).toString(), Files.readAllBytes(file));
      }
    }
    Shared shared =
        new Shared(
            properties.getProperty("id"),
            Files.readAllBytes(folder.resolve(GROUPS)),
            files,
            Long.parseLong(properties.getProperty("time")));
    return new Layout(shared, properties.getProperty("table"), properties);
  }

  /** What goes to every worker. */
  Shared shared() {
    return shared;
  }

  /** How many accounts there are. */
  public long accounts() {
    return Long.parseLong(properties.getProperty("accounts"));
  }

  /** How many bytes go to every worker. */
  public long sharedBytes() {
    return shared.size();
  }

  /** The separation rules that are not asked here, since they are over admin actions. */
  public List<String> rulesOverActions() {
    String ids = properties.getProperty("over-actions");
    return ids.isEmpty() ? List.of() : List.of(ids.split(" "));
  }

  /** The attributes that make peers. */
  Set<String> peers() {
    return new HashSet<>(List.of(properties.getProperty("peers").split(" ")));
  }

  /** The table of accounts. */
  public Dataset<Row> table(SparkSession spark) {
    return spark.read().schema(AccountTable.SCHEMA).parquet(accounts);
  }
}
